import { LoaderCircle, Pause, Play, Repeat, SkipBack, StepBack, StepForward } from 'lucide-react';
import { useCallback, useEffect, useRef } from 'react';
import { frameAt, type Montage } from '@bluster/core';
import { useAssets } from '../api/use-project.ts';
import type { AssetAnswer as Asset } from '@bluster/wire';
import { Button } from '../interface/button.tsx';
import { useSize } from '../interface/use-size.ts';
import { player } from '../playback/player.ts';
import { usePlayer } from '../playback/use-player.ts';
import { useMontage } from '../document/editor.ts';
import { SizeButtons } from '../workbench/size-buttons.tsx';
import { answersBehind, behindCame } from './behind.ts';
import type { FromPicture, ToPicture } from './messages.ts';
import PictureWorker from './picture.worker.ts?worker';
import { Whereabouts } from './whereabouts.tsx';

/** How often the worker's clock is set by the audio clock while it plays. */
const CLOCK_MS = 200;

/** Started with the page's code, so that it is ready when the first screen is. */
let atHand: Worker | null = new PictureWorker();

/** What the picture can be painted from: previews, and filmstrips while those are being made. */
function knownAssets(assets: readonly Asset[]): ToPicture {
  const strips = assets.flatMap(({ id, state, info }) =>
    state === 'working' && info.strip
      ? [[id, { pictures: info.strip.pictures, every: info.strip.every, rough: info.strip.rough === true }] as const]
      : [],
  );
  return { do: 'assets', ready: assets.filter((a) => a.state === 'ready').map((a) => a.id), strips: Object.fromEntries(strips) };
}

function usePictureWorker(
  projectId: string,
  montage: Montage,
  cut: number | null,
  whole: string | null,
): React.RefCallback<HTMLCanvasElement> {
  const worker = useRef<Worker | null>(null);
  const { assets } = useAssets(projectId);
  // As text, so that it is told only when it has changed.
  const known = JSON.stringify(knownAssets([...assets.values()]));
  const tell = (message: ToPicture, transfer: Transferable[] = []): void => worker.current?.postMessage(message, transfer);

  useEffect(() => tell({ do: 'montage', montage }), [montage]);
  useEffect(() => tell({ do: 'cut', frame: cut }), [cut]);
  useEffect(() => tell({ do: 'whole', shotId: whole }), [whole]);
  useEffect(() => tell(JSON.parse(known) as ToPicture), [known]);
  useEffect(() => {
    const setClock = (): void => {
      const { playing, position, pageMs, speed } = player.clock();
      tell({ do: 'clock', playing, position, atMs: performance.timeOrigin + pageMs, speed });
    };
    setClock();
    const stop = player.subscribe(setClock);
    const timer = setInterval(() => player.state.playing && setClock(), CLOCK_MS);
    return () => {
      stop();
      clearInterval(timer);
    };
  }, []);

  // The effects above tell the worker everything else: they run once the canvas is there.
  return useCallback((canvas: HTMLCanvasElement) => {
    if (canvas.dataset['given']) return;
    canvas.dataset['given'] = 'yes';
    const own = atHand ?? new PictureWorker();
    atHand = null;
    worker.current = own;
    own.onmessage = (event: MessageEvent<FromPicture>) => {
      if (event.data.say === 'painted') canvas.dataset['frame'] = String(event.data.frame);
      else if (event.data.say === 'behind') behindCame(event.data.frame, event.data.pixels);
      else canvas.dispatchEvent(new CustomEvent('measure', { detail: event.data.measure }));
    };
    answersBehind((message) => own.postMessage(message));
    canvas.addEventListener('ask-measure', () => own.postMessage({ do: 'measure' } satisfies ToPicture));
    const offscreen = canvas.transferControlToOffscreen();
    own.postMessage({ do: 'canvas', canvas: offscreen } satisfies ToPicture, [offscreen]);
    // A canvas can be given away only once: its worker ends when it is really gone.
    return () => void setTimeout(() => canvas.isConnected || own.terminate());
  }, []);
}

