import { CommandError } from '../document/command-error.ts';
import type { Montage, Shot } from '../document/montage.ts';
import { fill } from './fill.ts';
import { FILL_DEFAULTS } from './fill-options.ts';
import { rehang } from '../pegs/rehang.ts';
import { SPEED_LIMITS } from '../score/retime.ts';
import { scoreOf, type Slot } from '../score/score.ts';
import { clipLength } from '../document/footage-item.ts';

/**
 * What can be done about a gap: more of the clip, a slower clip, its last frame, the shot before it reaches over it, or
 * the next clip in story order that is long enough.
 */
export type GapRemedy = 'handles' | 'slow' | 'hold' | 'reach-over' | 'fill';

/** A slot in which something is missing. */
export interface Gap {
  readonly slot: Slot;
  /** montage seconds without a picture */
  readonly missing: number;
  /** what would close it whole */
  readonly remedies: readonly GapRemedy[];
}

function covering(slot: Slot, remedy: GapRemedy): Shot | null {
  const { placed, length } = slot;
  if (!placed || placed.shot.retime.kind !== 'rate') return null;
  const { until, ...shot } = placed.shot;
  const whole = clipLength(placed.item);
  const speed = placed.speed;
  if (remedy === 'hold') return { ...placed.shot, whenShort: 'hold' };
  if (speed <= 0) return null;
  if (remedy === 'handles') {
    // First what lies behind its out, then what lies before its in.
    const needed = length * speed;
    if (needed > whole + 1e-6) return null;
    return { ...shot, sourceIn: Math.max(0, Math.min(shot.sourceIn, whole - needed)) };
  }
  const end = until ?? whole;
  return remedy === 'slow' && (end - shot.sourceIn) / length >= SPEED_LIMITS.slowest
    ? { ...shot, retime: { kind: 'fit', sourceOut: end } }
    : null;
}

/**
 * Everything that is missing in a montage, in order.
 * @returns none where every slot is filled over its whole length
 */
export function gapsOf(montage: Montage): Gap[] {
  const { slots } = scoreOf(montage);
  return slots.flatMap((slot, i): Gap[] => {
    const short = slot.placed && slot.placed.missing > 0 && slot.placed.shot.whenShort === 'gap';
    if (slot.placed && !short) return [];
    const own = (['handles', 'slow', 'hold'] as const).filter((remedy) => covering(slot, remedy) !== null);
    const before = slots[i - 1]?.placed;
    const others: GapRemedy[] = montage.footage.length > 0 && !slot.placed?.shot.locked ? ['fill'] : [];
    const remedies = slot.placed ? [...own, ...others] : before ? [...others, 'reach-over' as const] : others;
    return [{ slot, missing: slot.placed?.missing ?? slot.length, remedies }];
  });
}

/**
 * The gaps of some slots closed in one way, as far as each can be.
 * @throws CommandError where none of them can
 */
export function withoutGaps(montage: Montage, startPegs: readonly string[], remedy: GapRemedy): Montage {
  const wanted = new Set(startPegs);
  const able = gapsOf(montage).filter((g) => wanted.has(g.slot.start.id) && g.remedies.includes(remedy));
  if (able.length === 0) throw new CommandError('These gaps cannot be closed in this way. Choose another, or hang a longer clip.');
  if (remedy === 'fill')
    return fill(montage, { ...FILL_DEFAULTS, scope: 'chosen', slots: able.map((g) => g.slot.start.id), tooShort: 'next' });
  if (remedy === 'reach-over') {
    const gone = new Set(able.map((g) => g.slot.start.id));
    return rehang(
      montage,
      montage.pegs.filter((p) => !gone.has(p.id)),
    );
  }
  const shots = new Map(able.map(({ slot }) => [slot.placed!.shot.id, covering(slot, remedy)!]));
  return { ...montage, shots: montage.shots.map((s) => shots.get(s.id) ?? s) };
}

/** In which order what is missing is made up for: what is seen least first. */
const IN_ORDER: readonly GapRemedy[] = ['handles', 'slow', 'fill', 'hold', 'reach-over'];

/** Gaps closed one way after the other, as far as each goes. @returns the same montage where there is none */
export function withGapsClosed(montage: Montage): Montage {
  return IN_ORDER.reduce((m, remedy) => {
    const able = gapsOf(m).filter((g) => g.remedies.includes(remedy));
    return able.length === 0
      ? m
      : withoutGaps(
          m,
          able.map((g) => g.slot.start.id),
          remedy,
        );
  }, montage);
}
