import {
  DndContext,
  KeyboardSensor,
  PointerSensor,
  closestCenter,
  useSensor,
  useSensors,
  type Announcements,
  type DragEndEvent,
  type UniqueIdentifier,
} from '@dnd-kit/core';
import { SortableContext, arrayMove, rectSortingStrategy, sortableKeyboardCoordinates, useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { Image as ImageIcon, Plus, Trash2, Volume2, X } from 'lucide-react';
import { useCallback, useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { useParams } from 'react-router';
import { clipLength, type FootageItem } from '@bluster/core';
import { useAssets, useJobs } from '../api/use-project.ts';
import type { Asset } from '../api/wire.ts';
import { Button } from '../interface/button.tsx';
import { Dialog } from '../interface/dialog.tsx';
import { Progress } from '../interface/progress.tsx';
import { CARRYING } from '../interface/use-keys.ts';
import { useEditor, useMontage } from '../project/editor.ts';
import { ClipViewer } from './clip-viewer.tsx';
import { ShapePanel } from './shape-panel.tsx';
import { StripTiles } from './strip-tiles.tsx';
import { useUploads } from './upload-queue.ts';
import { expectAsset, useArrivals } from './use-arrivals.ts';

const HOW_TO_CARRY = { draggable: 'Enter picks the card up, arrows move it, Enter puts it down, Escape puts it back.' };

/** What a screen reader says while a card is carried. */
function announcements(footage: readonly FootageItem[]): Announcements {
  const place = (id: UniqueIdentifier | undefined): number => footage.findIndex((f) => f.assetId === id) + 1;
  const name = (id: UniqueIdentifier): string => footage.find((f) => f.assetId === id)?.name ?? 'The card';
  return {
    onDragStart: ({ active }) => `${name(active.id)} picked up.`,
    onDragOver: ({ active, over }) => (over ? `${name(active.id)} is at place ${place(over.id)}.` : undefined),
    onDragEnd: ({ active, over }) => `${name(active.id)} put down${over ? ` at place ${place(over.id)}` : ''}.`,
    onDragCancel: ({ active }) => `${name(active.id)} put back.`,
  };
}

/** While a card is carried the keys are its own. */
function carry(on: boolean): void {
  if (on) document.body.dataset[CARRYING] = 'yes';
  else delete document.body.dataset[CARRYING];
}

/** Bring footage in, choose the good part of each clip, put it into story order. */
export function FootagePage(): React.JSX.Element {
  const { projectId = '' } = useParams();
  const montage = useMontage();
  const { run } = useEditor.getState();
  const { assets, loaded } = useAssets(projectId);
  const { jobs } = useJobs(projectId);
  const { uploads, add, dismiss } = useUploads();
  const [chosenId, setChosenId] = useState<string | null>(null);
  const [removing, setRemoving] = useState<FootageItem | null>(null);
  useArrivals(assets);

  const onDrop = useCallback((files: readonly File[]) => add(projectId, files, expectAsset), [add, projectId]);
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({ onDrop, noClick: true, noKeyboard: true });
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 6 } }),
    useSensor(KeyboardSensor, {
      coordinateGetter: sortableKeyboardCoordinates,
      // Space plays the clip; Enter picks a card up and puts it down.
      keyboardCodes: { start: ['Enter'], cancel: ['Escape'], end: ['Enter'] },
    }),
  );

  const { footage } = montage;
  const chosen = footage.find((f) => f.assetId === chosenId) ?? footage[0];
  const known = new Set(footage.map((f) => f.assetId));
  const waiting = [...assets.values()].filter((a) => a.kind !== 'song' && !known.has(a.id) && a.state !== 'ready');
  const uses = new Map<string, number>();
  for (const shot of montage.shots) uses.set(shot.assetId, (uses.get(shot.assetId) ?? 0) + 1);
  const reorder = ({ active, over }: DragEndEvent): void => {
    carry(false);
    if (!over || active.id === over.id) return;
    const ids = footage.map((f) => f.assetId);
    run({ do: 'orderFootage', assetIds: arrayMove(ids, ids.indexOf(String(active.id)), ids.indexOf(String(over.id))) });
  };
  const remove = (item: FootageItem): void => {
    if (uses.has(item.assetId)) setRemoving(item);
    else run({ do: 'removeFootage', assetIds: [item.assetId] });
  };
  const empty = loaded && footage.length === 0 && waiting.length === 0 && uploads.length === 0;

  return (
    <main {...getRootProps()} className="relative flex h-full min-h-0">
      <input
        {...getInputProps()}
        aria-label="Footage files"
        data-testid="footage-input"
        accept=".mp4,.mov,.m4v,.webm,.mkv,.jpg,.jpeg,.png,.webp,video/*,image/*"
      />
      {isDragActive && (
        <div className="absolute inset-2 z-30 grid place-items-center rounded-xl border-2 border-dashed border-spruce bg-paper/90 text-base font-semibold">
          Drop clips and photos here
        </div>
      )}
      <div className="flex min-w-0 flex-1 flex-col">
        <div className="flex items-center gap-3 border-b border-edge px-5 py-2">
          <h1 className="font-semibold">In story order</h1>
          <span className="text-soft">Drag to change it; slots are filled in this order.</span>
          <Button look="main" className="ml-auto" onClick={open}>
            <Plus size={14} /> Add footage
          </Button>
        </div>
        {(uploads.length > 0 || waiting.length > 0) && (
          <ul
            className="max-h-44 space-y-1.5 overflow-y-auto border-b border-edge bg-paper px-5 py-2"
            aria-live="polite"
            aria-label="Coming in"
          >
            {uploads.map((u) => (
              <li key={u.key} className="flex items-center gap-3">
                <span className="w-52 shrink-0 truncate" title={u.name}>
                  {u.name}
                </span>
                {u.state === 'failed' ? (
                  <span role="alert" className="min-w-0 flex-1 text-coral-text">
                    {u.problem}
                  </span>
                ) : (
                  <Progress part={u.part} label={`Uploading ${u.name}`} />
                )}
                <Button look="quiet" tight aria-label={`Dismiss ${u.name}`} onClick={() => dismiss(u.key)}>
                  <X size={14} />
                </Button>
              </li>
            ))}
            {waiting.map((a) => (
              <li key={a.id} className="flex items-center gap-3">
                <span className="w-52 shrink-0 truncate" title={a.name}>
                  {a.name}
                </span>
                {a.state === 'failed' ? (
                  <span role="alert" className="text-coral-text">
                    {a.problem}
                  </span>
                ) : (
                  <>
                    <Progress part={jobs.find((j) => j.payload.assetId === a.id)?.progress ?? 0} label={`Preparing ${a.name}`} />
                    <span className="shrink-0 text-soft">preparing</span>
                  </>
                )}
              </li>
            ))}
          </ul>
        )}
        {empty ? (
          <div className="grid flex-1 place-items-center p-8">
            <div className="max-w-md rounded-xl border border-dashed border-edge p-12 text-center">
              <ImageIcon className="mx-auto mb-3 text-spruce" size={28} />
              <p className="text-base font-semibold">Drop clips and photos here</p>
              <p className="mt-1 text-soft">
                MP4, MOV, WebM, JPG, PNG or WebP, as many as you like at once. You can go on working while they are prepared.
              </p>
              <p className="mt-5">
                <Button look="main" onClick={open}>
                  Choose files
                </Button>
              </p>
            </div>
          </div>
        ) : (
          <DndContext
            accessibility={{ announcements: announcements(footage), screenReaderInstructions: HOW_TO_CARRY }}
            sensors={sensors}
            collisionDetection={closestCenter}
            onDragStart={() => carry(true)}
            onDragCancel={() => carry(false)}
            onDragEnd={reorder}
          >
            <SortableContext items={footage.map((f) => f.assetId)} strategy={rectSortingStrategy}>
              <ol
                className="grid flex-1 grid-cols-[repeat(auto-fill,150px)] content-start justify-between gap-x-3 gap-y-3.5 overflow-y-auto p-5"
                aria-label="Footage in story order"
              >
                {footage.map((item, i) => (
                  <Card
                    key={item.assetId}
                    number={i + 1}
                    item={item}
                    asset={assets.get(item.assetId)}
                    uses={uses.get(item.assetId) ?? 0}
                    chosen={item === chosen}
                    onChoose={() => setChosenId(item.assetId)}
                    onRemove={() => remove(item)}
                  />
                ))}
              </ol>
            </SortableContext>
          </DndContext>
        )}
      </div>
      <aside className="flex w-[520px] shrink-0 flex-col border-l border-edge">
        {chosen ? (
          <ClipViewer key={chosen.assetId} item={chosen} asset={assets.get(chosen.assetId)} />
        ) : (
          <div className="grid flex-1 place-items-center bg-night p-6 text-center text-white/70">A clip you choose is shown here.</div>
        )}
        <ShapePanel />
      </aside>
      {removing && (
        <Dialog open onClose={() => setRemoving(null)} title={`Remove ${removing.name}?`}>
          <p className="text-soft">
            It hangs in {uses.get(removing.assetId)} {uses.get(removing.assetId) === 1 ? 'slot' : 'slots'} of the score. Those become empty;
            nothing else moves. You can undo this.
          </p>
          <p className="mt-4 flex justify-end gap-2">
            <Button onClick={() => setRemoving(null)}>Keep it</Button>
            <Button
              look="danger"
              onClick={() => {
                run({ do: 'removeFootage', assetIds: [removing.assetId] });
                setRemoving(null);
              }}
            >
              Remove
            </Button>
          </p>
        </Dialog>
      )}
    </main>
  );
}

