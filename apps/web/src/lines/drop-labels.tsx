import { onceFor, toMontageTime, type Line, type Mark, type SongPiece } from '@bluster/core';
import { lineX } from './line-x.ts';

/** Room that a line's number and its section take, and a drop's name. Pixels. */
const HEADING_PX = 100;
const NAME_PX = 40;
/** A drop so near to the start of its line has its name after the heading, seconds. */
const AT_START_S = 0.5;

/** A drop on a line, counted through the song, and where its name begins and ends over it, pixels. */
export interface DropLabel {
  readonly id: string;
  readonly number: number;
  readonly from: number;
  readonly to: number;
}

/** The drops of a list of marks in order; found once for each, since every line asks. */
const dropsOf = onceFor((marks: readonly Mark[]) => marks.filter((m) => m.kind === 'drop').sort((a, b) => a.time - b.time));

/** The drops that lie on a line. */
export function dropLabels(marks: readonly Mark[], line: Line, pieces: readonly SongPiece[], width: number): DropLabel[] {
  return dropsOf(marks).flatMap(({ id, time: songTime }, i) => {
    const time = toMontageTime(pieces, songTime);
    if (time === null || time < line.from - 1e-6 || time >= line.to) return [];
    const from = lineX(line, time, width) + (time - line.from < AT_START_S ? HEADING_PX : 8);
    return [{ id, number: i + 1, from, to: from + NAME_PX }];
  });
}

/** The names of a line's drops, beside its heading. */
export function DropLabels({ labels }: { labels: readonly DropLabel[] }): React.JSX.Element[] {
  return labels.map(({ id, number, from }) => (
    <b key={id} className="pointer-events-none absolute top-[2px] text-[10.5px] text-coral-text" style={{ left: from }}>
      drop {number}
    </b>
  ));
}