/** The montage's picture, in step with what is heard. */
export function Screen({
  projectId,
  cut = null,
  shown,
  whole = null,
  over,
  children,
}: {
  projectId: string;
  /** another montage is seen in place of the one that is edited: one without its dressing */
  shown?: Montage | undefined;
  /** the shot that is seen whole, with nothing done to it, while nothing plays */
  whole?: string | null;
  /** lies on the picture, as large as it */
  over?: React.ReactNode;
  /** first frame of a cut that is looked at, both sides of it, while nothing plays */
  cut?: number | null;
  children?: React.ReactNode;
}): React.JSX.Element {
  const montage = useMontage();
  const give = usePictureWorker(projectId, shown ?? montage, cut, whole);
  const { width, height } = montage.shape;
  const [hold, box] = useSize<HTMLDivElement>();
  // As large as it fits, in its own shape, and on whole pixels: as many beside it on the left as on the right.
  const scale = Math.min(box.width / width, box.height / height);
  const onWhole = (side: number, room: number): number => Math.max(0, Math.floor(side) - ((Math.floor(side) + Math.floor(room)) % 2));
  return (
    <div ref={hold} className="relative grid min-h-0 flex-1 place-items-center overflow-hidden bg-night">
      <canvas
        ref={give}
        data-testid="screen"
        aria-label="The montage's picture"
        style={{ width: onWhole(width * scale, box.width), height: onWhole(height * scale, box.height) }}
      />
      {!montage.song && <p className="absolute px-6 text-center text-white/80">The montage appears here once there is a song.</p>}
      {montage.song && montage.shots.length === 0 && (
        <p className="absolute px-6 text-center text-white/80">Nothing hangs yet. Choose where to cut, then fill the slots.</p>
      )}
      {over && (
        <div className="absolute" style={{ width: onWhole(width * scale, box.width), height: onWhole(height * scale, box.height) }}>
          {over}
        </div>
      )}
      {children}
    </div>
  );
}

/** Play, step, and where it is: time, bar, beat and frame. */
export function Transport({
  onLoopLine,
  onScreen = true,
  children,
}: {
  onLoopLine: () => void;
  /** whether the montage's picture stands above it */
  onScreen?: boolean;
  children?: React.ReactNode;
}): React.JSX.Element {
  const montage = useMontage();
  const playing = usePlayer((state) => state.playing);
  const waiting = usePlayer((state) => state.waiting);
  const loop = usePlayer((state) => state.loop);
  return (
    <div className="@container shrink-0 border-b border-edge bg-cloth">
      <div className="flex min-h-[46px] flex-wrap items-center gap-x-1 px-3.5 py-1 @max-[400px]:px-2">
        <button
          className="grid size-[30px] shrink-0 place-items-center rounded-full bg-ink text-cloth disabled:opacity-40"
          disabled={!montage.song}
          onClick={() => player.toggle()}
          aria-label={playing || waiting ? 'Pause' : 'Play'}
          aria-busy={waiting}
          title={waiting ? 'Plays once the song is loaded' : `${playing ? 'Pause' : 'Play'} (Space)`}
        >
          {waiting ? (
            <LoaderCircle size={14} className="animate-spin" />
          ) : playing ? (
            <Pause size={13} fill="currentColor" />
          ) : (
            <Play size={13} fill="currentColor" className="ml-0.5" />
          )}
        </button>
        <Button look="quiet" tight hint="Back to the start" hotkey="Home" aria-label="Back to the start" onClick={() => player.seek(0)}>
          <SkipBack size={14} />
        </Button>
        <Button look="quiet" tight hint="One frame back" hotkey="," aria-label="One frame back" onClick={() => stepFrames(montage, -1)}>
          <StepBack size={14} />
        </Button>
        <Button look="quiet" tight hint="One frame on" hotkey="." aria-label="One frame on" onClick={() => stepFrames(montage, 1)}>
          <StepForward size={14} />
        </Button>
        <Whereabouts />
        <Button
          look="quiet"
          on={loop !== null}
          tight
          hint="Play the line under the playhead round and round"
          hotkey="R"
          onClick={onLoopLine}
        >
          <Repeat size={13} /> Line
        </Button>
        {children}
        {onScreen && <SizeButtons />}
      </div>
    </div>
  );
}

/** Moves the playhead by whole frames. */
export function stepFrames(montage: Montage, frames: number): void {
  player.pause();
  const { num, den } = montage.shape.rate;
  const now = frameAt(player.time(), montage.shape.rate);
  player.seek(((now + frames + 0.001) * den) / num);
}
