import { useDraggable } from '@dnd-kit/core';
import { useVirtualizer } from '@tanstack/react-virtual';
import { memo, useMemo, useRef } from 'react';
import { clipLength, stretchesOf, type FootageItem } from '@bluster/core';
import type { Asset } from '../api/wire.ts';
import { SelectBands } from '../footage/footage-card.tsx';
import { StripTiles } from '../footage/strip-tiles.tsx';
import { useMontage } from '../project/editor.ts';
import { useHanging } from './hanging.ts';

const COLUMNS = 4;
const ROW_PX = 79;

/** The footage in story order, to be dragged onto slots; only the rows in sight are on the page. */
export function Shelf({ assets }: { assets: ReadonlyMap<string, Asset> }): React.JSX.Element {
  const { footage, shots } = useMontage();
  const used = useMemo(() => new Set(shots.map((s) => s.assetId)), [shots]);
  const scroller = useRef<HTMLDivElement>(null);
  const rows = useVirtualizer({
    count: Math.ceil(footage.length / COLUMNS),
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW_PX,
    overscan: 2,
  });
  if (footage.length === 0)
    return <p className="p-6 text-center text-soft">The shelf is empty. Bring clips and photos in under Footage.</p>;
  return (
    <div ref={scroller} className="h-full overflow-y-auto px-3.5 py-1.5" data-testid="shelf" tabIndex={-1}>
      <div className="relative" style={{ height: rows.getTotalSize() }}>
        {rows.getVirtualItems().map((row) => (
          <div key={row.key} className="absolute inset-x-0 grid grid-cols-4 gap-x-2" style={{ top: row.start }}>
            {footage.slice(row.index * COLUMNS, (row.index + 1) * COLUMNS).map((item) => (
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
        <StripTiles asset={asset} width={100} height={54} times={[cover]} />
        {item.kind === 'clip' && <SelectBands item={item} />}
      </span>
      <span className={`block truncate text-[10.5px] ${used ? 'text-soft' : 'text-ink'}`}>
        {item.name.replace(/\.\w+$/, '')} · {item.kind === 'photo' ? 'photo' : `${length.toFixed(1)} s`}
      </span>
    </button>
  );
});
