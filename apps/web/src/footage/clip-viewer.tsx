import { area, curveMonotoneX, max, scaleLinear } from 'd3';
import { Pause, Play, StepBack, StepForward, Volume2, VolumeX } from 'lucide-react';
import { Slider } from 'radix-ui';
import { useEffect, useRef, useState } from 'react';
import { clipLength, clock, frameAt, rateLabel, type FootageItem } from '@bluster/core';
import type { Asset } from '../api/wire.ts';
import { Button } from '../interface/button.tsx';
import { useKeys } from '../interface/use-keys.ts';
import { useSize } from '../interface/use-size.ts';
import { useEditor } from '../project/editor.ts';
import { StripTiles } from './strip-tiles.tsx';

/** The chosen clip large: play, step, set in and out. */
export function ClipViewer({ item, asset }: { item: FootageItem; asset: Asset | undefined }): React.JSX.Element {
  return item.kind === 'photo' ? <PhotoView item={item} /> : <FilmView item={item} asset={asset} />;
}

function PhotoView({ item }: { item: FootageItem }): React.JSX.Element {
  return (
    <section className="flex min-h-0 flex-1 flex-col" aria-label={`Photo ${item.name}`}>
      <div className="grid min-h-0 flex-1 place-items-center bg-night p-2">
        <img src={`/api/assets/${item.assetId}/photo`} alt={item.name} className="max-h-full max-w-full object-contain" />
      </div>
      <p className="truncate p-3">
        <b className="font-semibold">{item.name}</b>{' '}
        <span className="text-soft">
          · {item.width}×{item.height} · a photo lasts as long as its slot
        </span>
      </p>
    </section>
  );
}

