import type { z } from 'zod';
import type { montageSchema } from './document-schema.ts';

/** The ids of the pegs that are always there: the start and the end of the montage. */
export const START_PEG = 'start';
export const END_PEG = 'end';

type DeepReadonly<T> = T extends (infer U)[]
  ? readonly DeepReadonly<U>[]
  : T extends object
    ? { readonly [K in keyof T]: DeepReadonly<T[K]> }
    : T;

/** One montage. Every edit is a pure function on it; what is not in it is derived from it. */
export type Montage = DeepReadonly<z.infer<typeof montageSchema>>;
export type Mark = Montage['marks'][number];
export type MarkKind = Mark['kind'];
export type Song = NonNullable<Montage['song']>;
export type AccentFloor = NonNullable<Song['accentFloor']>;
export type FootageItem = Montage['footage'][number];
export type Select = FootageItem['selects'][number];
export type EffectSound = Montage['sounds'][number];
export type Peg = Montage['pegs'][number];
export type PegRule = NonNullable<Montage['pegRule']>;
export type SectionRule = Montage['sectionRules'][number];
export type Shot = Montage['shots'][number];
export type Retime = Shot['retime'];
export type Tie = Extract<Retime, { kind: 'tied' }>['ties'][number];
export type Framing = Shot['framing'];
export type Transition = NonNullable<Peg['transition']>;
export type Effect = Montage['effects'][number];
export type EffectKind = Effect['kind'];
/** What an effect fires on throughout. */
export type EffectTrigger = Extract<Effect['on'], { kind: 'every' }>['what'];
export type Title = Montage['titles'][number];
export type Shape = Montage['shape'];

/** A montage with nothing in it. */
export function emptyMontage(): Montage {
  return {
    format: 'bluster-montage',
    version: 4,
    lastId: 0,
    shape: { width: 1280, height: 720, rate: { num: 30, den: 1 } },
    song: null,
    marks: [],
    footage: [],
    sounds: [],
    pegs: [],
    pegRule: null,
    sectionRules: [],
    shots: [],
    effects: [],
    titles: [],
    pictureFades: { in: 0, out: 0 },
    letterbox: null,
    cut: { rule: 'nearest', lead: 0 },
  };
}

/** What footage is before anyone has said anything about it. */
export const UNDESCRIBED = {
  selects: [],
  rating: 0,
  note: '',
  tags: [],
  framing: 'fill',
  focus: { x: 0.5, y: 0.5 },
} as const satisfies Partial<FootageItem>;

/** Length of a clip in seconds; a photo lasts as long as it is wanted. */
export function clipLength(item: FootageItem): number {
  return item.kind === 'photo' ? Infinity : (item.frames * item.rate.den) / item.rate.num;
}

/** The stretches of a clip that are worth using: its selects, or all of it where there are none. */
export function stretchesOf(item: FootageItem): readonly Select[] {
  return item.selects.length > 0 ? item.selects : [{ id: WHOLE_CLIP, in: 0, out: item.kind === 'photo' ? 0 : clipLength(item), hit: null }];
}
/** Stands for a clip without selects. */
export const WHOLE_CLIP = 'whole';

/** What is thinned away at first: most songs have far more weak accents than anyone cuts on. */
export const ACCENT_FLOOR: AccentFloor = { low: 0.6, mid: 0.6, high: 0.75, voice: 0.6 };

/** The strengths from which accents count. */
export function accentFloorOf(montage: Montage): AccentFloor {
  return montage.song?.accentFloor ?? ACCENT_FLOOR;
}

/** Marks that an edit may land on: all but the accents that were thinned away. */
export function marksInUse(montage: Montage): readonly Mark[] {
  const known = inUse.get(montage);
  if (known) return known;
  const floor = accentFloorOf(montage);
  const marks = montage.marks.filter((m) => m.kind !== 'accent' || m.strength === undefined || m.strength >= floor[m.band ?? 'mid']);
  inUse.set(montage, marks);
  return marks;
}
const inUse = new WeakMap<Montage, readonly Mark[]>();

/** A copy of a part of the document that is still being written. */
export type Draft<T> = { -readonly [K in keyof T]: T[K] };

/** Marks that count time: beats and the downbeats of bars, in order. */
export function pulse({ marks }: Pick<Montage, 'marks'>): readonly Mark[] {
  let beats = pulses.get(marks);
  if (!beats) pulses.set(marks, (beats = marks.filter((m) => m.kind === 'beat' || m.kind === 'bar').sort((a, b) => a.time - b.time)));
  return beats;
}
const pulses = new WeakMap<Montage['marks'], readonly Mark[]>();
