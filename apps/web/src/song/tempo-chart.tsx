import { extent, line, mean, scaleLinear, deviation } from 'd3';
import { pulse } from '@bluster/core';
import { player } from '../playback/player.ts';
import { useMontage } from '../project/editor.ts';

const [WIDTH, HEIGHT] = [262, 62];

/** Tempo from beat to beat over the song; a click goes there. */
export function TempoChart(): React.JSX.Element | null {
  const montage = useMontage();
  const beats = pulse(montage);
  const points = beats.slice(1).map((b, i) => ({ time: b.time, bpm: 60 / Math.max(0.05, b.time - beats[i]!.time) }));
  if (points.length < 3 || !montage.song) return null;
  const middle = mean(points, (p) => p.bpm)!;
  const spread = deviation(points, (p) => p.bpm) ?? 0;
  const [low, high] = extent(points, (p) => p.bpm) as [number, number];
  const x = scaleLinear([0, montage.song.length], [0, WIDTH]);
  const y = scaleLinear([Math.min(low, middle - 1), Math.max(high, middle + 1)], [HEIGHT - 4, 4]).nice();
  const path = line<(typeof points)[number]>()
    .x((p) => x(p.time))
    .y((p) => y(p.bpm));
  const [bottom, top] = y.domain() as [number, number];
  return (
    <section aria-label="Tempo">
      <p className="flex justify-between">
        <b className="font-semibold">Tempo</b>
        <span className="figures text-soft">
          {middle.toFixed(1)} ± {spread.toFixed(1)} bpm
        </span>
      </p>
      <svg
        width="100%"
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        className="mt-1 cursor-pointer"
        role="img"
        aria-label={`Tempo from ${low.toFixed(0)} to ${high.toFixed(0)} beats a minute`}
        onClick={(e) => player.seekSong(x.invert((e.nativeEvent.offsetX / e.currentTarget.clientWidth) * WIDTH))}
      >
        <line x1="0" x2={WIDTH} y1={y(middle)} y2={y(middle)} stroke="var(--edge)" />
        <path d={path(points) ?? ''} fill="none" stroke="var(--spruce)" strokeWidth="1.5" />
        <text x="0" y="9" fontSize="9.5" fill="var(--soft)">
          {top.toFixed(0)}
        </text>
        <text x="0" y={HEIGHT - 1} fontSize="9.5" fill="var(--soft)">
          {bottom.toFixed(0)}
        </text>
      </svg>
    </section>
  );
}
