import { max } from 'd3-array';
import { scaleLinear } from 'd3-scale';
import { area, curveMonotoneX, line } from 'd3-shape';
import { clipLength, clock, stretchesOf, type FootageItem, type HitReason, type ProposedHit } from '@bluster/core';
import type { AssetAnswer as Asset, ClipLook } from '@bluster/wire';
import { useSize } from '../interface/use-size.ts';
import { StripTiles } from '../tiles/strip-tiles.tsx';

/** What a proposed hit is, in words. */
export const REASONS: Record<HitReason, string> = {
  bang: 'a bang',
  jump: 'something jumps',
  stop: 'something stops',
  turn: 'something turns',
};

interface StripProps {
  readonly item: FootageItem;
  readonly asset: Asset | undefined;
  readonly look: ClipLook | undefined;
  readonly proposals: readonly ProposedHit[];
  readonly selectId: string;
  readonly time: number;
  readonly onGoTo: (seconds: number) => void;
  readonly onSelect: (id: string) => void;
}

/** A clip's filmstrip over its length, with its selects, hits and picture changes, and its motion and sound below. */
export function ClipStrip({ item, asset, look, proposals, selectId, time, onGoTo, onSelect }: StripProps): React.JSX.Element {
  const [hold, { width }] = useSize<HTMLDivElement>();
  const length = clipLength(item);
  const at = (seconds: number): string => `${(seconds / length) * 100}%`;
  const frame = item.rate.den / item.rate.num;
  const tiles = Math.max(1, Math.round(width / 84));
  const stretches = stretchesOf(item);
  const current = stretches.find((s) => s.id === selectId) ?? stretches[0]!;
  return (
    <div>
      <div className="relative h-3.5" role="group" aria-label="Hits">
        {proposals.map((p) => (
          <button
            key={p.frame}
            className="absolute top-0.5 -translate-x-1/2 px-0.5"
            style={{ left: at(p.frame * frame), opacity: 0.45 + 0.55 * p.strength }}
            onClick={() => onGoTo(p.frame * frame + frame / 4)}
            title={`${REASONS[p.reason]} at ${clock(p.frame * frame)}`}
            aria-label={`Proposed hit at ${clock(p.frame * frame)}: ${REASONS[p.reason]}`}
            data-testid="proposed-hit"
          >
            <svg width="9" height="9" viewBox="0 0 9 9" aria-hidden>
              <path d="M1 1.5h7L4.5 8z" fill="none" stroke="var(--coral)" strokeWidth="1.2" />
            </svg>
          </button>
        ))}
        {item.selects.map(
          (s) =>
            s.hit !== null && (
              <svg
                key={s.id}
                width="11"
                height="12"
                viewBox="0 0 11 12"
                className="pointer-events-none absolute top-0.5 -translate-x-1/2"
                style={{ left: at(s.hit) }}
                data-testid="hit"
              >
                <path d="M0.5 1h10L5.5 11z" fill="var(--coral)" />
              </svg>
            ),
        )}
      </div>
      <div
        ref={hold}
        className="relative h-[50px] cursor-pointer overflow-hidden rounded-sm"
        data-testid="clip-strip"
        onPointerDown={(e) => {
          e.currentTarget.setPointerCapture(e.pointerId);
          onGoTo((e.nativeEvent.offsetX / width) * length);
        }}
        onPointerMove={(e) => e.buttons === 1 && onGoTo((e.nativeEvent.offsetX / width) * length)}
      >
        <div className="pointer-events-none">
          {width > 0 && (
            <StripTiles
              asset={asset}
              width={width}
              height={50}
              times={Array.from({ length: tiles }, (_, i) => ((i + 0.5) / tiles) * length)}
            />
          )}
        </div>
        <div className="pointer-events-none absolute inset-y-0 left-0 bg-cloth/70" style={{ width: at(current.in) }} />
        <div className="pointer-events-none absolute inset-y-0 right-0 bg-cloth/70" style={{ width: at(length - current.out) }} />
        {look?.changes.map((c) => (
          <span
            key={c.from}
            className="pointer-events-none absolute inset-y-0 bg-white/70"
            style={{ left: at(c.from * frame), width: c.kind === 'cut' ? 2 : `max(2px, ${at((c.to - c.from) * frame)})` }}
          />
        ))}
        <div className="pointer-events-none absolute inset-y-0 w-0.5 bg-coral" style={{ left: at(time) }} />
      </div>
      {item.selects.length > 1 && (
        <div className="relative mt-0.5 h-2" role="group" aria-label="Selects">
          {item.selects.map((s, i) => (
            <button
              key={s.id}
              className={`absolute h-2 rounded-sm ${s.id === current.id ? 'bg-gold-text' : 'bg-gold/60 hover:bg-gold'}`}
              style={{ left: at(s.in), width: `max(3px, ${at(s.out - s.in)})` }}
              onClick={() => onSelect(s.id)}
              aria-label={`Select ${i + 1}`}
            />
          ))}
        </div>
      )}
      {look && <Curves look={look} length={length} />}
    </div>
  );
}

/** Motion as a line, loudness as an area under it. */
function Curves({ look, length }: { look: ClipLook; length: number }): React.JSX.Element {
  const x = scaleLinear([0, Math.max(0.01, length)], [0, 1000]);
  const loud = scaleLinear([0, Math.max(0.02, max(look.soundCurve) ?? 0)], [30, 2]);
  const moved = scaleLinear([0, 255], [29, 2]);
  const sound = area<number>()
    .x((_, i) => x(i / 50))
    .y0(30)
    .y1((v) => loud(v))
    .curve(curveMonotoneX);
  const motion = line<number>()
    .x((_, i) => x((i + 0.5) / look.curveRate))
    .y((v) => moved(v))
    .curve(curveMonotoneX);
  // A long clip has more values than there are pixels.
  const every = Math.max(1, Math.ceil(look.soundCurve.length / 1500));
  const thinned =
    every === 1 ? look.soundCurve : look.soundCurve.map((v, i, all) => (i % every === 0 ? (max(all.slice(i, i + every)) ?? v) : 0));
  return (
    <svg
      viewBox="0 0 1000 30"
      preserveAspectRatio="none"
      className="mt-1 h-[30px] w-full"
      role="img"
      aria-label="How much moves in the clip, and how loud it is, over time"
    >
      {look.soundCurve.length > 0 && <path d={sound([...thinned]) ?? ''} fill="var(--wave-high)" opacity="0.65" />}
      <path
        d={motion([...look.movementCurve]) ?? ''}
        fill="none"
        stroke="var(--spruce)"
        strokeWidth="1.4"
        vectorEffect="non-scaling-stroke"
      />
    </svg>
  );
}
