import type { Effect, EffectTrigger, Mark, Montage } from '../document/montage.ts';
import { timeAfterBeats } from '../marks/beats-on.ts';
import { isInSection, sectionStretch } from '../song/sections.ts';
import { placedMark, placedMarks } from '../marks/placed-marks.ts';
import { pegsOf } from '../score/score.ts';
import { toMontageTime, toSongTime } from '../music/arrangement.ts';
import { cutFrame, frameTime } from '../time/frames.ts';
import { framesPerSecond } from '../time/rate.ts';

/** How the whole picture is enlarged about its middle, and moved; pixels of the montage. */
export interface Camera {
  readonly zoom: number;
  readonly x: number;
  readonly y: number;
}

/** A colour over the whole picture. */
export interface Veil {
  readonly colour: '#ffffff' | '#000000';
  readonly opacity: number;
}

/** One time that an effect fires. */
export interface Firing {
  readonly effect: Effect;
  /** of the mark or peg that it fires on; null for a mere time */
  readonly at: string | null;
  readonly frame: number;
  /** montage seconds that are meant */
  readonly time: number;
  /** how many frames it takes to die away */
  readonly frames: number;
}

/** At full strength: how much of the picture a flash or dip covers, how far a punch goes in, how far a shake goes of the height. */
const VEIL = 0.9;
const PUNCH = 0.25;
const SHAKE = 0.03;
/** How often a shaken picture swings to and fro, and up and down, Hz. Numbers without a common measure, so that it does not circle. */
const SWINGS_HZ = [9.3, 7.1] as const;

const BANDS: readonly string[] = ['low', 'mid', 'high', 'voice'] satisfies EffectTrigger[];

/** Whether an effect for every mark of some kind fires on a mark; a bar's downbeat is a beat too. */
function firesOn(what: EffectTrigger, mark: Mark): boolean {
  if (what === 'beat') return mark.kind === 'beat' || mark.kind === 'bar';
  if (BANDS.includes(what)) return mark.kind === 'accent' && (mark.band ?? 'mid') === what;
  return mark.kind === what;
}

interface Place {
  readonly at: string | null;
  readonly frame: number;
  /** montage seconds */
  readonly time: number;
}

/** Where an effect fires, in order. */
function placesOf(montage: Montage, { on }: Effect): Place[] {
  const pieces = montage.song?.pieces ?? [];
  if (on.kind === 'moment') {
    const placed = on.markId === null ? undefined : placedMark(montage, on.markId);
    if (placed) return [{ at: placed.mark.id, frame: placed.frame, time: placed.time }];
    // A mark that is thinned away or cut out of the song sleeps, and its effect with it.
    const time = on.markId === null ? toMontageTime(pieces, on.time) : null;
    return time === null ? [] : [{ at: null, frame: cutFrame(time, montage.shape.rate, 'nearest'), time }];
  }
  const all: readonly Place[] =
    on.what === 'cut'
      ? pegsOf(montage).pegs.flatMap(({ id, peg, frame, time }) => (peg ? [{ at: id, frame, time }] : []))
      : placedMarks(montage).flatMap(({ mark, frame, time }) => (firesOn(on.what, mark) ? [{ at: mark.id, frame, time }] : []));
  const except = new Set(on.except);
  const section = on.section === undefined ? null : sectionStretch(montage, on.section);
  if (section === undefined) return [];
  return all.filter(({ at, time }) => {
    if (at !== null && except.has(at)) return false;
    return !section || isInSection(section, toSongTime(pieces, time));
  });
}

interface Fired {
  readonly firings: readonly Firing[];
  /** frames of the longest */
  readonly longest: number;
}

const known = new WeakMap<Montage, Fired>();

function fired(montage: Montage): Fired {
  const found = known.get(montage);
  if (found) return found;
  const fps = framesPerSecond(montage.shape.rate);
  const firings = montage.effects.flatMap((effect) =>
    placesOf(montage, effect).map(({ at, frame, time }): Firing => {
      const seconds = timeAfterBeats(montage, time, effect.beats) - time;
      return { effect, at, frame, time, frames: Math.max(1, Math.round(seconds * fps)) };
    }),
  );
  firings.sort((a, b) => a.frame - b.frame);
  const all = { firings, longest: firings.reduce((most, f) => Math.max(most, f.frames), 0) };
  known.set(montage, all);
  return all;
}

/** Every time that an effect fires, in order; found once for each document. */
export function firingsOf(montage: Montage): readonly Firing[] {
  return fired(montage).firings;
}

/** What effects do to the picture at one frame. */
export interface Struck {
  readonly camera: Camera | null;
  readonly white: number;
  readonly black: number;
}

const STILL: Struck = { camera: null, white: 0, black: 0 };

/** What effects do at a frame of the montage: all that have fired and not yet died away, together. */
export function struckAt(montage: Montage, frame: number): Struck {
  const { firings, longest } = fired(montage);
  let low = 0;
  let high = firings.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (firings[middle]!.frame <= frame - longest) low = middle + 1;
    else high = middle;
  }
  const { height, width, rate } = montage.shape;
  let [zoom, x, y, white, black, struck] = [1, 0, 0, 0, 0, false];
  for (let i = low; i < firings.length && firings[i]!.frame <= frame; i++) {
    const { effect, frame: first, frames } = firings[i]!;
    const into = frame - first;
    if (into >= frames || effect.kind === 'sound') continue;
    // Whole on its mark, then falling quickly and ending softly.
    const left = effect.strength * (1 - into / frames) ** 2;
    struck = true;
    if (effect.kind === 'flash') white = Math.max(white, VEIL * left);
    else if (effect.kind === 'dip') black = Math.max(black, VEIL * left);
    else if (effect.kind === 'punch') zoom *= 1 + PUNCH * left;
    else {
      const reach = SHAKE * left;
      const seconds = frameTime(into, rate);
      // Enlarged by as much as it is moved, so that no edge comes into sight.
      zoom *= 1 + 2 * reach;
      x += reach * height * Math.cos(2 * Math.PI * SWINGS_HZ[0] * seconds);
      y += reach * height * Math.sin(2 * Math.PI * SWINGS_HZ[1] * seconds + 1);
    }
  }
  if (!struck) return STILL;
  const within = (value: number, size: number): number => Math.max(-(zoom - 1) * (size / 2), Math.min((zoom - 1) * (size / 2), value));
  const camera = zoom > 1 + 1e-6 ? { zoom, x: within(x, width), y: within(y, height) } : null;
  return { camera, white, black };
}
