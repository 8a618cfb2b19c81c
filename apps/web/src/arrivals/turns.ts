/** Work that is begun a few pieces at a time, in the order in which it came. */
export class Turns<Job extends { readonly key: number }> {
  private waiting: Job[] = [];
  private readonly underWay = new Set<number>();

  /** @param begin begins a piece of work; `ended` says when it is over, however it ended */
  constructor(
    private readonly atOnce: number,
    private readonly begin: (job: Job) => void,
  ) {}

  add(jobs: readonly Job[]): void {
    this.waiting.push(...jobs);
    this.next();
  }

  /** Takes back a piece of work that has not been begun; true where there was one. */
  withdraw(key: number): boolean {
    const before = this.waiting.length;
    this.waiting = this.waiting.filter((job) => job.key !== key);
    return this.waiting.length < before;
  }

  isUnderWay(key: number): boolean {
    return this.underWay.has(key);
  }

  ended(key: number): void {
    if (this.underWay.delete(key)) this.next();
  }

  private next(): void {
    while (this.underWay.size < this.atOnce) {
      const job = this.waiting.shift();
      if (!job) return;
      this.underWay.add(job.key);
      this.begin(job);
    }
  }
}
