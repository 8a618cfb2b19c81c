import { arrangedLength, type SongPiece } from '../music/arrangement.ts';
import type { Montage } from '../document/montage.ts';
import { scoreOf, type Slot } from '../score/score.ts';
import { firingsOf } from '../finish/firings.ts';
import { clipLength } from '../document/footage-item.ts';
import { transitionsOf, type PlacedTransition } from '../finish/placed-transitions.ts';
import { TRANSITIONS } from '../finish/transitions/all.ts';
import { timeAfterBeats } from '../marks/beats-on.ts';
import { onceFor } from '../lists/once-for.ts';
import { levelAlong, levelLines, type PlacedLevel } from './level-line.ts';
import { frameTime } from '../time/frames.ts';

/** A stretch of a clip's own sound or of a sound effect, under or over the song. All in seconds. */
export interface ClipSound {
  readonly assetId: string;
  /** montage time */
  readonly at: number;
  readonly length: number;
  /** clip time */
  readonly from: number;
  /** clip seconds a montage second; stretched at its own pitch where it is not 1 */
  readonly speed: number;
  readonly level: number;
  /** seconds over which it comes in and goes out; 0 where it goes on from the stretch before or into the next */
  readonly fadeIn: number;
  readonly fadeOut: number;
  /** the line along which it is turned up and down; null for none */
  readonly line: readonly PlacedLevel[] | null;
}

/** A stretch in which the song gives way, montage seconds: it is down from one moment to the other, and takes so long to go and to come. */
export interface Duck {
  readonly from: number;
  readonly to: number;
  readonly ramp: number;
  /** how loud it is then, 1 is as it is */
  readonly level: number;
}

/** What is heard when. The song plays through at its own level, but for what is drawn, and for clips under which it is to give way. */
export interface MixPlan {
  readonly length: number;
  readonly song: {
    readonly assetId: string;
    readonly pieces: readonly SongPiece[];
    readonly fadeIn: number;
    readonly fadeOut: number;
    readonly line: readonly PlacedLevel[];
    readonly ducks: readonly Duck[];
  } | null;
  readonly clips: readonly ClipSound[];
}

/** Clip sounds come and go over this, so that no cut clicks. Seconds. */
export const CLIP_FADE_S = 0.01;
/** Sound is stretched to between a quarter and four times its speed; beyond that it is silent. */
const STRETCHABLE = { slowest: 0.25, fastest: 4 } as const;
/** An eased curve is followed in steps of this, seconds. */
const EASED_STEP_S = 0.25;

/** The moments of a slot between which its clip runs at an even speed, near enough. */
function evenStretches(slot: Slot, end: number): number[] {
  const { curve, shot } = slot.placed!;
  const nodes = curve.nodes.map((n) => n.at).filter((t) => t > 1e-6 && t < end - 1e-6);
  if (shot.retime.kind !== 'tied' || shot.retime.ease === 'hard') return [0, ...nodes, end];
  const steps = Math.max(1, Math.ceil(end / EASED_STEP_S));
  return [...new Set([...Array.from({ length: steps }, (_, i) => (i * end) / steps), ...nodes, end])].sort((a, b) => a - b);
}

/** The sound of what hangs in a slot. Backwards, standing and far too slow or fast clips are silent. */
function clipSounds(slot: Slot, montage: Montage): ClipSound[] {
  const { placed } = slot;
  if (!placed || placed.item.kind === 'photo' || !placed.item.hasSound || placed.shot.sound === 0) return [];
  const { rate } = montage.shape;
  const end = frameTime(placed.coveredFrames, rate);
  const starts = evenStretches(slot, end);
  const stretches = starts.slice(0, -1).flatMap((at, i) => {
    const length = starts[i + 1]! - at;
    const from = placed.curve.source(at);
    const speed = (placed.curve.source(at + length) - from) / length;
    const plain = Math.abs(speed - 1) < 1e-6;
    const heard = plain || (placed.shot.stretchedSound !== 'muted' && speed >= STRETCHABLE.slowest && speed <= STRETCHABLE.fastest);
    return heard && length > 1e-3 ? [{ at, length, from, speed: plain ? 1 : speed }] : [];
  });
  const meets = (a: number, b: number | undefined): boolean => b !== undefined && Math.abs(a - b) < 1e-6;
  return stretches.map((s, i) => ({
    ...s,
    at: frameTime(slot.start.frame, rate) + s.at,
    assetId: placed.item.assetId,
    level: placed.shot.sound,
    fadeIn: meets(s.at, stretches[i - 1] && stretches[i - 1]!.at + stretches[i - 1]!.length) ? 0 : CLIP_FADE_S,
    fadeOut: meets(s.at + s.length, stretches[i + 1]?.at) ? 0 : CLIP_FADE_S,
    line: null,
  }));
}

