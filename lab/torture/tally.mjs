import { wrongWith } from './sentences.mjs';

/** Something that must not happen, happened. */
export class Broken extends Error {}

/** What a scenario has done and seen, in numbers. */
export class Tally {
  constructor() {
    /** @type {Record<string, number>} */
    this.counts = {};
    /** every sentence by which something was refused, once */
    this.sentences = new Set();
  }

  count(what, by = 1) {
    this.counts[what] = (this.counts[what] ?? 0) + by;
  }

  /** Takes note of a refusal. @throws Broken where it is no sentence */
  refusal(message, of) {
    this.count('refusals');
    this.sentences.add(message);
    const wrong = wrongWith(message);
    if (wrong) throw new Broken(`${of} was refused with "${message}", but ${wrong}`);
  }

  toString() {
    return Object.entries(this.counts)
      .map(([what, n]) => `${n} ${what}`)
      .join(', ');
  }
}
