import { toSongTime } from '../music/arrangement.ts';
import { frameTime } from '../time/frames.ts';
import { framesPerSecond } from '../time/rate.ts';
import { CommandError } from '../document/command-error.ts';
import type { Montage, Peg, Shot } from '../document/montage.ts';
import { freshShot, footageOf } from './hang-shot.ts';
import { rehang } from '../pegs/rehang.ts';
import { scoreOf } from '../score/score.ts';

/** A stretch of a clip in a cut that was there before the music, clip seconds. */
export interface RunStretch {
  /** null for black */
  readonly assetId: string | null;
  readonly in: number;
  readonly out: number;
  /** clip seconds a second, where it does not run as it was filmed: 0 stands, negative backwards from `in` */
  readonly speed?: number;
  /** how long it is seen, montage seconds, where that does not follow from the others */
  readonly length?: number;
}

/** How long a stretch is seen, montage seconds. */
export const runLength = ({ in: from, out, length }: RunStretch): number => length ?? out - from;

/** Speeds that shots can have; slower than the slowest, they stand. */
const SPEEDS = { least: 0.05, most: 20 } as const;

function retimeAt(speed: number): Shot['retime'] {
  if (Math.abs(speed) < SPEEDS.least) return { kind: 'freeze' };
  return { kind: 'rate', rate: Math.sign(speed) * Math.min(SPEEDS.most, Math.abs(speed)) };
}

/**
 * Lays a run of shots, one after the other and as long as they are, over the song from a frame on. Its cuts hang from free
 * pegs. What hung there makes way; what goes beyond the song's end is left out.
 * @returns the montage and how many shots found no room
 */
export function layRun(montage: Montage, run: readonly RunStretch[], at: number): { montage: Montage; left: number } {
  const score = scoreOf(montage);
  if (!montage.song) throw new CommandError('There is no song to lay under the cut yet. Choose one first.');
  if (run.length === 0) throw new CommandError('There is nothing to lay out. Choose clips, or take a film apart in Footage.');
  const { rate } = montage.shape;
  const { pieces } = montage.song;
  const fps = framesPerSecond(rate);
  const borders = [at];
  let seconds = at / fps;
  for (const stretch of run) borders.push(Math.round((seconds += runLength(stretch)) * fps));
  const fits = run.filter((_, i) => borders[i + 1]! <= score.frames && borders[i + 1]! > borders[i]!).length;
  const until = borders[fits]!;
  if (fits === 0) throw new CommandError('The song is shorter than the first shot. Choose more of the song.');
  const locked = score.slots.find((s) => s.placed?.shot.locked && s.start.frame < until && s.end.frame > at);
  if (locked) throw new CommandError('A locked shot hangs where the cut would lie. Unlock it first, or start later.');
  const gone = new Set(score.pegs.filter((p) => p.peg && p.frame >= at && p.frame <= until).map((p) => p.id));
  const covered = new Set(score.slots.filter((s) => s.start.frame >= at && s.start.frame < until).map((s) => s.start.id));
  const cleared = rehang(
    { ...montage, shots: montage.shots.filter((s) => s.over || !covered.has(s.startPeg)) },
    montage.pegs.filter((p) => !gone.has(p.id)),
  );
  let { lastId } = cleared;
  const pegs = borders
    .slice(0, fits + 1)
    .flatMap((frame): Peg[] =>
      frame === 0 || frame >= score.frames
        ? []
        : [{ id: `p${++lastId}`, markId: null, time: toSongTime(pieces, frameTime(frame, rate) + 1e-7), offset: 0, origin: 'hand' }],
    );
  // Where no peg of a rule is left, no rule holds any longer.
  const ruled = cleared.pegs.some((p) => p.origin !== 'hand');
  const pegged = rehang({ ...cleared, lastId, ...(ruled ? {} : { pegRule: null, sectionRules: [] }) }, [...cleared.pegs, ...pegs]);
  const placed = new Map(scoreOf(pegged).pegs.map((p) => [p.frame, p.id]));
  const shots = run.slice(0, fits).flatMap((stretch, i): Shot[] => {
    if (stretch.assetId === null) return [];
    const item = footageOf(montage, stretch.assetId);
    const fresh = freshShot(item, placed.get(borders[i]!)!, placed.get(borders[i + 1]!)!, stretch.in);
    const retime = item.kind === 'photo' || stretch.speed === undefined ? fresh.retime : retimeAt(stretch.speed);
    return [{ ...fresh, retime, id: `s${++lastId}` }];
  });
  const starts = new Set(shots.map((s) => s.startPeg));
  const kept = pegged.shots.filter((s) => s.over || !starts.has(s.startPeg));
  return { montage: { ...pegged, lastId, shots: [...kept, ...shots] }, left: run.length - fits };
}