/** The transitions at a slot's start and end in which both pictures run on, by the slot. */
interface Meetings {
  readonly into: ReadonlyMap<Slot, PlacedTransition>;
  readonly outOf: ReadonlyMap<Slot, PlacedTransition>;
}

function meetingsOf(montage: Montage): Meetings {
  const runOn = transitionsOf(montage).filter((t) => TRANSITIONS[t.transition.kind].layers !== null);
  return { into: new Map(runOn.map((t) => [t.after, t])), outOf: new Map(runOn.map((t) => [t.before, t])) };
}

/** A slot's sounds with those at its ends drawn out over the transitions there, as its pictures are: they fade into each other. */
function crossfaded(sounds: readonly ClipSound[], slot: Slot, meetings: Meetings, montage: Montage): readonly ClipSound[] {
  const [first, last] = [meetings.into.get(slot), meetings.outOf.get(slot)];
  if (!first && !last) return sounds;
  const seconds = (frames: number): number => frameTime(frames, montage.shape.rate);
  const [start, end] = [seconds(slot.start.frame), seconds(slot.start.frame + slot.frames)];
  return sounds.map((sound) => {
    let now = sound;
    if (first && Math.abs(now.at - start) < 1e-6) {
      // Before the clip's own start there is nothing to be heard.
      const lead = Math.min(seconds(first.cut - first.from), now.from / now.speed);
      const fadeIn = seconds(first.to - first.cut) + lead;
      now = { ...now, at: now.at - lead, length: now.length + lead, from: now.from - lead * now.speed, fadeIn };
    }
    if (last && Math.abs(now.at + now.length - end) < 1e-6) {
      const left = (clipLength(slot.placed!.item) - (now.from + now.length * now.speed)) / now.speed;
      const tail = Math.max(0, Math.min(seconds(last.to - last.cut), left));
      now = { ...now, length: now.length + tail, fadeOut: seconds(last.cut - last.from) + tail };
    }
    return now;
  });
}

/** Sound effects, each laid so that its hit is heard on its mark. */
function effectSounds(montage: Montage, length: number): ClipSound[] {
  const sounds = new Map(montage.sounds.map((s) => [s.assetId, s]));
  return firingsOf(montage).flatMap(({ effect, time }): ClipSound[] => {
    const sound = effect.kind === 'sound' ? sounds.get(effect.assetId ?? '') : undefined;
    if (!sound || effect.strength === 0) return [];
    const start = time - sound.hit;
    const from = Math.max(0, -start);
    const at = start + from;
    const heard = Math.min(sound.length - from, length - at);
    if (heard <= 1e-3) return [];
    return [
      {
        assetId: sound.assetId,
        at,
        length: heard,
        from,
        speed: 1,
        level: effect.strength,
        fadeIn: Math.min(heard / 2, Math.max(CLIP_FADE_S, effect.fadeIn ?? 0)),
        fadeOut: Math.min(heard / 2, Math.max(CLIP_FADE_S, effect.fadeOut ?? 0)),
        line: null,
      },
    ];
  });
}

