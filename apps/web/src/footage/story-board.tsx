import {
  DndContext,
  DragOverlay,
  KeyboardSensor,
  PointerSensor,
  closestCenter,
  useSensor,
  useSensors,
  type Announcements,
  type KeyboardCoordinateGetter,
  type UniqueIdentifier,
} from '@dnd-kit/core';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { movedTo, type FootageItem } from '@bluster/core';
import type { AssetAnswer as Asset } from '@bluster/wire';
import { useSize } from '../interface/use-size.ts';
import { CARRYING } from '../interface/use-keys.ts';
import { FootageCard } from '../clips/footage-card.tsx';

const HOW_TO_CARRY = { draggable: 'Enter picks the card up, arrows move it, Enter puts it down, Escape puts it back.' };
const CARD = 150;
const GAP = 12;
const ROW = 134;
const OVERSCAN = 1;

/** While a card is carried the keys are its own. */
function carry(on: boolean): void {
  if (on) document.body.dataset[CARRYING] = 'yes';
  else delete document.body.dataset[CARRYING];
}

/** What a screen reader says while a card is carried. */
function announcements(items: readonly FootageItem[]): Announcements {
  const place = (id: UniqueIdentifier | undefined): number => items.findIndex((f) => f.assetId === id) + 1;
  const name = (id: UniqueIdentifier): string => items.find((f) => f.assetId === id)?.name ?? 'The card';
  return {
    onDragStart: ({ active }) => `${name(active.id)} picked up.`,
    onDragOver: ({ active, over }) => (over ? `${name(active.id)} is at place ${place(over.id)}.` : undefined),
    onDragEnd: ({ active, over }) => `${name(active.id)} put down${over ? ` at place ${place(over.id)}` : ''}.`,
    onDragCancel: ({ active }) => `${name(active.id)} put back.`,
  };
}

interface BoardProps {
  /** what is looked at, in its order */
  readonly items: readonly FootageItem[];
  /** all of the footage, in story order */
  readonly story: readonly FootageItem[];
  readonly assets: ReadonlyMap<string, Asset>;
  readonly uses: ReadonlyMap<string, number>;
  readonly chosen: FootageItem | undefined;
  readonly picked: readonly string[];
  /** whether `items` stand in story order */
  readonly inStory: boolean;
  readonly onChoose: (item: FootageItem, how: 'only' | 'also' | 'through') => void;
  readonly onRemove: (item: FootageItem) => void;
  readonly onOrder: (assetIds: readonly string[]) => void;
}

