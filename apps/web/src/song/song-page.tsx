import { Music } from 'lucide-react';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { useParams } from 'react-router';
import { toast } from 'sonner';
import { mutate } from 'swr';
import { layLines, type Peaks } from '@bluster/core';
import { useAssets, useJobs } from '../api/use-project.ts';
import type { AssetAnswer } from '@bluster/wire';
import { ROUTES } from '@bluster/wire/routes';
import { request } from '../api/request.ts';
import { useAlong } from '../arrivals/along.ts';
import { ShippedSongs } from '../arrivals/shipped-songs.tsx';
import { askSong } from '../arrivals/song-question.tsx';
import { sortFiles, WORDS } from '../arrivals/sort-files.ts';
import { sortedInWords, takeTogether } from '../arrivals/take-together.ts';
import { useUploads } from '../arrivals/upload-queue.ts';
import { expectAsset } from '../arrivals/use-arrivals.ts';
import { sayProblem } from '../interface/say-problem.ts';
import { Button } from '../interface/button.tsx';
import { Dialog } from '../interface/dialog.tsx';
import { Progress } from '../interface/progress.tsx';
import { LineScroller } from '../lines/line-scroller.tsx';
import { useSongSound } from '../playback/song-sound.ts';
import { useEditor, useMontage } from '../document/editor.ts';
import { Transport } from '../screen/screen.tsx';
import { ArrivingLines } from './arriving-lines.tsx';
import { outlineOfFile, type LocalOutline } from './local-outline.ts';
import { SONG_LINE_HEIGHT, SONG_LINE_LEFT, SongLine } from './song-line.tsx';
import { SongOverview } from './song-overview.tsx';
import { SongPanel } from './song-panel.tsx';
import { toggleLoopLine } from '../lines/loop-line.ts';
import { useListening } from '../marking/listening.ts';
import { CarryDialog } from './carry-dialog.tsx';
import { earlierMontage, hungInWords } from './earlier-montage.ts';

/** Choose the song, and mark it. */
export function SongPage(): React.JSX.Element {
  const { projectId = '' } = useParams();
  const montage = useMontage();
  const { assets, loaded } = useAssets(projectId);
  const sound = useSongSound();
  const [replacing, setReplacing] = useState<File | null>(null);
  const along = useAlong((state) => state.projectId === projectId);
  const [outline, setOutline] = useState<LocalOutline | null>(null);
  const { jobs } = useJobs(projectId);
  const { uploads, add, dismiss, retry } = useUploads();
  const song = montage.song;
  const upload = uploads.findLast((u) => u.role === 'song');
  // The song becomes the montage's once it is decoded, whatever view is open then; then its beats are looked for.
  const incoming = [...assets.values()].findLast((a) => a.kind === 'song' && a.awaits && a.id !== song?.assetId);

  const startUpload = useCallback(
    (file: File) => {
      setOutline(null);
      for (const { key } of uploads.filter((u) => u.role === 'song')) dismiss(key);
      add(projectId, [file], 'song');
      void outlineOfFile(file).then(setOutline);
    },
    [uploads, dismiss, add, projectId],
  );
  const takeFile = useCallback(
    (file: File) => {
      if (song && (montage.marks.length > 0 || montage.shots.length > 0)) setReplacing(file);
      else startUpload(file);
    },
    [song, montage, startUpload],
  );
  const onDrop = useCallback(
    async (files: readonly File[]) => {
      const [file] = files;
      // One file alone is the song, and may be a film for its sound.
      if (files.length === 1 && file && !WORDS.test(file.name)) return takeFile(file);
      const sorted = await sortFiles(files, askSong);
      takeTogether(projectId, { ...sorted, song: null });
      if (sorted.song) takeFile(sorted.song);
      if (files.length > 0) toast(sortedInWords(sorted, song === null), { duration: 10_000 });
    },
    [song, takeFile, projectId],
  );
  const [taking, setTaking] = useState<string | null>(null);
  const takeShipped = async (id: string): Promise<void> => {
    setTaking(id);
    try {
      expectAsset(await request<AssetAnswer>('POST', ROUTES.takeSong(projectId), { song: id }));
      await Promise.all([mutate(ROUTES.assets(projectId)), mutate(ROUTES.jobs(projectId))]);
    } catch (problem) {
      sayProblem(problem);
    } finally {
      setTaking(null);
    }
  };
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    onDrop: (files) => void onDrop(files),
    noClick: true,
    noKeyboard: true,
  });
  const hung = replacing ? hungInWords(montage) : null;
  const takeOther = (takeAlong: boolean): void => {
    useAlong.setState({ projectId: takeAlong ? projectId : null });
    if (replacing) startUpload(replacing);
    setReplacing(null);
  };
  const peaks = sound.peaks ?? outline?.peaks ?? null;
  const job = jobs.find((j) => j.assetId === incoming?.id);
  const busy =
    upload && upload.state !== 'failed'
      ? { text: upload.state === 'stalled' ? `${upload.name} waits for the server` : `Bringing in ${upload.name}`, part: upload.part }
      : incoming?.state === 'working'
        ? { text: job?.problem ?? `Decoding ${incoming.name}`, part: job?.progress ?? 0 }
        : null;
  const failed =
    upload?.problem ??
    (incoming?.state === 'failed' ? incoming.problem : null) ??
    (song && assets.get(song.assetId)?.state === 'failed' ? assets.get(song.assetId)!.problem : null) ??
    sound.problem;

  return (
    <main {...getRootProps()} className="relative flex h-full min-h-0 flex-col">
      <input {...getInputProps()} aria-label="Song file" data-testid="song-input" />
      {isDragActive && (
        <div className="absolute inset-2 z-30 grid place-items-center rounded-xl border-2 border-dashed border-spruce bg-paper/90 text-base font-semibold">
          {song
            ? 'Drop another song here; what comes with it goes where it belongs'
            : 'Drop the song here, with footage and captions if you like'}
        </div>
      )}
      {(busy ?? failed) && (
        <div className="flex items-center gap-3 border-b border-edge bg-paper px-5 py-2" aria-live="polite">
          {busy ? (
            <>
              <span className="shrink-0">{busy.text}…</span>
              <Progress part={busy.part} label={busy.text} />
              {upload && <Button onClick={() => dismiss(upload.key)}>Cancel</Button>}
            </>
          ) : (
            <>
              <span role="alert" className="text-coral-text">
                {failed}
              </span>
              {upload?.again && <Button onClick={() => retry(upload.key)}>Try again</Button>}
              <Button onClick={open}>Choose another file</Button>
            </>
          )}
        </div>
      )}
      {song ? (
        <>
          <SongOverview peaks={peaks} loading={sound.state === 'loading'} />
          <div className="flex min-h-0 flex-1">
            <div className="flex min-w-0 flex-1 flex-col">
              <Transport onLoopLine={toggleLoopLine} onScreen={false}>
                <Button onClick={open} hint="Takes the place of this song; the montage can go along">
                  Another song…
                </Button>
              </Transport>
              <EarlierMontage along={along} />
              <SongLines peaks={peaks} />
            </div>
            <SongPanel />
          </div>
        </>
      ) : busy ? (
        outline && <ArrivingLines outline={outline} />
      ) : (
        loaded && (
          <div className="grid min-h-0 flex-1 place-items-center overflow-auto p-8">
            <div className="grid w-full max-w-[900px] items-center gap-8 md:grid-cols-2">
              <div className="rounded-xl border border-dashed border-edge p-10 text-center">
                <Music className="mx-auto mb-3 text-spruce" size={28} />
                <p className="text-base font-semibold">Drop a song here</p>
                <p className="mt-1 text-soft">
                  WAV, MP3, FLAC, OGG, Opus, M4A, AAC, AIFF or WMA, or a video for its sound; footage and captions may come along. Its beats
                  and bars are found while you look at it; then you check them, or tap your own.
                </p>
                <p className="mt-5">
                  <Button look="main" onClick={open}>
                    Choose a song
                  </Button>
                </p>
              </div>
              <ShippedSongs taking={taking} onTake={(id) => void takeShipped(id)} />
            </div>
          </div>
        )
      )}
      {replacing && (
        <Dialog open onClose={() => setReplacing(null)} title="Take another song?">
          <p className="text-soft">
            {hung === null
              ? 'The marks belong to the song that is here. You begin anew:'
              : `${hung} hang on the song that is here. The montage can go along: once the other song is marked, you see where everything would hang, section by section and bar by bar, and take it or not. Or begin anew:`}{' '}
            marks, pegs and shots go with this song, and the footage stays. Either way you can undo it.
          </p>
          <p className="mt-4 flex flex-wrap justify-end gap-2">
            <Button onClick={() => setReplacing(null)}>Keep this song</Button>
            <Button onClick={() => takeOther(false)}>Begin anew</Button>
            {hung !== null && (
              <Button look="main" onClick={() => takeOther(true)}>
                Take the montage along
              </Button>
            )}
          </p>
        </Dialog>
      )}
    </main>
  );
}

