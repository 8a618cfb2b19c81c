import { Image as ImageIcon, Target } from 'lucide-react';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { Panel, PanelGroup } from 'react-resizable-panels';
import { useParams } from 'react-router';
import { toast } from 'sonner';
import {
  ALL_FOOTAGE,
  bestHits,
  siftFootage,
  stretchesOf,
  usesOf,
  type FootageItem,
  type FootageSieve,
  type KnownOfFile,
} from '@bluster/core';
import { useAssets, useJobs } from '../api/use-project.ts';
import type { AssetAnswer as Asset } from '@bluster/wire';
import { Button } from '../interface/button.tsx';
import { Dialog } from '../interface/dialog.tsx';
import { useKeys } from '../interface/use-keys.ts';
import { useRested } from '../interface/use-rested.ts';
import { useEditor, useMontage } from '../document/editor.ts';
import { Divider } from '../workbench/divider.tsx';
import { pictureBack, usePictureSize } from '../workbench/picture-size.ts';
import { ArrivalsList } from '../arrivals/arrivals-list.tsx';
import { ClipViewer } from './clip-viewer.tsx';
import { ShapePanel } from './shape-panel.tsx';
import { SieveBar } from './sieve-bar.tsx';
import { SoundsShelf } from './sounds-shelf.tsx';
import { StoryBoard } from './story-board.tsx';
import { askSong } from '../arrivals/song-question.tsx';
import { sortFiles, WORDS } from '../arrivals/sort-files.ts';
import { sortedInWords, takeTogether } from '../arrivals/take-together.ts';
import { useUploads } from '../arrivals/upload-queue.ts';

const TYPING_RESTS_MS = 150;

/** Files that were left out of the bundle that the project came in, and how they come back. */
function Missing({ assets }: { assets: ReadonlyMap<string, Asset> }): React.JSX.Element | null {
  const missing = [...assets.values()].filter((asset) => asset.info.missing && asset.kind !== 'song');
  if (missing.length === 0) return null;
  return (
    <p role="status" className="border-b border-edge px-5 py-1.5 text-[12.5px] text-gold-text">
      {missing.length === 1 ? `"${missing[0]!.name}" was` : `${missing.length} files were`} not in the bundle. Drop the folder with them
      here: each is known by its name and takes its place.
    </p>
  );
}

