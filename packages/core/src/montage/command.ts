import type { CutRule } from '../time/frames.ts';
import type { Marking } from '../formats/marking.ts';
import type { DetectedBeat, Detection } from '../music/detect.ts';
import type { SongPiece } from '../music/arrangement.ts';
import type { Tap } from '../music/taps.ts';
import type {
  AccentFloor,
  EffectKind,
  EffectSound,
  EffectTrigger,
  FootageItem,
  Framing,
  MarkKind,
  Montage,
  PegRule,
  Shape,
  Title,
  Transition,
} from './document.ts';
import { dressCommands } from './dress-commands.ts';
import type { FillPlan } from './fill.ts';
import type { FillKnowledge, FillOptions } from './fill-options.ts';
import type { GapRemedy } from './gaps.ts';
import type { HangPoint, Remedy } from './hang-shot.ts';
import type { OverEnd } from './over-line.ts';
import { retimeCommands } from './retime-commands.ts';
import { scoreCommands } from './score-commands.ts';
import type { RunStretch } from './lay-run.ts';
import type { SettleOptions, SettlePlan } from './settle.ts';
import { trimCommands, type CutPlace } from './trim-commands.ts';
import { footageCommands } from './footage-commands.ts';
import { markCommands } from './mark-commands.ts';
import { pegCommands } from './peg-commands.ts';
import { pulseCommands } from './pulse-commands.ts';
import { shotCommands } from './shot-commands.ts';
import { songCommands } from './song-commands.ts';

/** A stretch of the song, song seconds. */
export interface Range {
  readonly from: number;
  readonly to: number;
}

/** Every edit there is. Times are song seconds unless said otherwise. */
export interface Commands {
  setShape: { shape: Shape };
  setCutRule: { rule: CutRule; lead: number };
  setSong: { assetId: string; name: string; length: number };
  setSongRange: { pieces: readonly SongPiece[] };
  setFades: { fadeIn: number; fadeOut: number };
  /** of the section that starts at a time */
  nameSection: { from: number; name: string };

  takeDetection: { detection: Detection };
  /** beats and bars between two times, in the place of those that were there */
  takeBeats: { beats: readonly DetectedBeat[]; from: number; to: number; metre?: number };
  takeTaps: { taps: readonly Tap[]; how: 'add' | 'replace' };
  /** marks from a file: each kind that it holds takes the place of that kind */
  takeMarking: { marking: Marking };
  takeBeatTimes: { times: readonly number[]; metre: number };
  addMark: { kind: MarkKind; time: number; label?: string };
  /** marks to times of their own */
  placeMarks: { places: readonly { readonly id: string; readonly time: number }[] };
  lockMarks: { ids: readonly string[]; locked: boolean };
  setLabel: { id: string; label: string };
  /** beats between two times: so many, or one every so many seconds */
  layGrid: { from: number; to: number } & ({ beats: number } | { every: number });
  /** beats where the beats before and after leave a hole */
  fillHoles: { from: number; to: number };
  /** bars of so many beats from a beat on, as far as the next range begins or to the end */
  setMetreFrom: { id: string; metre: number };
  setAccentFloor: { floor: AccentFloor };
  moveMarks: { ids: readonly string[]; by: number };
  shiftAllMarks: { by: number };
  deleteMarks: { ids: readonly string[] };
  setMarkKind: { id: string; kind: MarkKind };
  setBarOne: { id: string; metre: number };
  /** without a range, the whole song */
  halveBeats: Partial<Range>;
  doubleBeats: Partial<Range>;
  shiftHalfBeat: Partial<Range>;

  addFootage: { items: readonly FootageItem[] };
  removeFootage: { assetIds: readonly string[] };
  orderFootage: { assetIds: readonly string[] };
  /** in and out of a select, clip seconds; without one, a new select */
  setSelect: { assetId: string; selectId: string | null; in: number; out: number };
  addSelects: {
    assetId: string;
    stretches: readonly { readonly in: number; readonly out: number; readonly hit?: number | null }[];
    how: 'add' | 'replace';
  };
  removeSelect: { assetId: string; selectId: string };
  /** the frame of a select where its action happens, clip seconds; null for none */
  setHit: { assetId: string; selectId: string; hit: number | null };
  takeHits: { hits: readonly { readonly assetId: string; readonly selectId: string; readonly hit: number }[] };
  describeFootage: {
    assetIds: readonly string[];
    rating?: number;
    note?: string;
    addTags?: readonly string[];
    removeTags?: readonly string[];
  };
  /** what stays in the picture when it is cropped, parts of its width and height */
  setFocus: { assetId: string; x: number; y: number };

  /** of footage and of all its shots */
  setFootageFraming: { assetIds: readonly string[]; framing: Framing };

  addSounds: { sounds: readonly EffectSound[] };
  removeSounds: { assetIds: readonly string[] };
  setSoundHit: { assetId: string; hit: number };

