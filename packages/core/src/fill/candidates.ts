import { ORDERS } from './orders/all.ts';
import type { FootageItem, Montage, Select } from '../document/montage.ts';
import { candidateKey, type FillOptions } from './fill-options.ts';
import { stretchesOf } from '../document/footage-item.ts';

interface Part {
  readonly in: number;
  readonly out: number;
}

/** A part shorter than this is not worth going on with, seconds. */
const LEAST_PART_S = 0.2;

/** A select that may be hung, and which parts of it were not used yet. */
export class Candidate {
  readonly key: string;
  private free: Part[];
  private longest = 0;
  /** pictures are unused once; a photo has no parts */
  fresh = true;
  /** whether any of it hangs, however often it has counted as unused again since */
  hung = false;

  constructor(
    readonly item: FootageItem,
    readonly select: Select,
  ) {
    this.key = candidateKey(item.assetId, select.id);
    this.free = [this.whole()];
    this.measure();
  }

  private whole(): Part {
    return this.item.kind === 'photo' ? { in: 0, out: Infinity } : { in: this.select.in, out: this.select.out };
  }

  /** The first unused part that is long enough, or else the longest; the whole select where nothing is left. */
  part(length: number): Part {
    const enough = this.free.find((p) => p.out - p.in >= length - 1e-6);
    if (enough) return enough;
    return (
      this.free.reduce<Part | null>((longest, p) => (!longest || p.out - p.in > longest.out - longest.in ? p : longest), null) ??
      this.whole()
    );
  }

  /** Seconds of the longest unused part. */
  get unused(): number {
    return this.longest;
  }

  private measure(): void {
    if (this.item.kind === 'photo') this.longest = this.fresh ? Infinity : 0;
    else {
      this.longest = 0;
      for (const p of this.free) this.longest = Math.max(this.longest, p.out - p.in);
    }
  }

  /** Seconds of the whole select. */
  get length(): number {
    const { in: from, out } = this.whole();
    return out - from;
  }

  use(from: number, to: number): void {
    this.fresh = false;
    this.hung = true;
    this.free = this.free
      .flatMap((p) => [
        { in: p.in, out: Math.min(p.out, from) },
        { in: Math.max(p.in, to), out: p.out },
      ])
      .filter((p) => p.out - p.in >= LEAST_PART_S);
    this.measure();
  }

  /** All of it counts as unused again. */
  renew(): void {
    this.fresh = true;
    this.free = [this.whole()];
    this.measure();
  }
}

/** The selects that filling chooses from, in its order. */
export function candidatesFor(montage: Montage, options: FillOptions): Candidate[] {
  const items = ORDERS[options.order].items(montage.footage, options);
  return items.flatMap((item) => stretchesOf(item).map((select) => new Candidate(item, select)));
}

/** Chooses selects for one slot after another, in turn. */
export class Picker {
  private turn = 0;
  private round = 0;
  private readonly recent: string[] = [];
  private readonly clips: number;

  constructor(
    private readonly candidates: readonly Candidate[],
    private readonly options: FillOptions,
  ) {
    this.clips = new Set(candidates.map((c) => c.item.assetId)).size;
  }

  /** What hangs between filled slots counts for what comes too soon again. */
  pass(assetId: string | null): void {
    this.recent.unshift(assetId ?? '');
    this.recent.length = Math.min(this.recent.length, Math.max(1, this.options.apart));
  }

  /** The next select for a slot of so many seconds, or null when there are none left. */
  pick(length: number): Candidate | null {
    const chosen = this.round === 0 ? this.firstRound(length) : this.furtherRound(length);
    this.pass(chosen?.item.assetId ?? null);
    return chosen;
  }

  private soon(c: Candidate): boolean {
    return this.recent.includes(c.item.assetId);
  }

  private firstRound(length: number): Candidate | null {
    const { tooShort, leastSpeed, whenOut, order, apart } = this.options;
    const suits = (c: Candidate): boolean => c.fresh && (tooShort !== 'next' || c.unused >= length * leastSpeed - 1e-9);
    // The story's own order is kept even where a clip's selects follow one another; a wished distance is not.
    const minds = !ORDERS[order].keepsTogether || apart > 1;
    if (minds) {
      const found = this.candidates.find((c) => suits(c) && !this.soon(c));
      if (found) return found;
    }
    while (this.turn < this.candidates.length) {
      const candidate = this.candidates[this.turn++]!;
      if (suits(candidate) && !(minds && apart > 1 && whenOut === 'again' && this.soon(candidate))) return candidate;
    }
    if (whenOut === 'stop') return null;
    this.round = 1;
    this.turn = 0;
    return this.furtherRound(length);
  }

  private furtherRound(length: number): Candidate | null {
    const least = length * this.options.leastSpeed;
    return (
      this.find((c) => c.item.kind === 'clip' && c.unused >= length) ??
      this.find((c) => c.item.kind === 'clip' && c.unused >= least) ??
      this.startAfresh(length)
    );
  }

  /** Every part was used: all clips start again. */
  private startAfresh(length: number): Candidate | null {
    for (const c of this.candidates) c.renew();
    const enough = (part: number) => (c: Candidate) => c.unused >= length * part - 1e-9;
    const longest = [...this.candidates].sort((a, b) => b.unused - a.unused);
    return this.find(enough(1)) ?? this.find(enough(this.options.leastSpeed)) ?? longest.find((c) => !this.soon(c)) ?? longest[0] ?? null;
  }

  /** The next in turn that suits, not one that was shown too near unless there is no other clip. */
  private find(suits: (c: Candidate) => boolean): Candidate | null {
    const count = this.candidates.length;
    for (const reach of this.clips === 1 ? [0] : [this.recent.length, 1].filter((r) => r < this.clips || r === 1))
      for (let k = 0; k < count; k++) {
        const at = (this.turn + k) % count;
        const c = this.candidates[at]!;
        if (!this.recent.slice(0, reach).includes(c.item.assetId) && suits(c)) {
          this.turn = (at + 1) % count;
          return c;
        }
      }
    return null;
  }
}