/** Bring footage in, choose the good part of each clip and its hit, put it into story order. */
export function FootagePage(): React.JSX.Element {
  const { projectId = '' } = useParams();
  const montage = useMontage();
  const { run } = useEditor.getState();
  const { assets, loaded } = useAssets(projectId);
  const { jobs } = useJobs(projectId);
  const { uploads: all, cutOff, findCutOff } = useUploads();
  const uploads = all.filter((u) => u.role === 'footage');
  const picked = useEditor((state) => state.picked);
  const { setPicked } = useEditor.getState();
  const { size } = usePictureSize();
  const [sieve, setSieve] = useState<FootageSieve>(ALL_FOOTAGE);
  const [removing, setRemoving] = useState<readonly string[]>([]);
  useEffect(() => void findCutOff(projectId), [findCutOff, projectId]);

  const noSong = montage.song === null;
  const onDrop = useCallback(
    async (files: readonly File[]) => {
      const words = files.filter((file) => WORDS.test(file.name));
      // While there is no song, one may be among them.
      const sorted = noSong
        ? await sortFiles(files, askSong)
        : { song: null, footage: files.filter((file) => !words.includes(file)), words };
      takeTogether(projectId, sorted);
      if (sorted.song || words.length > 0) toast(sortedInWords(sorted, noSong), { duration: 10_000 });
    },
    [projectId, noSong],
  );
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    onDrop: (files) => void onDrop(files),
    noClick: true,
    noKeyboard: true,
  });

  const { footage } = montage;
  const uses = useMemo(() => usesOf(montage), [montage]);
  const items = useMemo(() => siftFootage(footage, sieve, uses, (id) => knownOf(assets.get(id))), [footage, sieve, uses, assets]);
  const chosen = footage.find((f) => f.assetId === picked.at(-1)) ?? items[0];
  // While letters are typed the first that is found changes with each; it is opened when typing rests.
  const soon = useRested(chosen?.assetId, TYPING_RESTS_MS);
  const watched = picked.length > 0 ? chosen : (footage.find((f) => f.assetId === soon) ?? chosen);
  const waiting = useMemo(() => {
    const here = new Set([...footage, ...montage.sounds].map((f) => f.assetId));
    return [...assets.values()].filter(
      (a) => a.kind !== 'song' && ((!here.has(a.id) && a.state !== 'ready') || (here.has(a.id) && a.state === 'working')),
    );
  }, [assets, footage, montage.sounds]);
  const hits = useMemo(() => bestHits(footage, (id) => assets.get(id)?.info.hits ?? []), [footage, assets]);

  const choose = (item: FootageItem, how: 'only' | 'also' | 'through'): void => {
    if (how === 'only') setPicked([item.assetId]);
    else if (how === 'also')
      setPicked(picked.includes(item.assetId) ? picked.filter((id) => id !== item.assetId) : [...picked, item.assetId]);
    else {
      const [a, b] = [items.findIndex((f) => f === chosen), items.indexOf(item)].sort((x, y) => x - y) as [number, number];
      const between = items.slice(a, b + 1).map((f) => f.assetId);
      setPicked([...between.filter((id) => id !== item.assetId), item.assetId]);
    }
  };
  const walk = (by: number): void => {
    const next = items[items.findIndex((f) => f === chosen) + by];
    if (next) setPicked([next.assetId]);
  };
  const remove = (item: FootageItem): void => {
    const ids = picked.length > 1 && picked.includes(item.assetId) ? picked : [item.assetId];
    if (ids.length > 1 || ids.some((id) => uses.has(id))) setRemoving(ids);
    else run({ do: 'removeFootage', assetIds: ids });
  };
  useKeys('up', () => walk(-1), true);
  useKeys('down', () => walk(1), true);
  useKeys('mod+a', () => setPicked(items.map((f) => f.assetId)), true);
  useKeys('delete,backspace', () => chosen && remove(chosen), true);
  useKeys(
    'escape',
    () => {
      if (!pictureBack()) setPicked(chosen ? [chosen.assetId] : []);
    },
    true,
  );

  const order = (assetIds: readonly string[]): void => void run({ do: 'orderFootage', assetIds });
  const empty = loaded && footage.length === 0 && waiting.length === 0 && uploads.length === 0 && cutOff.length === 0;

  return (
    <main {...getRootProps()} className="relative h-full min-h-0">
      <input
        {...getInputProps()}
        aria-label="Footage files"
        data-testid="footage-input"
        accept=".srt,.vtt,.lrc,.mts,.m2ts,.ts,.mkv,.3gp,.heic,.heif,.avif,.tif,.tiff,.aif,.aiff,.wma,.opus,video/*,image/*,audio/*"
      />
      {isDragActive && (
        <div className="absolute inset-2 z-30 grid place-items-center rounded-xl border-2 border-dashed border-spruce bg-paper/90 text-base font-semibold">
          Drop clips, photos and sounds here, or whole folders
        </div>
      )}
      <PanelGroup direction="horizontal" autoSaveId="footage-columns">
        <Panel id="story" order={1} minSize={30}>
          <div className="flex h-full min-w-0 flex-col">
            <SieveBar
              sieve={sieve}
              shown={items.length}
              all={footage.length}
              onSieve={setSieve}
              onAdd={open}
              onKeepOrder={() => {
                order(items.map((f) => f.assetId));
                setSieve(ALL_FOOTAGE);
              }}
            />
            {(picked.length > 1 || hits.length > 0) && (
              <div className="flex items-center gap-2 border-b border-edge px-5 py-1.5 text-[12px]" data-testid="many">
                {picked.length > 1 ? (
                  <>
                    <span>
                      <b className="figures">{picked.length}</b> picked
                    </span>
                    <Button
                      hint="They come first in the story, in the order in which they were picked"
                      onClick={() => order([...picked, ...footage.map((f) => f.assetId).filter((id) => !picked.includes(id))])}
                    >
                      To the start, as picked
                    </Button>
                    <Button look="danger" onClick={() => setRemoving(picked)}>
                      Remove
                    </Button>
                    <span className="text-soft">Drag one of them and all come along.</span>
                  </>
                ) : (
                  <span className="text-soft">Drag to change the story; slots are filled in its order.</span>
                )}
                {hits.length > 0 && (
                  <Button
                    className="ml-auto"
                    hint="Clips without a hit take the best frame that was found in them"
                    onClick={() => {
                      if (run({ do: 'takeHits', hits })) toast(`${hits.length} hits taken. Look through them with ↓ and N.`);
                    }}
                  >
                    <Target size={13} className="text-coral-text" /> Take the best hits ({hits.length})
                  </Button>
                )}
              </div>
            )}
            <Missing assets={assets} />
            <ArrivalsList waiting={waiting} jobs={jobs} />
            {empty ? (
              <Empty onOpen={open} />
            ) : items.length === 0 && footage.length > 0 ? (
              <p className="grid flex-1 place-items-center text-soft">
                <span>
                  Nothing here is like that.{' '}
                  <button className="text-spruce underline" onClick={() => setSieve(ALL_FOOTAGE)}>
                    Show all footage
                  </button>
                </span>
              </p>
            ) : (
              <StoryBoard
                items={items}
                story={footage}
                assets={assets}
                uses={uses}
                chosen={watched}
                picked={picked}
                inStory={sieve.order === 'story'}
                onChoose={choose}
                onRemove={remove}
                onOrder={order}
              />
            )}
            <SoundsShelf />
          </div>
        </Panel>
        <Divider label="Divider between the story and the clip" />
        <Panel id="clip" order={2} defaultSize={40.6} minSize={30}>
          <aside
            className={`flex min-h-0 flex-col overflow-y-auto ${size === 'place' ? 'h-full' : 'fixed inset-0 z-30 bg-cloth'}`}
            data-testid="picture-place"
            data-size={size}
          >
            {watched ? (
              <ClipViewer key={watched.assetId} item={watched} asset={assets.get(watched.assetId)} picked={picked} />
            ) : (
              <div className="grid flex-1 place-items-center bg-night p-6 text-center text-white/70">A clip you choose is shown here.</div>
            )}
            <ShapePanel assets={assets} />
          </aside>
        </Panel>
      </PanelGroup>
      {removing.length > 0 && (
        <RemoveDialog
          items={footage.filter((f) => removing.includes(f.assetId))}
          slots={removing.reduce((sum, id) => sum + (uses.get(id) ?? 0), 0)}
          onClose={() => setRemoving([])}
          onRemove={() => {
            run({ do: 'removeFootage', assetIds: removing });
            setRemoving([]);
            setPicked([]);
          }}
        />
      )}
    </main>
  );
}