/** The footage as cards, to be carried into story order; only the rows in view are on the page. */
export function StoryBoard(props: BoardProps): React.JSX.Element {
  const { items, story, assets, uses, chosen, picked, inStory, onChoose, onRemove, onOrder } = props;
  const [hold, { width }] = useSize<HTMLDivElement>();
  const scroller = useRef<HTMLDivElement>(null);
  const [carried, setCarried] = useState<readonly string[]>([]);
  const [over, setOver] = useState<string | null>(null);
  const columns = Math.max(1, Math.floor((width + GAP) / (CARD + GAP)));
  const rows = useVirtualizer({
    count: Math.ceil(items.length / columns),
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: OVERSCAN,
  });
  // Cards that go out of sight become those that come into it: remaking them is most of what scrolling and searching cost.
  const pool = Math.ceil((rows.scrollRect?.height ?? 0) / ROW) + 2 * OVERSCAN + 2;
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 6 } }),
    useSensor(KeyboardSensor, {
      coordinateGetter: stepTo,
      // Space plays the clip; Enter picks a card up and puts it down.
      keyboardCodes: { start: ['Enter'], cancel: ['Escape'], end: ['Enter'] },
    }),
  );
  const place = useMemo(() => new Map(story.map((f, i) => [f.assetId, i])), [story]);
  // The same functions all the time, so that cards need not be painted again for them.
  const latest = useRef({ onChoose, onRemove });
  useEffect(() => void (latest.current = { onChoose, onRemove }));
  const choose = useCallback((item: FootageItem, how: 'only' | 'also' | 'through') => latest.current.onChoose(item, how), []);
  const remove = useCallback((item: FootageItem) => latest.current.onRemove(item), []);

  const chosenAt = items.findIndex((f) => f === chosen);
  const shownFor = useRef<string | null>(null);
  useEffect(() => {
    // Only when another one is chosen: scrolling by hand is left alone.
    if (!chosen || chosenAt < 0 || width === 0 || shownFor.current === chosen.assetId) return;
    shownFor.current = chosen.assetId;
    rows.scrollToIndex(Math.floor(chosenAt / columns), { align: 'auto' });
  }, [chosen, chosenAt, columns, rows, width]);

  const end = (target: string | null): void => {
    carry(false);
    const ids = story.map((f) => f.assetId);
    if (target && carried.length > 0 && !carried.includes(target)) onOrder(movedTo(ids, carried, target));
    setCarried([]);
    setOver(null);
  };
  const landingAt = (id: string): 'before' | 'after' | null =>
    over !== id || carried.includes(id) ? null : (place.get(carried[0] ?? '') ?? 0) < place.get(id)! ? 'after' : 'before';
  const lead = carried[0] ? story.find((f) => f.assetId === carried[0]) : undefined;

  return (
    <DndContext
      accessibility={{ announcements: announcements(story), screenReaderInstructions: HOW_TO_CARRY }}
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragStart={({ active }) => {
        carry(true);
        const id = String(active.id);
        setCarried(picked.includes(id) ? picked : [id]);
      }}
      onDragOver={({ over: target }) => setOver(target ? String(target.id) : null)}
      onDragCancel={() => end(null)}
      onDragEnd={({ over: target }) => end(target ? String(target.id) : null)}
    >
      <div ref={scroller} className="min-h-0 flex-1 overflow-y-auto p-5" data-testid="story-board">
        <div ref={hold}>
          <ol className="relative" style={{ height: rows.getTotalSize() }} aria-label="Footage in story order">
            {rows.getVirtualItems().flatMap((row) =>
              items.slice(row.index * columns, (row.index + 1) * columns).map((item, column) => (
                <li
                  key={`${row.index % pool}.${column}`}
                  className="absolute"
                  style={{ top: row.start, left: columns > 1 ? (column * (width - CARD)) / (columns - 1) : 0, width: CARD }}
                >
                  <FootageCard
                    number={place.get(item.assetId)! + 1}
                    item={item}
                    asset={assets.get(item.assetId)}
                    uses={uses.get(item.assetId) ?? 0}
                    chosen={item === chosen}
                    picked={picked.length > 1 ? picked.indexOf(item.assetId) + 1 : 0}
                    movable={inStory}
                    carrying={carried.length > 0}
                    landing={landingAt(item.assetId)}
                    onChoose={choose}
                    onRemove={remove}
                  />
                </li>
              )),
            )}
          </ol>
        </div>
      </div>
      <DragOverlay dropAnimation={null}>
        {lead && (
          <div className="w-[150px] rotate-2 bg-print px-2 py-1.5 text-[12px] shadow-lg" data-testid="carried">
            {carried.length === 1 ? lead.name : `${carried.length} pieces of footage`}
          </div>
        )}
      </DragOverlay>
    </DndContext>
  );
}

/** By keys a card goes from one card's place to the next. */
const stepTo: KeyboardCoordinateGetter = (event, { context: { droppableRects, over, active } }) => {
  const step = { ArrowLeft: -1, ArrowRight: 1, ArrowUp: 0, ArrowDown: 0 }[event.code];
  const here = droppableRects.get(over?.id ?? active?.id ?? '');
  if (step === undefined || !here) return undefined;
  event.preventDefault();
  const places = [...droppableRects.values()].sort((a, b) => a.top - b.top || a.left - b.left);
  const at = places.findIndex((r) => r.top === here.top && r.left === here.left);
  const upDown = event.code === 'ArrowUp' ? -1 : event.code === 'ArrowDown' ? 1 : 0;
  const next =
    upDown === 0
      ? places[at + step]
      : places.filter((r) => Math.sign(r.top - here.top) === upDown && Math.abs(r.left - here.left) < 10).at(upDown < 0 ? -1 : 0);
  return next && { x: next.left, y: next.top };
};
