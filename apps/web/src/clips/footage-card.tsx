import { useDraggable, useDroppable } from '@dnd-kit/core';
import { Star, Trash2, Volume2 } from 'lucide-react';
import { memo, useState } from 'react';
import { clipLength, stretchesOf, type FootageItem } from '@bluster/core';
import type { AssetAnswer as Asset } from '@bluster/wire';
import { useEditor } from '../document/editor.ts';
import { filmFrame } from '../tiles/film-frame.ts';
import { StripTiles } from '../tiles/strip-tiles.tsx';

interface CardProps {
  readonly number: number;
  readonly item: FootageItem;
  readonly asset: Asset | undefined;
  readonly uses: number;
  readonly chosen: boolean;
  /** its place among those that were picked together, from 1; 0 where it is not one of them */
  readonly picked: number;
  /** whether the cards stand in story order and may be carried */
  readonly movable: boolean;
  /** whether any card is being carried, so that this one is a place to put it */
  readonly carrying: boolean;
  /** on which side what is carried over it will be put */
  readonly landing: 'before' | 'after' | null;
  readonly onChoose: (item: FootageItem, how: 'only' | 'also' | 'through') => void;
  readonly onRemove: (item: FootageItem) => void;
}

/** A clip or photo in the story. Painted again only when something of it changes: hundreds may be scrolled past. */
export const FootageCard = memo(function FootageCard(props: CardProps): React.JSX.Element {
  const { number, item, asset, uses, chosen, picked, movable, carrying, landing, onChoose, onRemove } = props;
  const drag = useDraggable({ id: item.assetId, disabled: !movable });
  // What only one card at a time shows need not be made for hundreds.
  const [near, setNear] = useState(false);
  const shape = useEditor((state) => state.history.now.shape);
  const length = clipLength(item);
  const [first] = stretchesOf(item);
  const cover = first!.hit ?? first!.in + Math.min(0.8, (first!.out - first!.in) / 3);
  return (
    <div
      ref={drag.setNodeRef}
      className={`relative ${drag.isDragging ? 'opacity-50' : ''}`}
      data-testid="footage-card"
      onPointerEnter={() => setNear(true)}
      onPointerLeave={() => setNear(false)}
      onFocus={() => setNear(true)}
      onBlur={(e) => setNear(e.currentTarget.contains(e.relatedTarget) || e.currentTarget.matches(':hover'))}
    >
      {carrying && <DropPlace id={item.assetId} />}
      {landing && (
        <span className={`absolute top-0 h-[87px] w-[3px] rounded bg-spruce ${landing === 'before' ? '-left-[8px]' : '-right-[8px]'}`} />
      )}
      <button
        {...drag.attributes}
        {...drag.listeners}
        onClick={(e) => onChoose(item, e.shiftKey ? 'through' : e.ctrlKey || e.metaKey ? 'also' : 'only')}
        className={`block w-full overflow-hidden bg-print p-[3px] text-left shadow-sm ${chosen ? 'ring-2 ring-spruce' : picked > 0 ? 'ring-2 ring-spruce/50' : ''}`}
        aria-label={`${item.name}, number ${number} in the story`}
        aria-pressed={chosen || picked > 0}
      >
        <span className="relative block">
          <span className="block h-[81px] bg-cloth-2">
            <StripTiles asset={asset} width={144} height={81} times={[cover]} framed={filmFrame(item, shape)} within="contain" />
          </span>
          {picked > 0 && (
            <span className="figures absolute top-1 left-1 grid size-5 place-items-center rounded-full bg-spruce text-[11px] text-on-spruce">
              {picked}
            </span>
          )}
          {item.kind === 'clip' && <SelectBands item={item} />}
        </span>
      </button>
      <p className="mt-1 flex items-center gap-1 text-[11px] text-soft">
        <span className="figures">{number}</span>
        <span className="min-w-0 flex-1 truncate text-ink" title={[item.name, item.note, ...item.tags].filter(Boolean).join(' · ')}>
          {item.name.replace(/\.\w+$/, '')}
        </span>
        {item.hasSound && <Volume2 size={11} aria-label="with sound" />}
        <span className="figures">{item.kind === 'photo' ? 'photo' : `${length.toFixed(1)} s`}</span>
      </p>
      <p className="flex items-center text-[10.5px] text-soft">
        <span className="min-w-0 flex-1 truncate">
          {uses === 0 ? 'not used yet' : `used ${uses === 1 ? 'once' : `${uses} times`}`}
          {item.selects.length > 1 && ` · ${item.selects.length} selects`}
        </span>
        {item.rating > 0 && (
          <span className="figures inline-flex items-center gap-0.5 text-gold-text" aria-label={`rated ${item.rating}`}>
            {item.rating}
            <Star size={10} fill="currentColor" />
          </span>
        )}
      </p>
      {near && (
        <button
          onClick={() => onRemove(item)}
          aria-label={`Remove ${item.name}`}
          title="Remove"
          className="absolute top-1.5 right-1.5 rounded bg-ink/75 p-1 text-white"
        >
          <Trash2 size={12} />
        </button>
      )}
    </div>
  );
});

/** A card as a place for others. Only while one is carried: each that is registered has all cards painted again. */
function DropPlace({ id }: { id: string }): React.JSX.Element {
  const { setNodeRef } = useDroppable({ id });
  return <span ref={setNodeRef} className="pointer-events-none absolute inset-0" aria-hidden />;
}

/** A clip's selects as bands at the foot of its picture, their hits as notches. */
export function SelectBands({ item }: { item: FootageItem }): React.JSX.Element {
  const length = clipLength(item);
  return (
    <>
      {stretchesOf(item).map((s) => (
        <span
          key={s.id}
          className="absolute bottom-0 h-[5px] border-r border-print bg-gold"
          style={{ left: `${(s.in / length) * 100}%`, width: `${((s.out - s.in) / length) * 100}%` }}
        />
      ))}
      {item.selects.map(
        (s) =>
          s.hit !== null && (
            <span
              key={s.id}
              className="absolute bottom-[4px] size-0 -translate-x-1/2 border-x-[4px] border-t-[5px] border-x-transparent border-t-coral"
              style={{ left: `${(s.hit / length) * 100}%` }}
            />
          ),
      )}
    </>
  );
}
