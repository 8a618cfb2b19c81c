import { ChevronDown, Pause, Play, SkipForward, StepBack, StepForward, Target, Volume2, VolumeX, X } from 'lucide-react';
import { Slider } from 'radix-ui';
import { memo, useEffect, useState } from 'react';
import { toast } from 'sonner';
import {
  WHOLE_CLIP,
  characterOf,
  clipLength,
  clock,
  frameAt,
  framesPerSecond,
  rateLabel,
  stretchesByChanges,
  stretchesByHits,
  stretchesOf,
  type FootageItem,
} from '@bluster/core';
import { request } from '../api/request.ts';
import type { Asset, ClipLook } from '../api/wire.ts';
import { Button } from '../interface/button.tsx';
import { Menu, MenuItem } from '../interface/menu.tsx';
import { useKeys } from '../interface/use-keys.ts';
import { useSize } from '../interface/use-size.ts';
import { useEditor } from '../project/editor.ts';
import { ClipStrip, REASONS } from './clip-strip.tsx';
import { Description } from './description.tsx';
import { PhotoView } from './photo-view.tsx';
import { StripTiles } from './strip-tiles.tsx';
import { useClipLook } from './use-clip-look.ts';
import { SPEEDS, useClipPlayer, type Speed } from './use-clip-player.ts';

interface ViewerProps {
  readonly item: FootageItem;
  readonly asset: Asset | undefined;
  /** what was picked together with it */
  readonly picked: readonly string[];
}

/** The chosen clip or photo large. It stays as it is while letters are typed to find another. */
export const ClipViewer = memo(function ClipViewer(props: ViewerProps): React.JSX.Element {
  return props.item.kind === 'photo' ? <PhotoView item={props.item} picked={props.picked} /> : <FilmView {...props} />;
});

