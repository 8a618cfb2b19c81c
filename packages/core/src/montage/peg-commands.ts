import { CommandError } from './command-error.ts';
import type { Handlers } from './command.ts';
import { END_PEG, type Montage, type Peg, type Shot } from './document.ts';
import { marksByRule } from './peg-rules.ts';
import { scoreOf, slotAt } from './score.ts';
import { frameAt, frameTime } from '../time/frames.ts';
import { toMontageTime } from '../music/arrangement.ts';

function mark(montage: Montage, id: string): Montage['marks'][number] {
  const found = montage.marks.find((m) => m.id === id);
  if (!found) throw new CommandError('That mark is no longer there.');
  return found;
}

/** Shots after the pegs changed: a shot whose first peg is gone goes too; the others reach to the peg that follows. */
function rehang(montage: Montage, pegs: readonly Peg[]): Montage {
  const there = new Set(pegs.map((p) => p.id));
  const next = { ...montage, pegs, shots: [] as Shot[] };
  const order = scoreOf(next).pegs.map((p) => p.id);
  const place = new Map(order.map((id, i) => [id, i]));
  const shots = montage.shots
    .filter((s) => s.startPeg === 'start' || there.has(s.startPeg))
    .map((s) => {
      const at = place.get(s.startPeg);
      if (at === undefined) return there.has(s.endPeg) || s.endPeg === END_PEG ? s : { ...s, endPeg: END_PEG };
      const endPeg = order[at + 1] ?? END_PEG;
      return endPeg === s.endPeg ? s : { ...s, endPeg };
    });
  return { ...next, shots };
}

export const pegCommands: Handlers<'hangByRule' | 'hangPeg' | 'takePeg' | 'movePeg'> = {
  hangByRule: (montage, { rule }) => {
    const marks = marksByRule(montage, rule);
    if (marks.length === 0)
      throw new CommandError(
        montage.marks.length === 0
          ? 'There are no marks to hang pegs on. Let the beats be detected in Song, or tap them.'
          : `There are no ${rule.unit}s to hang pegs on. Set where bar 1 is in Song, or choose another rule.`,
      );
    const wanted = new Set(marks.map((m) => m.id));
    // Pegs set by hand stay, and so do those that the new rule wants too: their shots keep hanging.
    const kept = montage.pegs.filter((p) => p.origin === 'hand' || (p.markId !== null && wanted.has(p.markId)));
    const pegged = new Set(kept.map((p) => p.markId));
    let lastId = montage.lastId;
    const fresh = marks
      .filter((m) => !pegged.has(m.id))
      .map((m): Peg => ({ id: `p${++lastId}`, markId: m.id, time: m.time, offset: 0, origin: 'rule' }));
    return rehang({ ...montage, lastId, pegRule: rule }, [...kept, ...fresh]);
  },

  hangPeg: (montage, ask) => {
    if (!montage.song) throw new CommandError('There is no song yet. Choose one first.');
    const chosen = 'markId' in ask ? mark(montage, ask.markId) : null;
    const time = chosen?.time ?? ('time' in ask ? ask.time : 0);
    if (chosen && montage.pegs.some((p) => p.markId === chosen.id)) return montage;
    const at = toMontageTime(montage.song.pieces, time);
    if (at === null) throw new CommandError('That moment is cut out of the song.');
    const peg: Peg = { id: `p${montage.lastId + 1}`, markId: chosen?.id ?? null, time, offset: 0, origin: 'hand' };
    const before = scoreOf(montage);
    const next = rehang({ ...montage, lastId: montage.lastId + 1 }, [...montage.pegs, peg]);
    const placed = scoreOf(next).pegs.find((p) => p.id === peg.id);
    if (!placed) throw new CommandError('There is a cut on that very frame already.');
    // The slot was divided: the clip goes on in its second half, so nothing is lost and no gap appears.
    const divided = slotAt(before, placed.frame)?.placed;
    if (!divided) return next;
    const slot = slotAt(scoreOf(next), placed.frame)!;
    const start = slotAt(before, placed.frame)!.start.frame;
    const goesOn = divided.shot.sourceIn + frameTime(placed.frame - start, montage.shape.rate) * divided.speed;
    const second: Shot = {
      ...divided.shot,
      id: `s${next.lastId + 1}`,
      startPeg: peg.id,
      endPeg: slot.end.id,
      sourceIn: divided.item.kind === 'photo' ? 0 : goesOn,
    };
    const first: Shot =
      divided.shot.retime.kind === 'fit'
        ? { ...divided.shot, endPeg: peg.id, retime: { kind: 'fit', sourceOut: goesOn } }
        : { ...divided.shot, endPeg: peg.id };
    return { ...next, lastId: next.lastId + 1, shots: [...next.shots.map((s) => (s.id === first.id ? first : s)), second] };
  },

  takePeg: (montage, { id }) => {
    if (!montage.pegs.some((p) => p.id === id))
      throw new CommandError('That peg is no longer there. The start and the end of the montage always stay.');
    return rehang(
      montage,
      montage.pegs.filter((p) => p.id !== id),
    );
  },

  movePeg: (montage, { id, to }) => {
    const peg = montage.pegs.find((p) => p.id === id);
    if (!peg) throw new CommandError('That peg is no longer there.');
    const onto = 'markId' in to ? mark(montage, to.markId) : null;
    if (onto && montage.pegs.some((p) => p.id !== id && p.markId === onto.id)) throw new CommandError('That mark has a peg already.');
    const moved: Peg = {
      ...peg,
      markId: onto?.id ?? null,
      time: onto?.time ?? ('time' in to ? to.time : peg.time),
      offset: 0,
      origin: 'hand',
    };
    return rehang(
      montage,
      montage.pegs.map((p) => (p.id === id ? moved : p)),
    );
  },
};

/** The peg on the screen's frame at a montage time, if there is one to take away. */
export function pegAtTime(montage: Montage, seconds: number): Peg | null {
  const frame = frameAt(seconds, montage.shape.rate);
  return scoreOf(montage).pegs.find((p) => p.frame === frame)?.peg ?? null;
}
