import { extent, deviation } from 'd3-array';
import { scaleLinear, scaleLog } from 'd3-scale';
import { pointer } from 'd3-selection';
import { line } from 'd3-shape';
import { useMemo } from 'react';
import { doubtfulMarks, middleTempo, pulse, tempoCurve } from '@bluster/core';
import { player } from '../playback/player.ts';
import { useEditor, useMontage } from '../document/editor.ts';

const [WIDTH, HEIGHT] = [262, 84];

/**
 * The distance of each beat to the next over the song, as dots, and the tempo as a curve over them. What stands out is
 * ochre; a click goes there.
 */
export function SpacingChart(): React.JSX.Element | null {
  const montage = useMontage();
  const length = montage.song?.length ?? 0;
  const drawn = useMemo(() => {
    const beats = pulse(montage);
    const doubtful = new Set(doubtfulMarks(montage).map((d) => d.mark.id));
    const points = beats.slice(1).map((b, i) => ({
      id: b.id,
      time: b.time,
      gap: Math.max(0.02, b.time - beats[i]!.time),
      odd: doubtful.has(b.id),
    }));
    if (points.length < 3) return null;
    const times = beats.map((b) => b.time);
    const tempo = middleTempo(times)!;
    const smooth = tempoCurve(times).map((p) => ({ time: p.time, gap: 60 / p.bpm }));
    const bpm = smooth.map((p) => 60 / p.gap);
    const [low, high] = extent(points, (p) => p.gap) as [number, number];
    const middle = 60 / tempo;
    const x = scaleLinear([0, length], [0, WIDTH]);
    // Equal factors are equally far apart: half and double stand out alike.
    const y = scaleLog([Math.min(low, middle / 1.15), Math.max(high, middle * 1.15)], [HEIGHT - 5, 5]);
    const path = line<(typeof smooth)[number]>()
      .x((p) => x(p.time))
      .y((p) => y(p.gap))(smooth);
    return { points, path, x, y, middle, tempo, spread: deviation(bpm) ?? 0 };
  }, [montage, length]);
  if (!drawn) return null;
  const { points, path, x, y, middle, tempo, spread } = drawn;
  const go = (event: React.MouseEvent<SVGSVGElement>): void => {
    const [px] = pointer(event);
    const time = x.invert(px);
    const near = points.reduce((best, p) => (Math.abs(p.time - time) < Math.abs(best.time - time) ? p : best));
    // A dot that stands out is easier to meet than the others.
    const odd = points
      .filter((p) => p.odd && Math.abs(x(p.time) - px) < 5)
      .sort((a, b) => Math.abs(x(a.time) - px) - Math.abs(x(b.time) - px))[0];
    const target = odd ?? near;
    player.seekSong(target.time);
    useEditor.getState().select({ markIds: [target.id], range: null });
  };
  return (
    <section aria-label="Spacing">
      <p className="flex justify-between">
        <b className="font-semibold">Tempo</b>
        <span className="figures text-soft">
          {tempo.toFixed(1)} ± {spread.toFixed(1)} bpm
        </span>
      </p>
      <svg
        width="100%"
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        className="mt-1 cursor-pointer"
        role="img"
        data-testid="spacing-chart"
        aria-label={`Distance from beat to beat over the song; ${points.filter((p) => p.odd).length} stand out`}
        onClick={go}
      >
        <line x1="0" x2={WIDTH} y1={y(middle)} y2={y(middle)} stroke="var(--edge)" />
        {points.map((p) => (
          <circle
            key={p.id}
            cx={x(p.time)}
            cy={y(p.gap)}
            r={p.odd ? 2.8 : 1.1}
            fill={p.odd ? 'var(--gold)' : 'var(--soft)'}
            opacity={p.odd ? 1 : 0.55}
            data-odd={p.odd || undefined}
          />
        ))}
        <path d={path ?? ''} fill="none" stroke="var(--spruce)" strokeWidth="1.4" />
        {[y.domain()[1]!, y.domain()[0]!].map((gap, i) => (
          <text key={i} x="0" y={i === 0 ? 9 : HEIGHT - 1} fontSize="9.5" fill="var(--soft)">
            {Math.round(gap * 1000)} ms
          </text>
        ))}
      </svg>
    </section>
  );
}