/** Where the song gives way: under the sound of the shots that ask for it, those that meet as one. */
function ducksOf(montage: Montage, sounds: ReadonlyMap<Slot, readonly ClipSound[]>): Duck[] {
  const { by, beats } = montage.ducking;
  const level = 10 ** (-by / 20);
  const all = [...sounds]
    .filter(([slot, own]) => slot.placed!.shot.ducks && own.length > 0 && level < 1)
    .map(([, own]) => ({ from: Math.min(...own.map((c) => c.at)), to: Math.max(...own.map((c) => c.at + c.length)) }))
    .sort((a, b) => a.from - b.from);
  const ducks: Duck[] = [];
  for (const { from, to } of all) {
    const ramp = Math.max(CLIP_FADE_S, timeAfterBeats(montage, from, beats) - from);
    const last = ducks.at(-1);
    if (last && from - last.to <= 2 * ramp) ducks[ducks.length - 1] = { ...last, to: Math.max(last.to, to) };
    else ducks.push({ from, to, ramp, level });
  }
  return ducks;
}

/**
 * The sound of a montage as a plan; found once for each document.
 * @returns seconds; no song and no clips where there are none
 */
export const mixPlan = onceFor((montage: Montage): MixPlan => {
  const { song } = montage;
  const score = scoreOf(montage);
  const length = song ? arrangedLength(song.pieces) : 0;
  const meetings = meetingsOf(montage);
  const lines = levelLines(montage);
  const line = lines.clips.length > 0 ? lines.clips : null;
  const sounds = new Map(
    [...score.slots, ...score.over].flatMap((slot) => {
      const own = crossfaded(clipSounds(slot, montage), slot, meetings, montage);
      return own.length > 0 ? [[slot, own] as const] : [];
    }),
  );
  const ducks = ducksOf(montage, sounds);
  return {
    length,
    song: song && { assetId: song.assetId, pieces: song.pieces, fadeIn: song.fadeIn, fadeOut: song.fadeOut, line: lines.song, ducks },
    clips: [...[...sounds.values()].flat().map((sound) => (line ? { ...sound, line } : sound)), ...effectSounds(montage, length)],
  };
});

/** How far the song gives way at a moment: straight lines into and out of each stretch. */
function duckedTo(ducks: readonly Duck[], time: number): number {
  let level = 1;
  for (const duck of ducks) {
    const far = Math.max(duck.from - time, time - duck.to, 0);
    if (far < duck.ramp) level = Math.min(level, duck.level + (1 - duck.level) * (far / duck.ramp));
  }
  return level;
}

/**
 * How loud the song is at a montage time: its fades, straight lines in level, what is drawn along it, and where it gives way.
 * @param time montage seconds
 * @returns 1 is as it is; 0 where there is no song
 */
export function songLevel(plan: MixPlan, time: number): number {
  if (!plan.song) return 0;
  const { fadeIn, fadeOut, line, ducks } = plan.song;
  const rising = fadeIn > 0 ? Math.min(1, time / fadeIn) : 1;
  const falling = fadeOut > 0 ? Math.min(1, (plan.length - time) / fadeOut) : 1;
  return Math.max(0, Math.min(rising, falling)) * levelAlong(line, time) * duckedTo(ducks, time);
}

/** Whether the song is anywhere else than at its own level. */
export function isSongShaped({ song }: MixPlan): boolean {
  return song !== null && (song.fadeIn > 0 || song.fadeOut > 0 || song.line.length > 0 || song.ducks.length > 0);
}

/**
 * How loud a clip is so many seconds after it began to sound: its level with fades where it comes in and goes out, and what is
 * drawn along it.
 * @param time seconds
 * @returns a factor of amplitude, 1 is as recorded
 */
export function clipLevel(sound: ClipSound, time: number): number {
  const rising = sound.fadeIn > 0 ? Math.min(1, time / sound.fadeIn) : 1;
  const falling = sound.fadeOut > 0 ? Math.min(1, (sound.length - time) / sound.fadeOut) : 1;
  const drawn = sound.line ? levelAlong(sound.line, sound.at + time) : 1;
  return sound.level * drawn * Math.max(0, Math.min(rising, falling));
}
