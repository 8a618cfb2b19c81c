import { ROUTES } from '@bluster/wire/routes';
import { Pause, Play, StepBack, StepForward } from 'lucide-react';
import { useEffect } from 'react';
import { clock, clipLength, frameAt, stretchesOf, type FootageItem } from '@bluster/core';
import type { AssetAnswer as Asset } from '@bluster/wire';
import { ClipStrip } from '../../clips/clip-strip.tsx';
import { filmFrame } from '../../tiles/film-frame.ts';
import { StripTiles } from '../../tiles/strip-tiles.tsx';
import { useClipLook } from '../../clips/use-clip-look.ts';
import { useClipPlayer } from '../../clips/use-clip-player.ts';
import { Button } from '../../interface/button.tsx';
import { player as song } from '../../playback/player.ts';
import { useMontage } from '../../document/editor.ts';
import { hangOverPlayhead, hangWatched, insertWatched, replaceAtPlayhead, useHanging } from './hanging.ts';

/** The clip that is being watched, to be hung from here. */
export function ClipPanel({ assets }: { assets: ReadonlyMap<string, Asset> }): React.JSX.Element {
  const { footage } = useMontage();
  const watched = useHanging((state) => state.watched);
  const item = footage.find((f) => f.assetId === watched?.assetId);
  if (!item) return <p className="p-6 text-center text-soft">Click a clip on the shelf to watch it here.</p>;
  const asset = assets.get(item.assetId);
  return item.kind === 'photo' ? <Photo item={item} asset={asset} /> : <Film key={item.assetId} item={item} asset={asset} />;
}

function Photo({ item, asset }: { item: FootageItem; asset: Asset | undefined }): React.JSX.Element {
  const { setHere } = useHanging.getState();
  const { shape } = useMontage();
  useEffect(() => setHere(() => 0), [setHere]);
  return (
    <div className="space-y-2 p-3.5">
      <div className="grid place-items-center bg-night">
        <StripTiles asset={asset} width={230} height={130} times={[0]} framed={filmFrame(item, shape)} within="contain" />
      </div>
      <p className="truncate font-semibold">{item.name}</p>
      <div className="flex flex-wrap gap-1.5">
        <Button look="main" hotkey="D" hint="Into the chosen slot, or the one under the playhead" onClick={() => hangWatched('in')}>
          Hang it
        </Button>
        <Button hotkey="G" hint="Put it in here; the rest moves on by one slot" onClick={insertWatched}>
          Insert
        </Button>
        <Button hotkey="B" hint="Lay it over what hangs at the playhead" onClick={hangOverPlayhead}>
          Over
        </Button>
      </div>
    </div>
  );
}

function Film({ item, asset }: { item: FootageItem; asset: Asset | undefined }): React.JSX.Element {
  const stretches = stretchesOf(item);
  const selectId = useHanging((state) => state.watched?.selectId);
  const select = stretches.find((s) => s.id === selectId) ?? stretches[0]!;
  const look = useClipLook(asset);
  const clip = useClipPlayer(item, select.in, false);
  const { watch, setHere } = useHanging.getState();
  const { goTo, here } = clip;
  useEffect(() => {
    setHere(here);
  });
  useEffect(() => {
    goTo(select.in);
    // Only when another select is watched: its own in may be trimmed without leaving the frame.
    // oxlint-disable-next-line react/exhaustive-deps
  }, [select.id]);
  const frame = item.rate.den / item.rate.num;
  const toggle = (): void => {
    song.pause();
    clip.toggle();
  };
  const keys = (event: React.KeyboardEvent): void => {
    const act = {
      ' ': toggle,
      ',': () => clip.step(-1),
      ArrowLeft: () => clip.step(-1),
      '.': () => clip.step(1),
      ArrowRight: () => clip.step(1),
    }[event.key];
    if (!act || (event.key === ' ' && (event.target as HTMLElement).tagName === 'BUTTON')) return;
    act();
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    // While the panel has the focus, stepping and playing are the clip's.
    <section className="space-y-1.5 px-3.5 py-2" aria-label={`Watching ${item.name}`} tabIndex={0} onKeyDown={keys}>
      <div className="flex gap-2.5">
        <div className="flex h-[118px] w-[208px] shrink-0 items-center justify-center overflow-hidden bg-night">
          {asset?.state === 'ready' ? (
            <video
              ref={clip.video}
              data-testid="watched-video"
              src={`${ROUTES.assetPart(item.assetId, 'proxy')}#t=${(select.in + frame / 2).toFixed(4)}`}
              preload="auto"
              muted
              playsInline
              className="h-[118px] w-[208px] object-contain"
              onLoadedMetadata={clip.onLoaded}
              onPlay={clip.onPlay}
              onPause={clip.onPause}
            />
          ) : (
            <StripTiles asset={asset} width={208} height={118} times={[select.in]} />
          )}
        </div>
        <div className="grid min-w-0 flex-1 grid-cols-2 content-start gap-1.5">
          <Button
            tight
            look="main"
            className="col-span-2"
            hotkey="D"
            hint="From this frame on, into the chosen slot or the one under the playhead"
            onClick={() => hangWatched('in')}
          >
            Hang from here
          </Button>
          <Button tight hotkey="Shift D" hint="Back-timed: the slot ends with this frame" onClick={() => hangWatched('out')}>
            Up to here
          </Button>
          <Button
            tight
            hotkey="F"
            hint="This frame is seen on the slot's mark: the one at the playhead, or its weightiest"
            onClick={() => hangWatched('hit')}
          >
            On the mark
          </Button>
          <Button tight hotkey="V" hint="Replace the shot at the playhead, so that this frame is seen there" onClick={replaceAtPlayhead}>
            Replace here
          </Button>
          <Button tight hotkey="G" hint="Put it in here; the rest moves on by one slot" onClick={insertWatched}>
            Insert
          </Button>
          <Button tight className="col-span-2" hotkey="B" hint="Lay it over what hangs at the playhead" onClick={hangOverPlayhead}>
            Over the playhead
          </Button>
        </div>
      </div>
      <div className="flex items-center gap-1">
        <Button look="quiet" tight aria-label={clip.playing ? 'Pause the watched clip' : 'Play the watched clip'} onClick={toggle}>
          {clip.playing ? <Pause size={13} /> : <Play size={13} />}
        </Button>
        <Button look="quiet" tight aria-label="Watched clip one frame back" onClick={() => clip.step(-1)}>
          <StepBack size={13} />
        </Button>
        <Button look="quiet" tight aria-label="Watched clip one frame on" onClick={() => clip.step(1)}>
          <StepForward size={13} />
        </Button>
        <span className="figures text-[11.5px]" data-testid="watched-frame">
          {clock(clip.time)} · frame {frameAt(clip.time + frame / 4, item.rate)}
        </span>
        <span className="ml-auto truncate text-[11.5px] text-soft">
          {item.name} · {clipLength(item).toFixed(1)} s
        </span>
      </div>
      <ClipStrip
        item={item}
        asset={asset}
        look={look}
        proposals={[]}
        selectId={select.id}
        time={clip.time}
        onGoTo={goTo}
        onSelect={(id) => watch(item.assetId, id)}
      />
    </section>
  );
}
