import { CommandError } from './command-error.ts';
import { clipLength, stretchesOf, type FootageItem, type Montage, type Select, type Shot } from './document.ts';
import { scoreOf, type Slot } from './score.ts';

/** How slots are filled. */
export interface FillOptions {
  /** all slots anew, or only those in which nothing hangs */
  readonly scope: 'all' | 'empty';
  readonly order: 'story' | 'shuffle';
  /** for the shuffled order */
  readonly seed: number;
  /** the slowest a clip may run to cover its slot, 1 is as recorded */
  readonly leastSpeed: number;
  /** a clip that cannot cover its slot even so: hang it and leave a gap behind it, or take the next that can */
  readonly tooShort: 'gap' | 'next';
  /** when every clip was used: stop, or go round again with unused parts first */
  readonly whenOut: 'stop' | 'again';
}

export const FILL_DEFAULTS: FillOptions = { scope: 'all', order: 'story', seed: 1, leastSpeed: 0.5, tooShort: 'gap', whenOut: 'again' };

/** Numbers between 0 and 1 that follow from a seed (Park and Miller, "Random number generators", CACM 1988). */
function seeded(seed: number): () => number {
  let state = (Math.abs(Math.floor(seed)) % 2147483646) + 1;
  const next = (): number => (state = (state * 16807) % 2147483647) / 2147483647;
  next();
  next();
  return next;
}

/** A shuffled copy by Fisher and Yates, the same for the same seed. */
export function shuffled<T>(list: readonly T[], seed: number): T[] {
  const random = seeded(seed);
  const copy = [...list];
  for (let i = copy.length - 1; i > 0; i--) {
    const j = Math.floor(random() * (i + 1));
    [copy[i], copy[j]] = [copy[j]!, copy[i]!];
  }
  return copy;
}

/** A select that may be hung. */
interface Candidate {
  readonly item: FootageItem;
  readonly select: Select;
  /** where its unused part starts, clip seconds */
  next: number;
  /** pictures are unused once; a photo has no parts */
  fresh: boolean;
}

/** Footage still unused in a candidate, seconds. */
const unused = (c: Candidate): number => (c.item.kind === 'photo' ? (c.fresh ? Infinity : 0) : c.select.out - c.next);

/** Chooses selects for one slot after another. */
class Picker {
  private turn = 0;
  private round = 0;
  private last: string | null = null;

  constructor(
    private readonly candidates: readonly Candidate[],
    private readonly options: FillOptions,
  ) {}

  /** The next clip for a slot of so many seconds, or null when there are none left. */
  pick(length: number): Candidate | null {
    const chosen = this.round === 0 ? this.firstRound(length) : this.furtherRound(length);
    if (chosen) this.last = chosen.item.assetId;
    return chosen;
  }

  private firstRound(length: number): Candidate | null {
    const { tooShort, leastSpeed, whenOut } = this.options;
    while (this.turn < this.candidates.length) {
      const candidate = this.candidates[this.turn++]!;
      if (!candidate.fresh) continue;
      if (tooShort === 'gap' || unused(candidate) >= length * leastSpeed - 1e-9) return candidate;
    }
    if (whenOut === 'stop') return null;
    this.round = 1;
    this.turn = 0;
    return this.furtherRound(length);
  }

  private furtherRound(length: number): Candidate | null {
    const least = length * this.options.leastSpeed;
    const chosen =
      this.find((c) => c.item.kind === 'clip' && unused(c) >= length) ??
      this.find((c) => c.item.kind === 'clip' && unused(c) >= least) ??
      this.startAfresh(length);
    return chosen;
  }

  /** Every part was used: all clips start again from their in. */
  private startAfresh(length: number): Candidate | null {
    for (const c of this.candidates) {
      c.next = c.select.in;
      c.fresh = true;
    }
    const enough = (part: number) => (c: Candidate) => unused(c) >= length * part - 1e-9;
    const longest = [...this.candidates].sort((a, b) => unused(b) - unused(a));
    return (
      this.find(enough(1)) ??
      this.find(enough(this.options.leastSpeed)) ??
      longest.find((c) => c.item.assetId !== this.last) ??
      longest[0] ??
      null
    );
  }

