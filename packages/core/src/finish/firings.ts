import { onceFor } from '../lists/once-for.ts';
import { MARKS } from '../marks/kinds/all.ts';
import type { EffectTrigger } from './effects/triggers.ts';
import type { Effect, Mark, Montage } from '../document/montage.ts';
import { timeAfterBeats } from '../marks/beats-on.ts';
import { isInSection, sectionStretch } from '../song/sections.ts';
import { placedMark, placedMarks } from '../marks/placed-marks.ts';
import { pegsOf } from '../score/score.ts';
import { toMontageTime, toSongTime } from '../music/arrangement.ts';
import { firstFrom } from '../lists/first-from.ts';
import { EFFECTS } from './effects/all.ts';
import type { Veil } from './effects/effect-kind.ts';
import { cutFrame, frameTime } from '../time/frames.ts';
import { framesPerSecond } from '../time/rate.ts';

/** How the whole picture is enlarged about its middle, and moved; pixels of the montage. */
export interface Camera {
  readonly zoom: number;
  readonly x: number;
  readonly y: number;
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

/** Whether an effect for every mark of some kind fires on a mark; a bar's downbeat is a beat too. */
function firesOn(what: EffectTrigger, mark: Mark): boolean {
  if (what === 'beat') return MARKS[mark.kind].counts;
  return MARKS[mark.kind].banded ? (mark.band ?? 'mid') === what : mark.kind === what;
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

const fired = onceFor((montage: Montage): Fired => {
  const fps = framesPerSecond(montage.shape.rate);
  const firings = montage.effects.flatMap((effect) =>
    placesOf(montage, effect).map(({ at, frame, time }): Firing => {
      const seconds = timeAfterBeats(montage, time, effect.beats) - time;
      return { effect, at, frame, time, frames: Math.max(1, Math.round(seconds * fps)) };
    }),
  );
  firings.sort((a, b) => a.frame - b.frame);
  return { firings, longest: firings.reduce((most, f) => Math.max(most, f.frames), 0) };
});

/**
 * Every time that an effect fires, in order; found once for each document.
 * None where there are no effects.
 * @example
 * firingsOf(montage).slice(0, 2).map((f) => f.frame) // [0, 60]
 */
export function firingsOf(montage: Montage): readonly Firing[] {
  return fired(montage).firings;
}

/** What effects do to the picture at one frame. */
export interface Struck {
  readonly camera: Camera | null;
  readonly veils: readonly Veil[];
}

const STILL: Struck = { camera: null, veils: [] };

/** What effects do at a frame of the montage: all that have fired and not yet died away, together. */
export function struckAt(montage: Montage, frame: number): Struck {
  const { firings, longest } = fired(montage);
  const { height, width, rate } = montage.shape;
  let [zoom, x, y] = [1, 0, 0];
  let veils: Map<string, number> | null = null;
  let struck = false;
  for (let i = firstFrom(firings, (f) => f.frame, frame - longest + 1); i < firings.length && firings[i]!.frame <= frame; i++) {
    const { effect, frame: first, frames } = firings[i]!;
    const { at } = EFFECTS[effect.kind];
    const into = frame - first;
    if (into >= frames || !at) continue;
    // Whole on its mark, then falling quickly and ending softly.
    const blow = at(effect.strength * (1 - into / frames) ** 2, frameTime(into, rate));
    struck = true;
    zoom *= blow.zoom ?? 1;
    x += (blow.x ?? 0) * height;
    y += (blow.y ?? 0) * height;
    if (blow.veil) (veils ??= new Map()).set(blow.veil.colour, Math.max(veils.get(blow.veil.colour) ?? 0, blow.veil.opacity));
  }
  if (!struck) return STILL;
  const within = (value: number, size: number): number => Math.max(-(zoom - 1) * (size / 2), Math.min((zoom - 1) * (size / 2), value));
  const camera = zoom > 1 + 1e-6 ? { zoom, x: within(x, width), y: within(y, height) } : null;
  return { camera, veils: veils ? [...veils].map(([colour, opacity]) => ({ colour, opacity })) : STILL.veils };
}