  /** for all of the song, which drops the sections' own rules, or for the section that starts at a time; null is no rule */
  hangByRule: { rule: PegRule | null; section?: number };
  /** `part`: how far on the way to the next beat */
  hangPeg: { markId: string; part?: number } | { time: number };
  takePeg: { id: string };
  /** the shot after it keeps its first picture */
  movePeg: { id: string; to: { markId: string } | { time: number } };
  /** by its beats, in the middle, or by steps of equal length */
  divideSlot: { startPeg: string; by: 'beats' | 'half' | readonly boolean[] };
  joinSlots: { startPeg: string };
  loosenCuts: { seed: number; share: number };

  /** the pictures on both sides stay in their time */
  rollCut: { id: string; to: CutPlace };
  /** to the mark before or after, or by frames */
  slideShot: { id: string; to: 'before' | 'after' | number };
  /** frames of the montage */
  endShotAt: { frame: number };
  startNextAt: { frame: number };
  /** cuts to the nearest marks */
  drawPegs: { ids: readonly string[] };

  fill: { options: FillOptions; knowledge?: FillKnowledge };
  takeFill: { plan: FillPlan };
  /** without a select, the clip's first one; over so many slots */
  hangShot: { startPeg: string; slots?: number; assetId: string; selectId?: string; point?: HangPoint; remedy?: Remedy };
  takeShot: { id: string };
  slipShot: { id: string; by: number };
  replaceShot: { id: string; assetId: string; selectId?: string };
  /** the clip's moment (seconds) meets a frame of the montage */
  replaceAt: { id: string; assetId: string; source: number; frame: number };
  swapShots: { a: string; b: string };
  insertShot: { startPeg: string; assetId: string; selectId?: string; point?: HangPoint };
  removeShot: { id: string };
  extendShot: { id: string; slots: number };
  copyShot: { id: string; startPeg: string };
  /** into so many slots after its own: `skip` frames further each time, or at the next of some moments of the clip */
  goOnShot: { id: string; slots: number; skip?: number; starts?: readonly number[] };
  hangOver: { from: OverEnd; to: OverEnd; assetId: string; selectId?: string };
  lockShots: { ids: readonly string[]; locked: boolean };
  /** of slots, by first peg: what is done about what is missing there */
  remedyGaps: { startPegs: readonly string[]; remedy: GapRemedy };

  /** negative runs backwards */
  setRate: { id: string; rate: number };
  fitShot: { id: string };
  /** the frame at a moment of the clip, or the shot's first */
  freezeShot: { id: string; source?: number };
  reverseShot: { id: string };
  tieFrame: { id: string; markId: string; source: number };
  untieFrame: { id: string; markId: string };
  setEase: { id: string; ease: 'hard' | 'eased' };
  setSourceOut: { id: string; sourceIn?: number; sourceOut?: number };
  setBlend: { ids: readonly string[]; blend: boolean };

  /** on every mark or cut of a kind, of all the song or of the section that starts at a time */
  addEffect: { kind: EffectKind; what: EffectTrigger; section?: number; assetId?: string };
  /** on one mark; `firing`: the effects that fire there now, each with the mark or cut that it fires on */
  toggleEffect: {
    kind: EffectKind;
    markId: string;
    firing: readonly { readonly id: string; readonly at: string | null }[];
    assetId?: string;
  };
  changeEffects: { ids: readonly string[]; strength?: number; beats?: number };
  takeEffects: { ids: readonly string[] };
  /** null is a plain cut */
  setTransition: { pegIds: readonly string[]; transition: Transition | null };
  /** seconds */
  setPictureFades: { in: number; out: number };
  /** width to height */
  setLetterbox: { aspect: number | null };
  addTitle: { text: string; at: { readonly markId: string } | { readonly time: number }; beats: number };
  changeTitle: { id: string; at?: { readonly markId: string } | { readonly time: number } } & Partial<Omit<Title, 'id' | 'from'>>;
  takeTitles: { ids: readonly string[] };

  setFraming: { ids: readonly string[]; framing: Framing };
  setShotSound: { ids: readonly string[]; level?: number; stretched?: 'pitch-kept' | 'muted' };
  setWhenShort: { ids: readonly string[]; whenShort: 'gap' | 'hold' };

  /** `at`: frame of the montage */
  layRun: { run: readonly RunStretch[]; at: number };
  /** as planned for this montage */
  takeSettle: { plan: SettlePlan; options: SettleOptions };
}

export type CommandName = keyof Commands;
export type Command = { [N in CommandName]: { readonly do: N } & Readonly<Commands[N]> }[CommandName];

/** One function a command: the montage before and what is asked, to the montage after. */
export type Handlers<Names extends CommandName> = { readonly [N in Names]: (montage: Montage, ask: Readonly<Commands[N]>) => Montage };