  /** The next in turn that suits, not the one just shown unless there is no other. */
  private find(suits: (c: Candidate) => boolean): Candidate | null {
    const count = this.candidates.length;
    for (const allowRepeat of count === 1 ? [true] : [false])
      for (let k = 0; k < count; k++) {
        const at = (this.turn + k) % count;
        const c = this.candidates[at]!;
        if ((allowRepeat || c.item.assetId !== this.last) && suits(c)) {
          this.turn = (at + 1) % count;
          return c;
        }
      }
    return null;
  }
}

/** How one clip covers one slot from a point on: as it is, slowed to fit, or as slow as allowed and still too short. */
export function coverage(item: FootageItem, select: Select, from: number, slot: Slot, leastSpeed: number): Pick<Shot, 'retime'> {
  if (item.kind === 'photo') return { retime: { kind: 'rate', rate: 1 } };
  const available = select.out - from;
  if (available >= slot.length - 1e-6) return { retime: { kind: 'rate', rate: 1 } };
  if (available >= slot.length * leastSpeed - 1e-6) return { retime: { kind: 'fit', sourceOut: select.out } };
  // Beyond the out lie the clip's handles; they cover what they can.
  const whole = clipLength(item) - from;
  if (whole >= slot.length * leastSpeed - 1e-6)
    return { retime: { kind: 'fit', sourceOut: Math.min(clipLength(item), from + Math.max(available, slot.length * leastSpeed)) } };
  return { retime: { kind: 'rate', rate: leastSpeed } };
}

/**
 * Hangs shots in slots. Slots are taken from first to last, clips in the order asked for; each starts at its in, or where
 * its unused part begins when it comes round again.
 * @throws CommandError when there is nothing to fill or nothing to fill with
 */
export function fill(montage: Montage, options: FillOptions): Montage {
  const score = scoreOf(montage);
  if (montage.footage.length === 0) throw new CommandError('There is no footage to hang. Add clips or photos in Footage first.');
  if (score.slots.length === 0) throw new CommandError('There are no slots to fill. Choose a song first.');
  const open = score.slots.filter((slot) => options.scope === 'all' || !slot.placed);
  if (open.length === 0) throw new CommandError('Every slot is filled already.');

  const order = options.order === 'shuffle' ? shuffled(montage.footage, options.seed) : montage.footage;
  const candidates = order.flatMap((item) =>
    stretchesOf(item).map((select): Candidate => ({ item, select, next: select.in, fresh: true })),
  );
  const use = (c: Candidate, from: number, length: number): void => {
    c.fresh = false;
    c.next = Math.max(c.next, from + length);
  };
  if (options.scope === 'empty')
    for (const { placed, length } of score.slots) {
      const from = placed?.shot.sourceIn ?? 0;
      const own = candidates.filter((c) => c.item.assetId === placed?.item.assetId);
      const c = own.find(({ select }) => from >= select.in - 1e-6 && from < select.out) ?? own[0];
      if (placed && c) use(c, placed.shot.sourceIn, length * placed.speed);
    }

  const picker = new Picker(candidates, options);
  let lastId = montage.lastId;
  const hung: Shot[] = [];
  for (const slot of open) {
    const chosen = picker.pick(slot.length);
    if (!chosen) break;
    const { item, select } = chosen;
    let from = item.kind === 'photo' ? 0 : chosen.next;
    if (item.kind === 'clip' && select.out - from < 1e-3) from = chosen.next = select.in;
    const { retime } = coverage(item, select, from, slot, options.leastSpeed);
    use(chosen, from, Math.min(select.out - from, slot.length * (retime.kind === 'rate' ? retime.rate : 1)));
    hung.push({
      id: `s${++lastId}`,
      assetId: item.assetId,
      startPeg: slot.start.id,
      endPeg: slot.end.id,
      sourceIn: from,
      retime,
      whenShort: options.tooShort === 'gap' ? 'gap' : 'hold',
      framing: item.framing,
      sound: 0,
    });
  }
  const replaced = new Set(open.map((slot) => slot.start.id));
  return { ...montage, lastId, shots: [...montage.shots.filter((s) => !replaced.has(s.startPeg)), ...hung] };
}
