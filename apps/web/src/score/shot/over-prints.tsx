import { framesPerSecond, type Line, type PlacedPeg, type Slot } from '@bluster/core';
import { useRef, useState } from 'react';
import type { AssetAnswer as Asset } from '@bluster/wire';
import { filmFrame } from '../../tiles/film-frame.ts';
import { StripTiles } from '../../tiles/strip-tiles.tsx';
import { lineX } from '../../lines/line-x.ts';
import { montageNow, useEditor, useMontage } from '../../document/editor.ts';
import { PegShape } from '../../lines/peg-shape.tsx';
import { placeNear } from '../pegs/peg-row.tsx';

export const OVER_HEIGHT = 27;
/** How much higher the second line's hang than the first's, pixels. */
const UPPER_RISE = 20;

interface OverProps {
  readonly line: Line;
  readonly width: number;
  readonly slots: readonly Slot[];
  readonly assets: ReadonlyMap<string, Asset>;
}

/** Cutaways, hung over the lower half of what they cover, with pegs of their own. */
export function OverPrints({ line, width, slots, assets }: OverProps): React.JSX.Element {
  const montage = useMontage();
  const chosen = useEditor((state) => state.selection.slotStart);
  const fps = framesPerSecond(montage.shape.rate);
  return (
    <>
      {slots.map((slot) => {
        const from = Math.max(line.from, slot.start.frame / fps);
        const to = Math.min(line.to, slot.end.frame / fps);
        const left = lineX(line, from, width);
        const wide = lineX(line, to, width) - left;
        if (wide < 3 || !slot.placed) return null;
        const { item, shot } = slot.placed;
        return (
          <div key={shot.id}>
            <button
              type="button"
              data-testid="over-shot"
              className={`absolute overflow-hidden rounded-[3px] bg-print p-[2px] shadow-[0_1px_4px_rgba(27,39,51,.4)] ${chosen === slot.start.id ? 'ring-[2.5px] ring-spruce' : ''}`}
              style={{ left, top: shot.upper ? -UPPER_RISE : 0, width: wide, height: OVER_HEIGHT }}
              onClick={() => useEditor.getState().select({ slotStart: slot.start.id, pegId: null, markIds: [] })}
              aria-label={`Cutaway: ${item.name}, ${slot.length.toFixed(2)} seconds${shot.upper ? ', second line' : ''}`}
            >
              {wide > 8 && (
                <StripTiles
                  asset={assets.get(item.assetId)}
                  width={Math.max(1, wide - 4)}
                  height={OVER_HEIGHT - 4}
                  framed={filmFrame(item, montage.shape, shot.framing)}
                  times={Array.from({ length: Math.max(1, Math.round(wide / 60)) }, (_, i) =>
                    slot.placed!.curve.source(((i + 0.5) * slot.length) / Math.max(1, Math.round(wide / 60))),
                  )}
                />
              )}
            </button>
            {[slot.start, slot.end].map((peg) =>
              peg.frame / fps >= line.from - 1e-6 && peg.frame / fps <= line.to + 1e-6 ? (
                <OverPeg key={peg.id} peg={peg} line={line} width={width} rise={shot.upper ? UPPER_RISE : 0} />
              ) : null,
            )}
          </div>
        );
      })}
    </>
  );
}

/** A peg of the over line, dragged to a mark or to a frame of its own. */
function OverPeg({ peg, line, width, rise }: { peg: PlacedPeg; line: Line; width: number; rise: number }): React.JSX.Element {
  const [dx, setDx] = useState<number | null>(null);
  const from = useRef(0);
  const fps = framesPerSecond(montageNow().shape.rate);
  const x = lineX(line, peg.frame / fps, width);
  const drop = (): void => {
    if (dx !== null && Math.abs(dx) > 3)
      useEditor.getState().run({ do: 'rollCut', id: peg.id, to: placeNear(montageNow(), line, width, x + dx) });
    setDx(null);
  };
  return (
    <button
      type="button"
      data-testid="over-peg"
      className="absolute z-10 -translate-x-1/2 cursor-ew-resize touch-none"
      style={{ left: x + (dx ?? 0), top: -9 - rise }}
      aria-label={`Peg of a cutaway at frame ${peg.frame}`}
      onPointerDown={(e) => {
        from.current = e.clientX;
        e.currentTarget.setPointerCapture(e.pointerId);
        setDx(0);
      }}
      onPointerMove={(e) => dx !== null && setDx(e.clientX - from.current)}
      onPointerUp={drop}
      onPointerCancel={() => setDx(null)}
    >
      <PegShape small free={!peg.mark} />
    </button>
  );
}
