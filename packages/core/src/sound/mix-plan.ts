import { arrangedLength, type SongPiece } from '../music/arrangement.ts';
import type { Montage } from '../montage/document.ts';
import { scoreOf } from '../montage/score.ts';
import { frameTime } from '../time/frames.ts';

/** A stretch of a clip's own sound, under or over the song. All in seconds. */
export interface ClipSound {
  readonly assetId: string;
  /** montage time */
  readonly at: number;
  readonly length: number;
  /** clip time */
  readonly from: number;
  /** clip seconds a montage second; the pitch goes with it */
  readonly speed: number;
  readonly level: number;
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

/** The sound of a montage as a plan. */
export function mixPlan(montage: Montage): MixPlan {
  const { song } = montage;
  const clips = scoreOf(montage).slots.flatMap((slot): ClipSound[] => {
    const { placed } = slot;
    if (!placed || placed.item.kind === 'photo' || !placed.item.hasSound || placed.shot.sound === 0) return [];
    const { rate } = montage.shape;
    return [
      {
        assetId: placed.item.assetId,
        at: frameTime(slot.start.frame, rate),
        length: frameTime(placed.coveredFrames, rate),
        from: placed.shot.sourceIn,
        speed: placed.speed,
        level: placed.shot.sound,
      },
    ];
  });
  return {
    length: song ? arrangedLength(song.pieces) : 0,
    song: song && { assetId: song.assetId, pieces: song.pieces, fadeIn: song.fadeIn, fadeOut: song.fadeOut },
    clips,
  };
}

/** How loud the song is at a montage time, 0 to 1: its fades, straight lines in level. */
export function songLevel(plan: MixPlan, time: number): number {
  if (!plan.song) return 0;
  const { fadeIn, fadeOut } = plan.song;
  const rising = fadeIn > 0 ? Math.min(1, time / fadeIn) : 1;
  const falling = fadeOut > 0 ? Math.min(1, (plan.length - time) / fadeOut) : 1;
  return Math.max(0, Math.min(rising, falling));
}