function FilmView({ item, asset }: { item: FootageItem; asset: Asset | undefined }): React.JSX.Element {
  const video = useRef<HTMLVideoElement>(null);
  const audio = useRef<HTMLAudioElement>(null);
  const [time, setTime] = useState(item.in);
  const [playing, setPlaying] = useState(false);
  const [sound, setSound] = useState(item.hasSound);
  const [hold, { width }] = useSize<HTMLDivElement>();
  const length = clipLength(item);
  const frame = item.rate.den / item.rate.num;
  const ready = asset?.state === 'ready';

  useEffect(() => {
    let handle = 0;
    const follow = (): void => {
      if (video.current) setTime(video.current.currentTime);
      handle = requestAnimationFrame(follow);
    };
    if (playing) follow();
    return () => cancelAnimationFrame(handle);
  }, [playing]);

  const goTo = (seconds: number): void => {
    const v = video.current;
    if (!v) return;
    // The middle of a frame, so that rounding never shows its neighbour.
    const n = Math.max(0, Math.min(item.frames - 1, frameAt(seconds, item.rate)));
    v.currentTime = (n + 0.5) * frame;
    setTime(n * frame);
  };
  const toggle = (): void => {
    const v = video.current;
    if (!v) return;
    if (playing) {
      v.pause();
      audio.current?.pause();
    } else {
      if (v.currentTime >= length - frame) v.currentTime = item.in;
      void v.play();
      if (audio.current && sound) {
        audio.current.currentTime = v.currentTime;
        void audio.current.play();
      }
    }
  };
  const step = (by: number): void => {
    video.current?.pause();
    audio.current?.pause();
    goTo((frameAt(video.current?.currentTime ?? time, item.rate) + by) * frame + frame / 4);
  };
  const here = (): number => frameAt(video.current?.currentTime ?? time, item.rate) * frame;
  const { run } = useEditor.getState();
  const setIn = (): void => void run({ do: 'setInOut', assetId: item.assetId, in: here(), out: item.out > here() ? item.out : length });
  const setOut = (): void =>
    void run({ do: 'setInOut', assetId: item.assetId, in: item.in < here() + frame ? item.in : 0, out: here() + frame });

  // These keys are the clip's while it is looked at; the montage's own come second.
  useKeys('space', toggle, true);
  useKeys('i', setIn, true);
  useKeys('o', setOut, true);
  useKeys('comma,left', () => step(-1), true);
  useKeys('period,right', () => step(1), true);

  const tiles = Math.max(1, Math.round(width / 84));
  return (
    <section className="flex min-h-0 flex-1 flex-col" aria-label={`Clip ${item.name}`}>
      <div className="relative grid min-h-0 flex-1 place-items-center bg-night">
        {ready ? (
          <video
            ref={video}
            key={item.assetId}
            data-testid="clip-video"
            src={`/api/assets/${item.assetId}/proxy#t=${(item.in + frame / 2).toFixed(4)}`}
            preload="auto"
            muted
            playsInline
            className="h-full max-h-full w-full max-w-full object-contain"
            onPlay={() => setPlaying(true)}
            onPause={() => {
              setPlaying(false);
              audio.current?.pause();
              if (video.current) setTime(video.current.currentTime);
            }}
            onClick={toggle}
          />
        ) : (
          <p className="text-white/80">
            {asset?.state === 'failed' ? (asset.problem ?? 'This clip cannot be read.') : 'Being prepared for the preview…'}
          </p>
        )}
        {ready && item.hasSound && (
          <audio ref={audio} key={`${item.assetId}-sound`} src={`/api/assets/${item.assetId}/sound`} preload="auto" />
        )}
      </div>
      <div className="flex items-center gap-2 border-b border-edge px-3 py-2">
        <button
          className="grid size-[30px] shrink-0 place-items-center rounded-full bg-ink text-cloth"
          onClick={toggle}
          aria-label={playing ? 'Pause the clip' : 'Play the clip'}
          title="Space"
        >
          {playing ? <Pause size={13} fill="currentColor" /> : <Play size={13} fill="currentColor" className="ml-0.5" />}
        </button>
        <Button look="quiet" tight hint="One frame back" hotkey="," aria-label="One frame back" onClick={() => step(-1)}>
          <StepBack size={14} />
        </Button>
        <Button look="quiet" tight hint="One frame on" hotkey="." aria-label="One frame on" onClick={() => step(1)}>
          <StepForward size={14} />
        </Button>
        <b className="figures">{clock(time)}</b>
        <span className="text-[12px] whitespace-nowrap text-soft tabular-nums">frame {frameAt(time + frame / 4, item.rate)}</span>
        <span className="ml-auto flex items-center gap-1.5">
          <Button hint="The stretch worth using starts here" hotkey="I" onClick={setIn}>
            In <span className="figures text-soft">{clock(item.in)}</span>
          </Button>
          <Button hint="It ends after this frame" hotkey="O" onClick={setOut}>
            Out <span className="figures text-soft">{clock(item.out)}</span>
          </Button>
          {item.hasSound && (
            <Button
              look="quiet"
              tight
              aria-label={sound ? 'Mute the clip here' : 'Hear the clip here'}
              hint="Only here; in the montage a clip is silent until you want its sound"
              onClick={() => setSound(!sound)}
            >
              {sound ? <Volume2 size={15} /> : <VolumeX size={15} />}
            </Button>
          )}
        </span>
      </div>
      <div className="px-3 pt-2 pb-3">
        <div
          ref={hold}
          className="relative h-[50px] cursor-pointer overflow-hidden rounded-sm"
          onPointerDown={(e) => {
            e.currentTarget.setPointerCapture(e.pointerId);
            goTo((e.nativeEvent.offsetX / width) * length);
          }}
          onPointerMove={(e) => e.buttons === 1 && goTo((e.nativeEvent.offsetX / width) * length)}
        >
          <div className="pointer-events-none">
            {width > 0 && (
              <StripTiles
                asset={asset}
                width={width}
                height={50}
                times={Array.from({ length: tiles }, (_, i) => ((i + 0.5) / tiles) * length)}
              />
            )}
          </div>
          <div className="pointer-events-none absolute inset-y-0 left-0 bg-cloth/70" style={{ width: `${(item.in / length) * 100}%` }} />
          <div
            className="pointer-events-none absolute inset-y-0 right-0 bg-cloth/70"
            style={{ width: `${(1 - item.out / length) * 100}%` }}
          />
          <div className="pointer-events-none absolute inset-y-0 w-0.5 bg-coral" style={{ left: `${(time / length) * 100}%` }} />
        </div>
        {asset?.info.soundCurve && <SoundCurve values={asset.info.soundCurve} />}
        <Slider.Root
          className="relative mt-1 flex h-4 touch-none items-center select-none"
          min={0}
          max={item.frames}
          step={1}
          minStepsBetweenThumbs={1}
          value={[Math.round(item.in / frame), Math.round(item.out / frame)]}
          onValueChange={([a, b]) => run({ do: 'setInOut', assetId: item.assetId, in: a! * frame, out: b! * frame })}
        >
          <Slider.Track className="relative h-1.5 grow rounded-full bg-cloth-2">
            <Slider.Range className="absolute h-full rounded-full bg-gold" />
          </Slider.Track>
          <Slider.Thumb aria-label="In" className="block h-4 w-2 rounded-sm bg-gold-text" />
          <Slider.Thumb aria-label="Out" className="block h-4 w-2 rounded-sm bg-gold-text" />
        </Slider.Root>
        <p className="mt-1.5 truncate">
          <b className="font-semibold">{item.name}</b>{' '}
          <span className="figures text-[11.5px] text-soft">
            · {item.width}×{item.height} · {rateLabel(item.rate)} fps · {length.toFixed(1)} s{item.hasSound ? ' · sound' : ''}
          </span>
        </p>
      </div>
    </section>
  );
}

function SoundCurve({ values }: { values: readonly number[] }): React.JSX.Element {
  const x = scaleLinear([0, Math.max(1, values.length - 1)], [0, 1000]);
  const y = scaleLinear([0, Math.max(0.02, max(values) ?? 0)], [24, 1]);
  const path = area<number>()
    .x((_, i) => x(i))
    .y0(24)
    .y1((v) => y(v))
    .curve(curveMonotoneX);
  return (
    <svg
      viewBox="0 0 1000 24"
      preserveAspectRatio="none"
      className="mt-1 h-6 w-full"
      role="img"
      aria-label="How loud the clip is over time"
    >
      <path d={path([...values]) ?? ''} fill="var(--wave-high)" opacity="0.75" />
    </svg>
  );
}