/** Play, step, set in and out, choose the hit. */
function FilmView({ item, asset, picked }: ViewerProps): React.JSX.Element {
  const stretches = stretchesOf(item);
  const [wanted, setWanted] = useState(stretches[0]!.id);
  // A select that has gone, or a whole clip that has become one: the first stands in for it.
  const select = stretches.find((s) => s.id === wanted) ?? stretches[0]!;
  const [sound, setSound] = useState(item.hasSound);
  const look = useClipLook(asset);
  const [startAt] = useState(select.hit ?? select.in);
  const player = useClipPlayer(item, startAt, sound);
  const { time, playing, goTo, here, toggle, step } = player;
  const [screen, box] = useSize<HTMLDivElement>();
  const length = clipLength(item);
  const fps = framesPerSecond(item.rate);
  const frame = 1 / fps;
  const { run } = useEditor.getState();
  const { assetId } = item;
  const proposals = (look?.hits ?? []).filter((p) => p.strength > 0.12);

  const unready = asset?.state === 'working';
  useEffect(() => {
    // Whoever looks at a clip wants it before those that wait.
    if (unready) void request('POST', `/api/assets/${assetId}/hurry`).catch(() => undefined);
  }, [assetId, unready]);

  const setEnds = (from: number, out: number): void => {
    run({ do: 'setSelect', assetId, selectId: select.id === WHOLE_CLIP ? null : select.id, in: from, out });
  };
  const setIn = (): void => setEnds(here(), select.out > here() ? select.out : length);
  const setOut = (): void => setEnds(select.in < here() + frame ? select.in : 0, here() + frame);
  const newSelect = (): void => {
    const next = item.selects.find((s) => s.in > here() + frame);
    if (!run({ do: 'setSelect', assetId, selectId: null, in: here(), out: next?.in ?? length })) return;
    const now = useEditor.getState().history.now.footage.find((f) => f.assetId === assetId);
    const fresh = now?.selects.find((s) => !item.selects.some((o) => o.id === s.id));
    if (fresh) setWanted(fresh.id);
  };
  const setHit = (): void => {
    const at = here();
    const within = stretches.filter((s) => at > s.in - 1e-6 && at < s.out - 1e-6);
    const own = within.find((s) => s.id === select.id) ?? within[0];
    if (!own) {
      toast.error('The hit must lie in a select. Set an in before it, or start a new select with Shift I.');
      return;
    }
    run({ do: 'setHit', assetId, selectId: own.id, hit: own.hit !== null && Math.abs(own.hit - at) < frame / 2 ? null : at });
    setWanted(own.id);
  };
  const toProposal = (by: 1 | -1): void => {
    const now = frameAt(time + frame / 4, item.rate);
    const frames = proposals.map((p) => p.frame).sort((a, b) => a - b);
    const next = by > 0 ? frames.find((n) => n > now) : frames.findLast((n) => n < now);
    if (next !== undefined) goTo(next * frame + frame / 4);
  };
  const faster = (by: 1 | -1): void => {
    player.setSpeed(SPEEDS[Math.max(0, Math.min(SPEEDS.length - 1, SPEEDS.indexOf(player.speed) + by))]!);
    if (!playing) toggle();
  };
  const chop = (title: string, parts: readonly { in: number; out: number; hit?: number }[]): void => {
    if (parts.length === 0) toast(`${item.name} has nothing to be chopped ${title}.`);
    else if (run({ do: 'addSelects', assetId, stretches: parts, how: 'replace' }))
      toast(`${item.name} is ${parts.length} ${parts.length === 1 ? 'select' : 'selects'} now.`);
  };

  // These keys are the clip's while it is looked at; the montage's own come second.
  useKeys('space', toggle, true);
  useKeys('i', setIn, true);
  useKeys('shift+i', newSelect, true);
  useKeys('o', setOut, true);
  useKeys('h', setHit, true);
  useKeys('n', () => toProposal(1), true);
  useKeys('shift+n', () => toProposal(-1), true);
  useKeys('l', () => faster(1), true);
  useKeys('j', () => faster(-1), true);
  useKeys('k', player.pause, true);
  useKeys('comma,left', () => step(-1), true);
  useKeys('period,right', () => step(1), true);

  const proposalHere = proposals.find((p) => Math.abs(p.frame - frameAt(time + frame / 4, item.rate)) < 1);
  return (
    <section className="flex min-h-0 flex-1 flex-col" aria-label={`Clip ${item.name}`}>
      <div ref={screen} className="relative grid min-h-0 flex-1 place-items-center overflow-hidden bg-night">
        {asset?.state === 'ready' ? (
          <video
            ref={player.video}
            key={assetId}
            data-testid="clip-video"
            src={`/api/assets/${assetId}/proxy#t=${(startAt + frame / 2).toFixed(4)}`}
            preload="auto"
            muted
            playsInline
            className="h-full max-h-full w-full max-w-full object-contain"
            onPlay={player.onPlay}
            onPause={player.onPause}
            onClick={toggle}
          />
        ) : asset?.state === 'working' && asset.info.looked ? (
          <div className="grid place-items-center gap-2">
            <StripTiles asset={asset} times={[time]} {...standIn(item, box)} />
            <p className="text-[12px] text-white/80">Its filmstrip, while the preview is being made</p>
          </div>
        ) : (
          <p className="p-4 text-white/80">
            {asset?.state === 'failed' ? (asset.problem ?? 'This clip cannot be read.') : 'Being looked at…'}
          </p>
        )}
        {asset?.state === 'ready' && item.hasSound && (
          <audio ref={player.audio} key={`${assetId}-sound`} src={`/api/assets/${assetId}/sound`} preload="auto" />
        )}
        {proposalHere && (
          <span className="pointer-events-none absolute top-2 left-2 rounded bg-night/80 px-2 py-0.5 text-[11.5px] text-white">
            {REASONS[proposalHere.reason]}
          </span>
        )}
      </div>
      <div className="flex items-center gap-1.5 border-b border-edge px-3 py-2">
        <button
          className="grid size-[30px] shrink-0 place-items-center rounded-full bg-ink text-cloth disabled:opacity-40"
          onClick={toggle}
          disabled={asset?.state !== 'ready'}
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
        <select
          aria-label="Speed"
          title="J slower, K pause, L faster"
          className="figures ml-auto rounded border border-edge bg-paper px-0.5 py-0.5 text-[11.5px]"
          value={player.speed}
          onChange={(e) => player.setSpeed(Number(e.target.value) as Speed)}
        >
          {SPEEDS.map((s) => (
            <option key={s} value={s}>
              {s}×
            </option>
          ))}
        </select>
        <Button hint="The stretch worth using starts here" hotkey="I" onClick={setIn}>
          In
        </Button>
        <Button hint="It ends after this frame" hotkey="O" onClick={setOut}>
          Out
        </Button>
        <Button hint="The action happens in this frame; once more takes the hit away" hotkey="H" onClick={setHit}>
          <Target size={13} className="text-coral-text" /> Hit
        </Button>
        <Button
          look="quiet"
          tight
          hint="To the next frame where something may happen"
          hotkey="N"
          aria-label="Next proposed hit"
          disabled={proposals.length === 0}
          onClick={() => toProposal(1)}
        >
          <SkipForward size={14} />
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
      </div>
      <div className="space-y-1.5 px-3 pt-1 pb-2.5">
        <ClipStrip
          item={item}
          asset={asset}
          look={look}
          proposals={proposals}
          selectId={select.id}
          time={time}
          onGoTo={goTo}
          onSelect={(id) => {
            setWanted(id);
            goTo(item.selects.find((s) => s.id === id)?.in ?? 0);
          }}
        />
        <Slider.Root
          className="relative flex h-4 touch-none items-center select-none"
          min={0}
          max={item.frames}
          step={1}
          minStepsBetweenThumbs={1}
          value={[Math.round(select.in / frame), Math.round(select.out / frame)]}
          onValueChange={([a, b]) => setEnds(a! * frame, b! * frame)}
        >
          <Slider.Track className="relative h-1.5 grow rounded-full bg-cloth-2">
            <Slider.Range className="absolute h-full rounded-full bg-gold" />
          </Slider.Track>
          <Slider.Thumb aria-label="In" className="block h-4 w-2 rounded-sm bg-gold-text" />
          <Slider.Thumb aria-label="Out" className="block h-4 w-2 rounded-sm bg-gold-text" />
        </Slider.Root>
        <div className="flex items-center gap-1.5 text-[12px]" data-testid="select-line">
          <span className="figures whitespace-nowrap" title={`${(select.out - select.in).toFixed(3)} s`}>
            {clock(select.in)}–{clock(select.out)}
          </span>
          {select.hit !== null && <span className="figures whitespace-nowrap text-coral-text">hit {clock(select.hit)}</span>}
          <span className="ml-auto flex items-center gap-1">
            {item.selects.length > 0 && (
              <Button
                look="quiet"
                tight
                hint={item.selects.length === 1 ? 'All of the clip is worth using again' : 'Take this select away'}
                aria-label="Take this select away"
                onClick={() => run({ do: 'removeSelect', assetId, selectId: select.id })}
              >
                <X size={13} /> {item.selects.findIndex((s) => s.id === select.id) + 1} of {item.selects.length}
              </Button>
            )}
            <Button hint="Another stretch of this clip starts here" hotkey="Shift I" onClick={newSelect}>
              New select
            </Button>
            <Menu
              trigger={
                <Button disabled={!look}>
                  Chop <ChevronDown size={12} />
                </Button>
              }
            >
              <MenuItem onSelect={() => chop('at picture changes', look ? stretchesByChanges(look, fps) : [])}>
                At its picture changes ({look?.changes.length ?? 0})
              </MenuItem>
              <MenuItem onSelect={() => chop('around hits', look ? stretchesByHits(look, fps) : [])}>
                Around its hits ({proposals.length})
              </MenuItem>
            </Menu>
          </span>
        </div>
        <Description item={item} picked={picked} />
        <p className="truncate">
          <b className="font-semibold">{item.name}</b>{' '}
          <span className="figures text-[11.5px] text-soft">
            · {item.width}×{item.height} · {rateLabel(item.rate)} fps · {length.toFixed(1)} s{item.hasSound ? ' · sound' : ''}
          </span>
          {look && <CharacterOf look={look} from={select.in} to={select.out} />}
        </p>
      </div>
    </section>
  );
}

/** What a select is like: its main colours, how much moves in it, how bright it is. */
function CharacterOf({ look, from, to }: { look: ClipLook; from: number; to: number }): React.JSX.Element {
  const { movement, brightness } = characterOf(look, from, to);
  const words = `movement ${Math.round(100 * movement)} % · light ${Math.round(100 * brightness)} %`;
  return (
    <span className="ml-1.5 inline-flex items-center gap-1 text-[11.5px] text-soft" data-testid="character">
      {look.colours.map((colour) => (
        <span key={colour} className="size-2.5 rounded-full" style={{ backgroundColor: colour }} title={colour} />
      ))}
      {words}
    </span>
  );
}

/** The size of a small picture that stands in for the preview. */
function standIn(item: FootageItem, box: { width: number; height: number }): { width: number; height: number } {
  const scale = Math.min((box.width - 24) / item.width, (box.height - 60) / item.height);
  return { width: Math.max(16, item.width * scale), height: Math.max(16, item.height * scale) };
}
