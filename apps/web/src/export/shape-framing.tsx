import { ChevronLeft, ChevronRight } from 'lucide-react';
import { useState } from 'react';
import {
  carryOut,
  covering,
  framingScale,
  ownView,
  scoreOf,
  standingView,
  type Framing,
  type Montage,
  type ShapeView,
  type View,
} from '@bluster/core';
import type { AssetAnswer as Asset } from '@bluster/wire';
import { useEditor } from '../document/editor.ts';
import { Button } from '../interface/button.tsx';
import { Choice } from '../interface/choice.tsx';
import { Dialog } from '../interface/dialog.tsx';
import { ShapePicture } from './shape-picture.tsx';

/** The longer side of the picture, pixels. */
const LONGER = 380;
const ZOOMS = { least: 1, most: 4 } as const;
const FRAMINGS = [
  ['fill', 'fill'],
  ['fit', 'fit'],
] as const;
/** How far an arrow key moves the picture, a part of it. */
const STEP = 0.01;

interface ShapeFramingProps {
  readonly montage: Montage;
  readonly assets: ReadonlyMap<string, Asset>;
  /** as "9:16" */
  readonly shape: string;
  readonly size: { readonly width: number; readonly height: number };
  /** the first slot that is shown */
  readonly from: number;
  readonly onClose: () => void;
}

/** Frames the shots for films of another shape, one after the other: dragged, enlarged, or as in the montage. */
export function ShapeFraming({ montage, assets, shape, size, from, onClose }: ShapeFramingProps): React.JSX.Element | null {
  const filled = scoreOf(montage).slots.filter((slot) => slot.placed);
  const [at, setAt] = useState(() =>
    Math.max(
      0,
      filled.findIndex((slot) => slot.index >= from),
    ),
  );
  const [draft, setDraft] = useState<ShapeView | null>(null);
  const slot = filled[Math.min(at, filled.length - 1)];
  if (!slot?.placed) return null;
  const { shot, item } = slot.placed;
  const own = ownView(shot, size);
  const stands: ShapeView = draft ?? own ?? { shape, framing: shot.framing, ...(shot.view ? { view: shot.view } : {}) };
  const view: View = stands.view ?? standingView(stands, item);
  const ask = (next: ShapeView | null): Parameters<typeof carryOut>[1] => {
    const { framing, view: framed } = next ?? stands;
    return { do: 'setShapeView', ids: [shot.id], shape, stands: next && { framing, ...(framed ? { view: framed } : {}) } };
  };
  const commit = (next: ShapeView | null): void => {
    setDraft(null);
    useEditor.getState().run(ask(next));
  };
  const held = (to: Partial<View>): ShapeView => {
    const wanted = { ...view, ...to };
    return { ...stands, shape, view: stands.framing === 'fill' ? covering(wanted, item, size) : wanted };
  };
  const shown = draft ? carryOut(montage, ask(draft)) : montage;
  const scale = (LONGER / Math.max(size.width, size.height)) * framingScale(item, size, stands.framing) * view.zoom;
  const drag = (event: React.PointerEvent<HTMLElement>): void => {
    event.preventDefault();
    const target = event.currentTarget;
    target.setPointerCapture(event.pointerId);
    const [x, y] = [event.clientX, event.clientY];
    let now: ShapeView | null = null;
    const move = (e: PointerEvent): void => {
      now = held({ x: view.x - (e.clientX - x) / (item.width * scale), y: view.y - (e.clientY - y) / (item.height * scale) });
      setDraft(now);
    };
    const up = (): void => {
      target.removeEventListener('pointermove', move);
      target.removeEventListener('pointerup', up);
      if (now) commit(now);
    };
    target.addEventListener('pointermove', move);
    target.addEventListener('pointerup', up);
  };
  const nudge = (event: React.KeyboardEvent): void => {
    const by = ({ ArrowLeft: [1, 0], ArrowRight: [-1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] } as const)[event.key as 'ArrowLeft'];
    if (!by as boolean) return;
    event.preventDefault();
    event.stopPropagation();
    commit(held({ x: view.x + by[0] * STEP, y: view.y + by[1] * STEP }));
  };
  return (
    <Dialog open onClose={onClose} title={`Shots in ${shape}`} wide>
      <div className="flex gap-5">
        <div
          role="application"
          tabIndex={0}
          aria-label={`Picture of shot ${at + 1} in ${shape}: drag it, or move it with the arrow keys`}
          className="cursor-move touch-none select-none"
          onPointerDown={drag}
          onKeyDown={nudge}
          data-testid="shape-picture"
        >
          <ShapePicture montage={shown} shotId={shot.id} asset={assets.get(item.assetId)} size={size} longer={LONGER} />
        </div>
        <div className="flex min-w-0 flex-1 flex-col gap-3">
          <p>
            <b>
              Shot {at + 1} of {filled.length}
            </b>
            <span className="block truncate text-soft">{item.name}</span>
          </p>
          <p className="text-[12.5px] text-soft">
            {own ? `Framed for ${shape} alone.` : 'As in the montage.'} Drag the picture; the montage’s own shape stays as it is.
          </p>
          <Choice label="Framing" value={stands.framing} options={FRAMINGS} onChoose={(framing: Framing) => commit({ shape, framing })} />
          <label className="flex items-center gap-2 text-[12.5px]">
            Larger
            <input
              type="range"
              min={ZOOMS.least}
              max={ZOOMS.most}
              step={0.01}
              value={view.zoom}
              aria-label="Larger"
              className="flex-1 accent-spruce"
              onChange={(e) => setDraft(held({ zoom: Number(e.target.value) }))}
              onPointerUp={() => draft && commit(draft)}
              onKeyUp={() => draft && commit(draft)}
            />
            <span className="figures w-12 text-right">{Math.round(view.zoom * 100)} %</span>
          </label>
          <Button disabled={!own} onClick={() => commit(null)}>
            As in the montage
          </Button>
          <p className="mt-auto flex items-center justify-between">
            <span className="flex gap-1.5">
              <Button disabled={at === 0} onClick={() => setAt(at - 1)} aria-label="The shot before">
                <ChevronLeft size={14} />
              </Button>
              <Button disabled={at >= filled.length - 1} onClick={() => setAt(at + 1)} aria-label="The next shot">
                <ChevronRight size={14} />
              </Button>
            </span>
            <Button look="main" onClick={onClose}>
              Done
            </Button>
          </p>
        </div>
      </div>
    </Dialog>
  );
}
