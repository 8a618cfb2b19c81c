import type { z } from 'zod';
import type { montageSchema } from './schema.ts';
import { MONTAGE_VERSION } from './version.ts';

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
export type Song = NonNullable<Montage['song']>;
export type Section = Song['sections'][number];
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
export type Title = Montage['titles'][number];
export type TitleStyle = Montage['styles'][number];
export type TitleLook = TitleStyle['look'];
export type Face = Montage['faces'][number];
export type LevelPoint = Montage['levels'][number];
export type Passage = NonNullable<Shot['comes']>;
export type Moment = Title['from'];
export type Move = NonNullable<Shot['moves']>[number];
export type ShotLook = NonNullable<Shot['looks']>[number];
export type Look = Montage['looks'][number];
export type Table = Montage['tables'][number];
export type Letterbox = Montage['letterboxes'][number];
export type Fade = Montage['fades'][number];
export type Span = Fade['span'];
export type MoveRule = NonNullable<Montage['moveRule']>;
export type Shape = Montage['shape'];

/**
 * A montage with nothing in it.
 * @example
 * emptyMontage().song // null
 */
export function emptyMontage(): Montage {
  return {
    format: 'bluster-montage',
    version: MONTAGE_VERSION,
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
    styles: [],
    faces: [],
    levels: [],
    ducking: { by: 12, beats: 0.5 },
    looks: [],
    tables: [],
    moveRule: null,
    pictureFades: { in: 0, out: 0 },
    fades: [],
    letterboxes: [],
    cut: { rule: 'nearest', lead: 0 },
  };
}

/** A copy of a part of the document that is still being written. */
export type Draft<T> = { -readonly [K in keyof T]: T[K] };
