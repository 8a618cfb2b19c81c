import type { Montage } from '../document/montage.ts';
import { arrangedLength, type SongPiece } from '../music/arrangement.ts';
import { sectionStretches } from '../song/sections.ts';
import { barCount } from './bar-count.ts';

/** A stretch shorter than so many bars is a remainder at a join, and belongs to no section of its own. */
const SHORTEST_BARS = 0.5;
/** As near before a bar as this a stretch begins on it, bars: sections are found a hair beside their beats. */
const BAR_HAIR = 0.06;

/** A section of a song, or the part of it that is in use, as it is compared with those of another song. */
export interface Stretch {
  /** null for a song without sections */
  readonly section: string | null;
  readonly name: string;
  /** song seconds */
  readonly from: number;
  readonly to: number;
  /** its first bar among those of the song, and how many it holds, parts allowed */
  readonly firstBar: number;
  readonly bars: number;
  /** how full it is, 0 for the quietest of its song, 1 for the fullest; null where that is not known, or all are alike */
  readonly energy: number | null;
  /** where its middle lies in what is heard, 0 to 1 */
  readonly middle: number;
  readonly drops: number;
}

/** A montage's sections where they are in use, in the order of time. @param pieces what is in use; left out, as the song was arranged */
export function stretchesOf(montage: Montage, pieces: readonly SongPiece[] = montage.song?.pieces ?? []): Stretch[] {
  const { placeOf } = barCount(montage);
  const energies = new Map(montage.song?.sections.flatMap((s) => (s.energy === undefined ? [] : [[s.id, s.energy]])));
  const [least, most] = [Math.min(...energies.values()), Math.max(...energies.values())];
  const whole = arrangedLength(pieces);
  const found: Stretch[] = [];
  let before = 0;
  for (const piece of pieces) {
    for (const { id, name, from: start, to: end } of sectionStretches(montage)) {
      const [from, to] = [Math.max(piece.from, start), Math.min(piece.to, end)];
      const firstBar = Math.ceil(placeOf(from) - BAR_HAIR);
      const bars = placeOf(to) - firstBar;
      if (to <= from || bars < SHORTEST_BARS) continue;
      const known = id === null ? undefined : energies.get(id);
      const energy = most > least && known !== undefined ? (known - least) / (most - least) : null;
      const drops = montage.marks.filter((m) => m.kind === 'drop' && m.time >= from - 0.05 && m.time < to - 0.05).length;
      const middle = whole > 0 ? (before + (from + to) / 2 - piece.from) / whole : 0;
      found.push({ section: id, name, from, to, firstBar, bars, energy, middle, drops });
    }
    before += piece.to - piece.from;
  }
  return found;
}
