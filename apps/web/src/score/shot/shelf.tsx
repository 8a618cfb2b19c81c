import { useDraggable } from '@dnd-kit/core';
import { useVirtualizer } from '@tanstack/react-virtual';
import { memo, useEffect, useMemo, useRef } from 'react';
import { clipLength, stretchesOf, type FootageItem } from '@bluster/core';
import type { AssetAnswer as Asset } from '@bluster/wire';
import { SelectBands } from '../../clips/footage-card.tsx';
import { filmFrame } from '../../tiles/film-frame.ts';
import { StripTiles } from '../../tiles/strip-tiles.tsx';
import { useEditor, useMontage } from '../../document/editor.ts';
import { useSize } from '../../interface/use-size.ts';
import { useHanging } from './hanging.ts';

/** A picture of the shelf: a wide one is so wide, an upright one so wide, and neither taller than this. Pixels. */
const WIDE_PX = 96;
const UPRIGHT_PX = 62;
const TALLEST_PX = 110;
const GAP_PX = 8;
const NAME_PX = 25;

/** The size of the shelf's pictures: that of the film's frame. */
function cardSize({ width, height }: { width: number; height: number }): { width: number; height: number } {
  const wide = width < height ? UPRIGHT_PX : WIDE_PX;
  return { width: wide, height: Math.min(TALLEST_PX, Math.round((wide * height) / width)) };
}

/** The footage in story order, to be dragged onto slots; only the rows in sight are on the page. */
export function Shelf({ assets }: { assets: ReadonlyMap<string, Asset> }): React.JSX.Element {
  const { footage, shots, shape } = useMontage();
  const card = cardSize(shape);
  const rowHeight = card.height + NAME_PX;
  const used = useMemo(() => new Set(shots.map((s) => s.assetId)), [shots]);
  const scroller = useRef<HTMLDivElement>(null);
  const [hold, { width }] = useSize<HTMLDivElement>();
  const columns = Math.max(1, Math.floor((width + GAP_PX) / (card.width + GAP_PX)));
  const rows = useVirtualizer({
    count: Math.ceil(footage.length / columns),
    getScrollElement: () => scroller.current,
    estimateSize: () => rowHeight,
    overscan: 2,
  });
  // Heights are remembered: those of another shape are measured anew.
  useEffect(() => rows.measure(), [rows, rowHeight]);
  if (footage.length === 0)
    return <p className="p-6 text-center text-soft">The shelf is empty. Bring clips and photos in under Footage.</p>;
  return (
    <div ref={scroller} className="h-full overflow-y-auto px-3.5 py-1.5" data-testid="shelf" tabIndex={-1}>
      <div ref={hold} className="relative" style={{ height: rows.getTotalSize() }}>
        {rows.getVirtualItems().map((row) => (
          <div
            key={row.key}
            className="absolute inset-x-0 grid"
            style={{ top: row.start, columnGap: GAP_PX, gridTemplateColumns: `repeat(${columns}, ${card.width}px)` }}
          >
            {footage.slice(row.index * columns, (row.index + 1) * columns).map((item) => (
              <ShelfCard key={item.assetId} item={item} asset={assets.get(item.assetId)} used={used.has(item.assetId)} />
            ))}
          </div>
        ))}
      </div>
    </div>
  );
}

interface CardProps {
  readonly item: FootageItem;
  readonly asset: Asset | undefined;
  readonly used: boolean;
}

const ShelfCard = memo(function ShelfCard({ item, asset, used }: CardProps): React.JSX.Element {
  const { attributes, listeners, setNodeRef, isDragging } = useDraggable({ id: `shelf-${item.assetId}`, data: { assetId: item.assetId } });
  const shape = useEditor((state) => state.history.now.shape);
  const card = cardSize(shape);
  const length = clipLength(item);
  const [first] = stretchesOf(item);
  const cover = first!.hit ?? first!.in + Math.min(0.8, (first!.out - first!.in) / 3);
  return (
    <button
      ref={setNodeRef}
      {...attributes}
      {...listeners}
      data-testid="shelf-card"
      className={`min-w-0 cursor-grab touch-none text-left ${isDragging ? 'opacity-40' : ''}`}
      onClick={() => useHanging.getState().watch(item.assetId)}
      title="Drag it onto a slot, or click to watch it"
      aria-label={`${item.name}, drag onto a slot`}
    >
      <span className="relative block">
        <StripTiles
          asset={asset}
          width={card.width}
          height={card.height}
          times={[cover]}
          framed={filmFrame(item, shape)}
          within="contain"
        />
        {item.kind === 'clip' && <SelectBands item={item} />}
      </span>
      <span className={`block truncate text-[10.5px] ${used ? 'text-soft' : 'text-ink'}`}>
        {item.name.replace(/\.\w+$/, '')} · {item.kind === 'photo' ? 'photo' : `${length.toFixed(1)} s`}
      </span>
    </button>
  );
});
