import { useState } from 'react';
import { scoreOf, shapeLabel, type Montage } from '@bluster/core';
import type { AssetAnswer as Asset } from '@bluster/wire';
import { OTHER_SHAPES, sizeOf, useMaking, type OtherShape, type ShapeChoice } from './making.ts';
import { ShapeFraming } from './shape-framing.tsx';
import { ShapePicture } from './shape-picture.tsx';

/** The longer side of a shape's picture, pixels. */
const PICTURE_PX = 70;

/** The shot that stands for the film: the one at a moment, or the first there is. */
function shotFor(montage: Montage, time: number): ({ readonly index: number } & ReturnType<typeof scoreOf>['slots'][number]) | undefined {
  const { slots } = scoreOf(montage);
  return slots.find((slot) => slot.placed && time >= slot.start.time && time < slot.end.time) ?? slots.find((slot) => slot.placed);
}

interface ShapesChoiceProps {
  readonly montage: Montage;
  readonly assets: ReadonlyMap<string, Asset>;
  /** the playhead, montage seconds */
  readonly now: number;
}

/** In which shapes films are made: several at once, each shown as it crops the shot at the playhead. */
export function ShapesChoice({ montage, assets, now }: ShapesChoiceProps): React.JSX.Element {
  const { shapes, side } = useMaking();
  const own = shapeLabel(montage.shape);
  const offered: ShapeChoice[] = ['own', ...OTHER_SHAPES.filter((shape) => shape !== own)];
  const shot = shotFor(montage, now);
  const [framing, setFraming] = useState<OtherShape | null>(null);
  const others = shapes.filter((shape) => shape !== 'own');
  const toggle = (shape: ShapeChoice): void => {
    const next = shapes.includes(shape) ? shapes.filter((s) => s !== shape) : offered.filter((s) => s === shape || shapes.includes(s));
    if (next.length > 0) useMaking.setState({ shapes: next });
  };
  return (
    <div role="group" aria-label="Shapes" className="grid grid-cols-5 gap-1.5">
      {offered.slice(0, 5).map((shape) => {
        const size = sizeOf(shape, montage.shape, side);
        const chosen = shapes.includes(shape);
        return (
          <button
            key={shape}
            type="button"
            role="checkbox"
            aria-checked={chosen}
            aria-label={`${shape === 'own' ? own : shape}, ${size.width}×${size.height}${shape === 'own' ? ', as the montage' : ''}`}
            className={`flex flex-col items-center gap-1 rounded-md border bg-paper px-1 pt-2 pb-1.5 ${chosen ? 'border-spruce' : 'border-edge hover:bg-cloth-2'}`}
            onClick={() => toggle(shape)}
          >
            <span className="grid place-items-center" style={{ width: PICTURE_PX, height: PICTURE_PX }}>
              {shot?.placed && (
                <ShapePicture
                  montage={montage}
                  shotId={shot.placed.shot.id}
                  asset={assets.get(shot.placed.item.assetId)}
                  size={size}
                  longer={PICTURE_PX}
                />
              )}
            </span>
            <b className={`text-[11.5px] ${chosen ? 'font-semibold' : 'font-normal text-soft'}`}>
              {shape === 'own' ? own : shape} {chosen && '✓'}
            </b>
            <span className="figures text-[10.5px] text-soft">
              {size.width}×{size.height}
            </span>
          </button>
        );
      })}
      {shot && others.length > 0 && (
        <p className="col-span-5 flex flex-wrap items-center gap-x-3 text-[12px] text-soft">
          Frame the shots for
          {others.map((shape) => (
            <button key={shape} type="button" className="text-spruce underline" onClick={() => setFraming(shape)}>
              {shape}…
            </button>
          ))}
        </p>
      )}
      {framing && shot && (
        <ShapeFraming
          montage={montage}
          assets={assets}
          shape={framing}
          size={sizeOf(framing, montage.shape, side)}
          from={shot.index}
          onClose={() => setFraming(null)}
        />
      )}
    </div>
  );
}
