import { arrangedLength, type SongPiece } from '../music/arrangement.ts';
import type { Montage } from '../document/montage.ts';
import { scoreOf, type Slot } from '../score/score.ts';
import { firingsOf } from '../finish/firings.ts';
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
  /** whether the sound comes in or goes out here, or goes on in the next stretch */
  readonly comesIn: boolean;
  readonly goesOut: boolean;
}

/** What is heard when. The song plays through at its own level, whatever the clips do. */
export interface MixPlan {
  readonly length: number;
  readonly song: {
    readonly assetId: string;
    readonly pieces: readonly SongPiece[];
    readonly fadeIn: number;
    readonly fadeOut: number;
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
    comesIn: !meets(s.at, stretches[i - 1] && stretches[i - 1]!.at + stretches[i - 1]!.length),
    goesOut: !meets(s.at + s.length, stretches[i + 1]?.at),
  }));
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
    return [{ assetId: sound.assetId, at, length: heard, from, speed: 1, level: effect.strength, comesIn: true, goesOut: true }];
  });
}

/**
 * The sound of a montage as a plan.
 * @returns seconds; no song and no clips where there are none
 */
export function mixPlan(montage: Montage): MixPlan {
  const { song } = montage;
  const score = scoreOf(montage);
  const length = song ? arrangedLength(song.pieces) : 0;
  return {
    length,
    song: song && { assetId: song.assetId, pieces: song.pieces, fadeIn: song.fadeIn, fadeOut: song.fadeOut },
    clips: [...[...score.slots, ...score.over].flatMap((slot) => clipSounds(slot, montage)), ...effectSounds(montage, length)],
  };
}

/**
 * How loud the song is at a montage time, 0 to 1: its fades, straight lines in level.
 * @param time montage seconds
 * @returns 0 where there is no song
 */
export function songLevel(plan: MixPlan, time: number): number {
  if (!plan.song) return 0;
  const { fadeIn, fadeOut } = plan.song;
  const rising = fadeIn > 0 ? Math.min(1, time / fadeIn) : 1;
  const falling = fadeOut > 0 ? Math.min(1, (plan.length - time) / fadeOut) : 1;
  return Math.max(0, Math.min(rising, falling));
}

/**
 * How loud a clip is so many seconds after it began to sound: its level with short fades where it comes in and goes out.
 * @param time seconds
 * @returns 0 to 1, as a factor of amplitude
 */
export function clipLevel(sound: ClipSound, time: number): number {
  const rising = sound.comesIn ? Math.min(1, time / CLIP_FADE_S) : 1;
  const falling = sound.goesOut ? Math.min(1, (sound.length - time) / CLIP_FADE_S) : 1;
  return sound.level * Math.max(0, Math.min(rising, falling));
}
