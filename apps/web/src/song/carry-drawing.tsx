import { scaleLinear } from 'd3-scale';
import { arrangedLength, frameTime, scoreOf, toMontageTime, toSongTime, type CarriedOver, type Montage, type Stretch } from '@bluster/core';

const LINE = 44;
const BETWEEN = 46;
const NAMES = 16;

/** A montage on its old song and on the new one, one under the other: sections, which takes its cut from which, and what hangs where. */
export function CarryDrawing({
  source,
  carried,
  width,
}: {
  source: Montage;
  carried: CarriedOver;
  width: number;
}): React.JSX.Element | null {
  if (width < 1) return null;
  const { montage, old, fresh, matching, left } = carried;
  const longest = Math.max(arrangedLength(source.song!.pieces), arrangedLength(montage.song!.pieces));
  const x = scaleLinear([0, longest], [1, width - 1]);
  const place = (m: Montage, time: number): number => x(toMontageTime(m.song!.pieces, time) ?? arrangedLength(m.song!.pieces));
  const ends = (m: Montage, { from, to }: Stretch): [number, number] => {
    const inside = m.song!.pieces.find((p) => to > p.from && from < p.to);
    return inside ? [place(m, Math.max(from, inside.from)), place(m, Math.min(to, inside.to) - 1e-6)] : [0, 0];
  };
  const lost = new Set(left.filter((l) => l.what === 'shot').map((l) => l.at.toFixed(3)));
  const below = NAMES + LINE + BETWEEN;
  return (
    <svg
      width={width}
      height={below + LINE + NAMES}
      role="img"
      aria-label={`${old.length} sections before, ${fresh.length} after; ${carried.counts.shots} shots come along`}
      data-testid="carry-drawing"
    >
      {matching.map((i, j) => {
        if (i === null) return null;
        const [a, b] = ends(source, old[i]!);
        const [c, d] = ends(montage, fresh[j]!);
        if (d <= c) return null;
        const [top, bottom, middle] = [NAMES + LINE + 3, below - 3, NAMES + LINE + BETWEEN / 2];
        return (
          <path
            key={j}
            d={`M${a},${top}C${a},${middle} ${c},${middle} ${c},${bottom}L${d},${bottom}C${d},${middle} ${b},${middle} ${b},${top}Z`}
            className={i % 2 === 0 ? 'fill-spruce/15' : 'fill-gold/20'}
          />
        );
      })}
      <HungLine montage={source} stretches={old} y={NAMES} nameY={11} {...{ x, ends }} isLost={(at) => lost.has(at.toFixed(3))} />
      <HungLine montage={montage} stretches={fresh} y={below} nameY={below + LINE + 12} {...{ x, ends }} />
    </svg>
  );
}

interface HungLineProps {
  readonly montage: Montage;
  readonly stretches: readonly Stretch[];
  readonly y: number;
  readonly nameY: number;
  readonly x: (seconds: number) => number;
  readonly ends: (montage: Montage, stretch: Stretch) => [number, number];
  /** of a slot that begins at a song time: whether its shot finds no place */
  readonly isLost?: (songTime: number) => boolean;
}

/** What hangs on one song: each slot as a print, dashed where it is empty. */
function HungLine({ montage, stretches, y, nameY, x, ends, isLost }: HungLineProps): React.JSX.Element {
  const { rate } = montage.shape;
  let before = -Infinity;
  return (
    <g>
      {stretches.map((stretch, i) => {
        const [from, to] = ends(montage, stretch);
        if (to <= from) return null;
        const named = from > before;
        if (named) before = from + stretch.name.length * 6.5 + 6;
        return (
          <g key={i}>
            <line x1={from} x2={from} y1={y - 2} y2={y + LINE + 2} className="stroke-ink/50" />
            {named && (
              <text x={from + 2} y={nameY} className="fill-soft text-[11px]">
                {stretch.name || 'all of it'}
              </text>
            )}
          </g>
        );
      })}
      {scoreOf(montage).slots.map(({ start, frames, placed }) => {
        const [from, to] = [x(frameTime(start.frame, rate)), x(frameTime(start.frame + frames, rate))];
        const gone = placed && isLost?.(toSongTime(montage.song!.pieces, Math.max(0, start.time)));
        const look = !placed ? 'fill-none stroke-soft/60' : gone ? 'fill-coral/70 stroke-paper' : 'fill-spruce/75 stroke-paper';
        return (
          <rect
            key={start.id}
            x={from + 0.5}
            y={y + 4}
            width={Math.max(0.8, to - from - 1)}
            height={LINE - 8}
            rx={1.5}
            className={look}
            strokeDasharray={placed ? undefined : '3 2'}
          >
            <title>{placed ? `${placed.item.name}${gone ? ': finds no place' : ''}` : 'empty slot'}</title>
          </rect>
        );
      })}
    </g>
  );
}
