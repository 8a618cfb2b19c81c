import { CommandError } from '../document/command-error.ts';
import type { Montage, PegRule } from '../document/montage.ts';
import { framesPerSecond } from '../time/rate.ts';
import { pegCommands } from '../pegs/commands.ts';
import { rehang } from '../pegs/rehang.ts';
import { pegsOf, scoreOf } from '../score/score.ts';

/** How a first cut is paced. */
export interface CutWish {
  /** 0 is calm, 1 lively */
  readonly lively: number;
  /** 0 is regular, 1 free */
  readonly free: number;
  readonly seed: number;
}

/** Shorter than this the eye takes nothing in, seconds. */
const EYE_S = 0.3;

/** The pace of the music, at the montage's rate. */
export function paceFor(montage: Montage, { lively, free, seed }: CutWish): PegRule {
  return { kind: 'pace', lively, free, seed, least: Math.max(1, Math.round(EYE_S * framesPerSecond(montage.shape.rate))) };
}

/** Pegs hung by the music's pace; those that hold a locked shot stay, and none comes to hang inside of it. */
export function withPegsAtPace(montage: Montage, wish: CutWish): Montage {
  if (montage.marks.length === 0) throw new CommandError('A first cut needs marks. Let the beats be found under Song, or tap them.');
  const locked = scoreOf(montage).slots.filter((s) => s.placed?.shot.locked);
  const held = new Set(locked.flatMap((s) => [s.start.id, s.end.id]));
  const kept = { ...montage, pegs: montage.pegs.map((p) => (held.has(p.id) ? { ...p, origin: 'hand' as const } : p)) };
  const before = new Set(kept.pegs.map((p) => p.id));
  const hung = pegCommands.hangByRule.carryOut(kept, { rule: paceFor(montage, wish) });
  const inside = new Set(
    pegsOf(hung).pegs.flatMap(({ id, frame }) =>
      !before.has(id) && locked.some((s) => frame > s.start.frame && frame < s.end.frame) ? [id] : [],
    ),
  );
  if (inside.size === 0) return hung;
  const freed = rehang(
    hung,
    hung.pegs.filter((p) => !inside.has(p.id)),
  );
  // Their ends are where they were, whatever hung between for a moment.
  const ends = new Map(locked.map((s) => [s.placed!.shot.id, s.placed!.shot]));
  return { ...freed, shots: freed.shots.map((s) => ends.get(s.id) ?? s) };
}
