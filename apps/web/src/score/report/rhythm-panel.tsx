import { max } from 'd3-array';
import { scaleBand, scaleLinear } from 'd3-scale';
import { area, curveStep } from 'd3-shape';
import { useMemo, useState } from 'react';
import { frameTime, scoreOf, songEnergy, toSongTime, varietyOf, type Montage } from '@bluster/core';
import { Button } from '../../interface/button.tsx';
import { player } from '../../playback/player.ts';
import { useSongSound } from '../../playback/song-sound.ts';
import { useEditor, useMontage } from '../../document/editor.ts';

const [WIDTH, STRIP, BARS] = [424, 92, 76];
const ENERGY_STEPS = 140;

/** How predictable the cutting is, and a way to loosen it. */
export function RhythmPanel(): React.JSX.Element {
  const montage = useMontage();
  const [share, setShare] = useState(0.3);
  const [seed, setSeed] = useState(1);
  const variety = useMemo(() => varietyOf(montage), [montage]);
  if (variety.lengths.length < 2) return <p className="p-6 text-center text-soft">There is no rhythm yet. Hang pegs first.</p>;
  const percent = Math.round(variety.predictable * 100);
  const loosen = (): void => {
    if (useEditor.getState().run({ do: 'loosenCuts', seed, share })) setSeed(seed + 1);
  };
  return (
    <div className="space-y-3 px-3.5 py-2" data-testid="rhythm">
      <p>
        From the cuts before, <b className="figures">{percent} %</b> of the slots could be foretold.{' '}
        <span className="text-soft">
          {percent > 80 ? 'Very regular: loosen some.' : percent > 55 ? 'Regular, with some surprise.' : 'Varied.'}
        </span>
      </p>
      <RhythmStrip montage={montage} />
      <Histogram histogram={variety.histogram} />
      <div className="flex items-center gap-2 border-t border-edge pt-2.5">
        <label className="flex flex-1 items-center gap-2 text-soft">
          move about
          <input
            type="range"
            min={0.1}
            max={0.9}
            step={0.1}
            value={share}
            onChange={(e) => setShare(Number(e.target.value))}
            className="min-w-0 flex-1 accent-spruce"
            aria-label="Share of the cuts that may move"
          />
          <span className="figures text-ink">{Math.round(share * 100)} %</span>
        </label>
        <Button onClick={loosen} hint="Moves some cuts to other good marks; drops, cues and locked shots stay">
          Loosen
        </Button>
      </div>
    </div>
  );
}

/** Each slot as a block, as tall as it is short, over the energy of the song. */
function RhythmStrip({ montage }: { montage: Montage }): React.JSX.Element {
  const peaks = useSongSound((state) => state.peaks);
  const { slots, length } = scoreOf(montage);
  const { rate } = montage.shape;
  const x = scaleLinear([0, Math.max(0.1, length)], [0, WIDTH]);
  const shortest = Math.min(...slots.map((s) => s.length));
  const y = scaleLinear([0, 1], [STRIP, 8]);
  const pieces = montage.song?.pieces ?? [];
  const energy = peaks
    ? Array.from({ length: ENERGY_STEPS }, (_, i) => {
        const from = toSongTime(pieces, (i / ENERGY_STEPS) * length);
        return songEnergy(peaks, from, from + length / ENERGY_STEPS);
      })
    : [];
  const most = max(energy) ?? 1;
  const shape = area<number>()
    .x((_, i) => x((i / ENERGY_STEPS) * length))
    .y0(STRIP)
    .y1((v) => y(v / most))
    .curve(curveStep);
  return (
    <figure>
      <svg
        viewBox={`0 0 ${WIDTH} ${STRIP}`}
        className="w-full cursor-pointer"
        role="img"
        aria-label="How fast the cuts follow one another over the song, against its energy"
        data-testid="rhythm-strip"
        onClick={(e) => player.seek((e.nativeEvent.offsetX / e.currentTarget.clientWidth) * length)}
      >
        <path d={shape(energy) ?? ''} fill="var(--wave)" opacity="0.4" />
        {slots.map((s) => {
          const from = x(frameTime(s.start.frame, rate));
          const tall = Math.max(3, (STRIP - 10) * Math.sqrt(shortest / s.length));
          return (
            <rect
              key={s.start.id}
              x={from + 0.5}
              y={STRIP - tall}
              width={Math.max(0.8, x(s.length) - 1)}
              height={tall}
              fill="none"
              stroke="var(--spruce)"
              strokeWidth="1"
            />
          );
        })}
      </svg>
      <figcaption className="text-[11px] text-soft">Taller is faster; the ground is the song’s energy.</figcaption>
    </figure>
  );
}

function Histogram({ histogram }: { histogram: readonly { beats: number; count: number }[] }): React.JSX.Element {
  const shown = histogram.slice(0, 14);
  const x = scaleBand(
    shown.map((h) => String(h.beats)),
    [0, WIDTH],
  ).padding(0.25);
  const y = scaleLinear([0, max(shown, (h) => h.count) ?? 1], [BARS - 16, 12]);
  return (
    <figure>
      <svg
        viewBox={`0 0 ${WIDTH} ${BARS}`}
        className="w-full"
        role="img"
        aria-label={`Lengths in beats: ${shown.map((h) => `${h.count} of ${h.beats}`).join(', ')}`}
      >
        {shown.map((h) => (
          <g key={h.beats}>
            <rect
              x={x(String(h.beats))}
              width={Math.min(46, x.bandwidth())}
              y={y(h.count)}
              height={BARS - 16 - y(h.count)}
              fill="var(--spruce)"
              opacity="0.75"
              rx="1.5"
            />
            <text
              x={x(String(h.beats))! + Math.min(46, x.bandwidth()) / 2}
              y={y(h.count) - 3}
              textAnchor="middle"
              fontSize="10"
              fill="var(--ink)"
            >
              {h.count}
            </text>
            <text
              x={x(String(h.beats))! + Math.min(46, x.bandwidth()) / 2}
              y={BARS - 4}
              textAnchor="middle"
              fontSize="10"
              fill="var(--soft)"
            >
              {h.beats}
            </text>
          </g>
        ))}
      </svg>
      <figcaption className="text-[11px] text-soft">How many slots are how many beats long.</figcaption>
    </figure>
  );
}
