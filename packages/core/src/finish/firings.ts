import { onceFor } from '../lists/once-for.ts';
import type { Effect, Montage } from '../document/montage.ts';
import { timeAfterBeats } from '../marks/beats-on.ts';
import { isInSection, sectionStretch } from '../song/sections.ts';
import { scoreOf, slotAt } from '../score/score.ts';
import { toSongTime } from '../music/arrangement.ts';
import { firstFrom } from '../lists/first-from.ts';
import { EFFECTS } from './effects/all.ts';
import { CURVES } from './effects/curves.ts';
import type { Moment, Veil } from './effects/effect-kind.ts';
import { PLAIN_LOOK, together, type LookParts } from './looks/look-parts.ts';
import type { Way } from './motion/ways.ts';
import { placedMoment, type PlacedMoment } from './placed-moment.ts';
import { triggerPlaces } from './trigger-places.ts';
import { frameTime } from '../time/frames.ts';
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
  /** how long a beat takes there, seconds */
  readonly beat: number;
}

/** How close to the point an effect is: on one moment, throughout a section, throughout the song. */
const closeness = ({ on }: Effect): number => (on.kind === 'moment' ? 2 : on.section === undefined ? 0 : 1);

/** Of effects of one kind on one frame only the one that is meant most closely fires: none lies on top of another by accident. */
function oneOfAKind(firings: readonly Firing[]): Firing[] {
  const best = new Map<string, Firing>();
  for (const firing of firings) {
    const key = `${firing.frame} ${firing.effect.kind} ${firing.effect.assetId ?? ''}`;
    const other = best.get(key);
    if (!other || closeness(firing.effect) >= closeness(other.effect)) best.set(key, firing);
  }
  return [...best.values()];
}

/** Where an effect fires, in order. */
function placesOf(montage: Montage, { on }: Effect): PlacedMoment[] {
  const pieces = montage.song?.pieces ?? [];
  if (on.kind === 'moment') {
    // A mark that is thinned away or cut out of the song sleeps, and its effect with it.
    const placed = placedMoment(montage, on);
    return placed ? [placed] : [];
  }
  const all = triggerPlaces(montage, on.what);
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
  const every = montage.effects.flatMap((effect) =>
    placesOf(montage, effect).map(({ at, frame, time }): Firing => {
      const seconds = timeAfterBeats(montage, time, effect.beats) - time;
      return { effect, at, frame, time, frames: Math.max(1, Math.round(seconds * fps)), beat: seconds / effect.beats };
    }),
  );
  const firings = oneOfAKind(every);
  firings.sort((a, b) => a.frame - b.frame);
  return { firings, longest: firings.reduce((most, f) => Math.max(most, f.frames), 0) };
});

/**
 * Every time that an effect fires, in order; found once for each document.
 * None where there are no effects.
 * @example
 * firingsOf(montage).slice(0, 2).map((f) => f.frame) // [0, 0]
 */
export function firingsOf(montage: Montage): readonly Firing[] {
  return fired(montage).firings;
}

/** What effects do to the picture at one frame. */
export interface Struck {
  readonly camera: Camera | null;
  readonly veils: readonly Veil[];
  readonly look: LookParts | null;
  readonly mirror: Way | null;
}

const STILL: Struck = { camera: null, veils: [], look: null, mirror: null };

const momentOf = ({ effect, frame: first, beat }: Firing, frame: number, montage: Montage): Moment => ({
  seconds: frameTime(frame - first, montage.shape.rate),
  beat,
  way: effect.way ?? EFFECTS[effect.kind].ways[0] ?? 'left',
  gentle: effect.gentle ?? false,
});

/** The effects that have fired by a frame of the montage and are not over. */
function* underWay(montage: Montage, frame: number): Generator<Firing> {
  const { firings, longest } = fired(montage);
  for (let i = firstFrom(firings, (f) => f.frame, frame - longest + 1); i < firings.length && firings[i]!.frame <= frame; i++)
    if (frame - firings[i]!.frame < firings[i]!.frames) yield firings[i]!;
}

/** What effects do at a frame of the montage: all that have fired and not yet died away, together. */
export function struckAt(montage: Montage, frame: number): Struck {
  if (montage.effects.length === 0) return STILL;
  const { height, width } = montage.shape;
  let [zoom, x, y] = [1, 0, 0];
  let veils: Map<string, number> | null = null;
  let look: LookParts | null = null;
  let mirror: Way | null = null;
  let struck = false;
  for (const firing of underWay(montage, frame)) {
    const { effect, frame: first, frames } = firing;
    const { at, curve } = EFFECTS[effect.kind];
    if (!at) continue;
    const left = effect.strength * CURVES[effect.curve ?? curve].at((frame - first) / frames);
    const blow = at(left, momentOf(firing, frame, montage));
    struck = true;
    zoom *= blow.zoom ?? 1;
    x += (blow.x ?? 0) * height;
    y += (blow.y ?? 0) * height;
    if (blow.look) look = together(look ?? PLAIN_LOOK, blow.look);
    mirror = blow.mirror ?? mirror;
    if (blow.veil) (veils ??= new Map()).set(blow.veil.colour, Math.max(veils.get(blow.veil.colour) ?? 0, blow.veil.opacity));
  }
  if (!struck) return STILL;
  const within = (value: number, size: number): number => Math.max(-(zoom - 1) * (size / 2), Math.min((zoom - 1) * (size / 2), value));
  const camera = zoom > 1 + 1e-6 ? { zoom, x: within(x, width), y: within(y, height) } : null;
  return { camera, veils: veils ? [...veils].map(([colour, opacity]) => ({ colour, opacity })) : STILL.veils, look, mirror };
}

/** Whether an effect is under way that shows frames again. */
export function repeatsAt(montage: Montage, frame: number): boolean {
  for (const { effect } of underWay(montage, frame)) if (EFFECTS[effect.kind].shown) return true;
  return false;
}

/**
 * The frame of the montage whose picture is seen at a frame: its own, or an earlier one where an effect holds or repeats it.
 * An effect ends with the slot in which it fired.
 */
export function shownFrame(montage: Montage, frame: number): number {
  let shown = frame;
  for (const firing of underWay(montage, frame)) {
    const { shown: of } = EFFECTS[firing.effect.kind];
    if (!of || slotAt(scoreOf(montage), firing.frame) !== slotAt(scoreOf(montage), frame)) continue;
    shown = Math.min(frame, firing.frame + Math.floor(of(momentOf(firing, frame, montage)) * framesPerSecond(montage.shape.rate) + 1e-4));
  }
  return shown;
}