/** Says that what hung on the song before can be laid over this one, as long as nothing hangs here; opens by itself where that was asked for. */
function EarlierMontage({ along }: { along: boolean }): React.JSX.Element | null {
  const history = useEditor((state) => state.history);
  const { now } = history;
  const bare = now.shots.length === 0 && now.pegs.length === 0;
  const earlier = useMemo(() => (bare ? earlierMontage(history) : null), [bare, history]);
  const listening = useListening((state) => state.part !== null);
  const marked = now.marks.length > 0 && !listening;
  const [open, setOpen] = useState(false);
  const ready = along && earlier !== null && marked;
  useEffect(() => {
    if (!ready) return;
    useAlong.setState({ projectId: null });
    setOpen(true);
  }, [ready]);
  if (!earlier) return null;
  return (
    <p className="flex items-center gap-3 border-b border-edge bg-cloth px-5 py-1.5 text-[12.5px]" data-testid="earlier-montage">
      <span className="min-w-0 flex-1 truncate">
        {hungInWords(earlier)} hung on {earlier.song!.name}.{' '}
        {listening ? 'Once this song is marked, they can be laid over it.' : marked ? '' : 'Mark this song, and they can be laid over it.'}
      </span>
      <Button onClick={() => setOpen(true)} disabled={!marked}>
        Lay them over this song…
      </Button>
      {open && <CarryDialog earlier={earlier} onClose={() => setOpen(false)} />}
    </p>
  );
}

function SongLines({ peaks }: { peaks: Peaks | null }): React.JSX.Element {
  const montage = useMontage();
  const barsALine = useEditor((state) => state.barsALine);
  // The same lines while nothing is edited, so that scrolling draws only what comes into sight.
  const lines = useMemo(() => layLines(montage, [{ from: 0, to: montage.song!.length }], barsALine), [montage, barsALine]);
  return (
    <LineScroller
      label="Lines of the song"
      className="pt-2"
      barsALine={barsALine}
      lines={lines}
      lineHeight={SONG_LINE_HEIGHT}
      left={SONG_LINE_LEFT}
      right={20}
    >
      {(line, width) => <SongLine line={line} peaks={peaks} width={width} />}
    </LineScroller>
  );
}
