/** Random numbers that come again with the same seed (mulberry32 of Tommy Ettinger, public domain). */
export class Random {
  constructor(seed) {
    this.state = seed >>> 0;
  }

  /** 0 to below 1 */
  next() {
    this.state = (this.state + 0x6d2b79f5) >>> 0;
    let t = this.state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 2 ** 32;
  }

  /** A whole number from one to another, both in. */
  between(from, to) {
    return from + Math.floor(this.next() * (to - from + 1));
  }

  /** @template T @param {readonly T[]} list @returns {T} */
  pick(list) {
    return list[this.between(0, list.length - 1)];
  }

  chance(part) {
    return this.next() < part;
  }

  bytes(count) {
    return Buffer.from(Array.from({ length: count }, () => this.between(0, 255)));
  }
}