function knownOf(asset: Asset | undefined): KnownOfFile | undefined {
  return asset && { ...asset.info, takenAt: asset.info.takenAt ?? asset.createdAt };
}

function Empty({ onOpen }: { onOpen: () => void }): React.JSX.Element {
  return (
    <div className="grid flex-1 place-items-center p-8">
      <div className="max-w-md rounded-xl border border-dashed border-edge p-12 text-center">
        <ImageIcon className="mx-auto mb-3 text-spruce" size={28} />
        <p className="text-base font-semibold">Drop clips and photos here</p>
        <p className="mt-1 text-soft">
          Clips as cameras, phones and the web make them, photos, animations and sound effects; single files or whole folders. You can go on
          working while they are prepared, in any view, and what is cut off goes on where it was.
        </p>
        <p className="mt-5">
          <Button look="main" onClick={onOpen}>
            Choose files
          </Button>
        </p>
      </div>
    </div>
  );
}

interface RemoveProps {
  readonly items: readonly FootageItem[];
  readonly slots: number;
  readonly onClose: () => void;
  readonly onRemove: () => void;
}

function RemoveDialog({ items, slots, onClose, onRemove }: RemoveProps): React.JSX.Element {
  const what = items.length === 1 ? items[0]!.name : `${items.length} pieces of footage`;
  const selects = items.reduce((sum, item) => sum + (item.selects.length > 0 ? stretchesOf(item).length : 0), 0);
  return (
    <Dialog open onClose={onClose} title={`Remove ${what}?`}>
      <p className="text-soft">
        {slots > 0
          ? `${items.length === 1 ? 'It hangs' : 'They hang'} in ${slots} ${slots === 1 ? 'slot' : 'slots'} of the score. Those become empty; nothing else moves. `
          : 'Nothing of it hangs in the score. '}
        {selects > 0 && `${selects} ${selects === 1 ? 'select goes' : 'selects go'} with it. `}
        You can undo this.
      </p>
      <p className="mt-4 flex justify-end gap-2">
        <Button onClick={onClose}>Keep {items.length === 1 ? 'it' : 'them'}</Button>
        <Button look="danger" onClick={onRemove}>
          Remove
        </Button>
      </p>
    </Dialog>
  );
}