interface CardProps {
  readonly number: number;
  readonly item: FootageItem;
  readonly asset: Asset | undefined;
  readonly uses: number;
  readonly chosen: boolean;
  readonly onChoose: () => void;
  readonly onRemove: () => void;
}

function Card({ number, item, asset, uses, chosen, onChoose, onRemove }: CardProps): React.JSX.Element {
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id: item.assetId });
  const length = clipLength(item);
  return (
    <li
      ref={setNodeRef}
      style={{ transform: CSS.Transform.toString(transform), transition }}
      className={`group relative ${isDragging ? 'z-10 opacity-70' : ''}`}
      data-testid="footage-card"
    >
      <button
        {...attributes}
        {...listeners}
        onClick={onChoose}
        className={`block w-full overflow-hidden bg-print p-[3px] text-left shadow-sm ${chosen ? 'ring-2 ring-spruce' : ''}`}
        aria-label={`${item.name}, number ${number} in the story`}
      >
        <span className="relative block">
          <StripTiles asset={asset} width={144} height={81} times={[item.in + Math.min(0.8, (item.out - item.in) / 3)]} />
          {item.kind === 'clip' && (
            <span
              className="absolute bottom-0 h-[5px] bg-gold"
              style={{ left: `${(item.in / length) * 100}%`, width: `${((item.out - item.in) / length) * 100}%` }}
            />
          )}
        </span>
      </button>
      <p className="mt-1 flex items-center gap-1 text-[11px] text-soft">
        <span className="figures">{number}</span>
        <span className="min-w-0 flex-1 truncate text-ink" title={item.name}>
          {item.name.replace(/\.\w+$/, '')}
        </span>
        {item.hasSound && <Volume2 size={11} aria-label="with sound" />}
        <span className="figures">{item.kind === 'photo' ? 'photo' : `${length.toFixed(1)} s`}</span>
      </p>
      <p className="text-[10.5px] text-soft">{uses === 0 ? 'not used yet' : `used ${uses === 1 ? 'once' : `${uses} times`}`}</p>
      <button
        onClick={onRemove}
        aria-label={`Remove ${item.name}`}
        title="Remove"
        className="absolute top-1.5 right-1.5 hidden rounded bg-ink/75 p-1 text-white group-focus-within:block group-hover:block"
      >
        <Trash2 size={12} />
      </button>
    </li>
  );
}
