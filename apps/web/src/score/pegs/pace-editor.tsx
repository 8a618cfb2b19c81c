import { Dices } from 'lucide-react';
import { useMemo, useState } from 'react';
import { paceFor, placesByRule, sectionStretch, songEnergy, toMontageTime, type Montage, type PegRule } from '@bluster/core';
import { useEditor, useMontage } from '../../document/editor.ts';
import { Button } from '../../interface/button.tsx';
import { LiveSlider } from '../../interface/live-slider.tsx';
import { useSongSound } from '../../playback/song-sound.ts';
import { hangByRule } from './hang-by-rule.ts';

type Pace = Extract<PegRule, { kind: 'pace' }>;

const WIDE = 292;
const HIGH = 44;
/** How wide a bar of the drawing is, pixels. */
const STEP = 3;

/** Pegs by the pace of the music: how lively, how free, shown over the song before they are hung. */
export function PaceEditor({ rule }: { rule: PegRule | null }): React.JSX.Element {
  const montage = useMontage();
  const section = useEditor((state) => state.section);
  const [pace, setPace] = useState<Pace>(() =>
    rule?.kind === 'pace' ? rule : (paceFor(montage, { lively: 0.5, free: 0.4, seed: 1 }) as Pace),
  );
  const stretch = useMemo(() => {
    const own = section === null ? undefined : sectionStretch(montage, section);
    return own ?? { from: 0, to: montage.song?.length ?? 0 };
  }, [montage, section]);
  const cuts = useMemo(() => placesByRule(montage, pace, stretch.from, stretch.to), [montage, pace, stretch]);
  return (
    <fieldset className="space-y-1.5 border-t border-edge pt-2.5">
      <legend className="sr-only">Pace of the music</legend>
      <PaceStrip montage={montage} stretch={stretch} times={cuts.map((c) => c.time)} />
      <p className="flex items-center justify-between gap-1 text-soft">
        calm
        <LiveSlider
          label="Calm to lively"
          value={pace.lively}
          from={0}
          to={1}
          shown={() => ''}
          wide
          onEnd={(lively) => setPace({ ...pace, lively })}
        />
        lively
      </p>
      <p className="flex items-center justify-between gap-1 text-soft">
        regular
        <LiveSlider
          label="Regular to free"
          value={pace.free}
          from={0}
          to={1}
          shown={() => ''}
          wide
          onEnd={(free) => setPace({ ...pace, free })}
        />
        free
      </p>
      <div className="flex items-center justify-between">
        <Button onClick={() => setPace({ ...pace, seed: (pace.seed + 1) % 1_000_000 })} hint="The same pace, other cuts">
          <Dices size={13} /> Other cuts
        </Button>
        <Button onClick={() => hangByRule(pace)}>
          Hang <b className="figures">{cuts.length}</b> at this pace
        </Button>
      </div>
    </fieldset>
  );
}

interface StripProps {
  readonly montage: Montage;
  readonly stretch: { readonly from: number; readonly to: number };
  /** song seconds */
  readonly times: readonly number[];
}

/** Where it would be cut, over how full the song is; what is cut out of the song is pale. */
function PaceStrip({ montage, stretch: { from, to }, times }: StripProps): React.JSX.Element {
  const peaks = useSongSound((state) => state.peaks);
  const length = Math.max(1e-6, to - from);
  const pieces = montage.song?.pieces ?? [];
  const count = Math.floor(WIDE / STEP);
  return (
    <svg width={WIDE} height={HIGH} role="img" aria-label={`${times.length} cuts over the song`} data-testid="pace-strip">
      {peaks &&
        Array.from({ length: count }, (_, i) => {
          const at = from + (i / count) * length;
          const tall = Math.min(1, songEnergy(peaks, at, at + length / count)) * (HIGH - 8);
          const heard = toMontageTime(pieces, at) !== null;
          return (
            <rect key={i} x={i * STEP} y={HIGH - tall} width={STEP - 1} height={tall} className={heard ? 'fill-soft/45' : 'fill-soft/15'} />
          );
        })}
      {times.map((time) => (
        <line
          key={time}
          x1={((time - from) / length) * WIDE}
          x2={((time - from) / length) * WIDE}
          y1={0}
          y2={HIGH}
          className="stroke-spruce"
        />
      ))}
    </svg>
  );
}
