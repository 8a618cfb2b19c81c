/** Seeded chance (mulberry32): the same seed composes the same piece. */
export class Chance {
  private state: number;

  constructor(seed: number) {
    this.state = (seed * 2654435761) >>> 0;
    this.next();
  }

  /** 0 to 1 */
  next(): number {
    this.state = (this.state + 0x6d2b79f5) >>> 0;
    let t = this.state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  }

  between(from: number, to: number): number {
    return from + (to - from) * this.next();
  }

  /** Both ends included. */
  whole(from: number, to: number): number {
    return Math.floor(this.between(from, to + 1));
  }

  is(likelihood: number): boolean {
    return this.next() < likelihood;
  }

  of<T>(list: readonly T[]): T {
    return list[Math.floor(this.next() * list.length)]!;
  }

  /** One of several, each with its weight. */
  weighed<T>(list: readonly (readonly [T, number])[]): T {
    let left = this.next() * list.reduce((sum, [, weight]) => sum + weight, 0);
    for (const [value, weight] of list) {
      left -= weight;
      if (left < 0) return value;
    }
    return list.at(-1)![0];
  }

  /** Normally distributed (Box and Muller). */
  normal(spread: number): number {
    return spread * Math.sqrt(-2 * Math.log(1 - this.next())) * Math.cos(2 * Math.PI * this.next());
  }
}