const handlers: Handlers<CommandName> = {
  ...songCommands,
  ...markCommands,
  ...pulseCommands,
  ...footageCommands,
  ...pegCommands,
  ...shotCommands,
  ...trimCommands,
  ...retimeCommands,
  ...scoreCommands,
  ...dressCommands,
};

/**
 * Carries out one edit.
 * @returns the montage after it; the very same object where nothing changed
 * @throws CommandError with a sentence for the editor when it cannot be done
 */
export function carryOut(montage: Montage, command: Command): Montage {
  const handler = handlers[command.do] as (montage: Montage, ask: unknown) => Montage;
  return handler(montage, command);
}

/** What a command is called in the history and on the undo button. */
export const COMMAND_TITLES: { readonly [N in CommandName]: string } = {
  setShape: 'Change size or rate',
  setCutRule: 'Change the cut rule',
  setSong: 'Choose the song',
  setSongRange: 'Set in and out of the song',
  setFades: 'Change the fades',
  nameSection: 'Name a section',
  takeDetection: 'Mark the detected beats',
  takeBeats: 'Take the beats',
  takeTaps: 'Take the taps',
  takeMarking: 'Read marks',
  takeBeatTimes: 'Read marks',
  addMark: 'Add a mark',
  moveMarks: 'Move marks',
  placeMarks: 'Draw marks to onsets',
  lockMarks: 'Lock marks',
  setLabel: 'Name a cue',
  layGrid: 'Lay an even grid',
  fillHoles: 'Fill holes with beats',
  setMetreFrom: 'Change the metre',
  setAccentFloor: 'Thin the accents',
  shiftAllMarks: 'Shift all marks',
  deleteMarks: 'Delete marks',
  setMarkKind: 'Change a mark',
  setBarOne: 'Set bar 1',
  halveBeats: 'Halve the beats',
  doubleBeats: 'Double the beats',
  shiftHalfBeat: 'Shift by half a beat',
  addFootage: 'Add footage',
  removeFootage: 'Remove footage',
  orderFootage: 'Change the story order',
  setSelect: 'Set in and out',
  addSelects: 'Add selects',
  removeSelect: 'Take a select away',
  setHit: 'Set a hit',
  takeHits: 'Take the proposed hits',
  describeFootage: 'Describe footage',
  setFocus: 'Set the focus point',
  setFootageFraming: 'Change the framing',
  addSounds: 'Add sounds',
  removeSounds: 'Remove sounds',
  setSoundHit: "Set a sound's hit",
  hangByRule: 'Hang pegs by rule',
  hangPeg: 'Hang a peg',
  takePeg: 'Take a peg away',
  movePeg: 'Move a peg',
  divideSlot: 'Divide a slot',
  joinSlots: 'Join two slots',
  loosenCuts: 'Loosen the rhythm',
  rollCut: 'Roll a cut',
  slideShot: 'Slide a shot',
  endShotAt: 'End a shot here',
  startNextAt: 'Start the next shot here',
  drawPegs: 'Draw cuts to marks',
  fill: 'Fill slots',
  takeFill: 'Fill slots',
  hangShot: 'Hang a shot',
  takeShot: 'Take a shot down',
  slipShot: 'Slip a shot',
  replaceShot: 'Replace a shot',
  replaceAt: 'Replace a shot at the playhead',
  swapShots: 'Swap two shots',
  insertShot: 'Insert a shot',
  removeShot: 'Take a shot out and close up',
  extendShot: 'Hang a shot over more slots',
  copyShot: 'Copy a shot',
  goOnShot: 'Go on with the same clip',
  hangOver: 'Hang a cutaway',
  lockShots: 'Lock shots',
  remedyGaps: 'Close gaps',
  setRate: 'Change the speed',
  fitShot: 'Fit to the slot',
  freezeShot: 'Freeze a frame',
  reverseShot: 'Run a shot backwards',
  tieFrame: 'Tie a frame to a mark',
  untieFrame: 'Untie a frame',
  setEase: 'Change how the speed goes over',
  setSourceOut: 'Change the speed curve',
  setBlend: 'Change what is seen between frames',
  addEffect: 'Lay an effect',
  toggleEffect: 'Lay or take an effect on a mark',
  changeEffects: 'Change an effect',
  takeEffects: 'Take an effect away',
  setTransition: 'Change a transition',
  setPictureFades: 'Change the picture’s fades',
  setLetterbox: 'Change the letterbox',
  addTitle: 'Write a title',
  changeTitle: 'Change a title',
  takeTitles: 'Take a title away',
  setFraming: 'Change the framing',
  setShotSound: "Change a clip's sound",
  setWhenShort: 'Change what a short clip leaves',
  layRun: 'Lay a cut over the song',
  takeSettle: 'Settle cuts on marks',
};
