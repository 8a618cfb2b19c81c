import { ROUTES } from '@bluster/wire/routes';
import { memo, useEffect, useState } from 'react';
import { characterOf, clipLength, frameAt, rateLabel, type FootageItem } from '@bluster/core';
import { request } from '../api/request.ts';
import type { AssetAnswer as Asset, ClipLook } from '@bluster/wire';
import { useKeys } from '../interface/use-keys.ts';
import { ClipScreen } from './clip-screen.tsx';
import { ClipStrip } from '../clips/clip-strip.tsx';
import { ClipTransport } from './clip-transport.tsx';
import { Description } from './description.tsx';
import { PhotoView } from './photo-view.tsx';
import { SelectLine } from './select-line.tsx';
import { useClipLook } from '../clips/use-clip-look.ts';
import { SPEEDS, useClipPlayer } from '../clips/use-clip-player.ts';
import { useSelectWork } from './use-select-work.ts';

/** Proposed hits weaker than this, of 1, are not shown. */
const LEAST_PROPOSED = 0.12;

interface ViewerProps {
  readonly item: FootageItem;
  readonly asset: Asset | undefined;
  /** what was picked together with it */
  readonly picked: readonly string[];
}

/** The chosen clip or photo large. It stays as it is while letters are typed to find another. */
export const ClipViewer = memo(function ClipViewer(props: ViewerProps): React.JSX.Element {
  return props.item.kind === 'photo' ? <PhotoView {...props} /> : <FilmView {...props} />;
});

/** Play, step, set in and out, choose the hit. */
function FilmView({ item, asset, picked }: ViewerProps): React.JSX.Element {
  const work = useSelectWork(item);
  const { select } = work;
  const [sound, setSound] = useState(item.hasSound);
  const look = useClipLook(asset);
  const [startAt] = useState(select.hit ?? select.in);
  const player = useClipPlayer(item, startAt, sound);
  const { time, playing, goTo, here, toggle, step } = player;
  const frame = item.rate.den / item.rate.num;
  const { assetId } = item;
  const proposals = (look?.hits ?? []).filter((p) => p.strength > LEAST_PROPOSED);
  const frameHere = frameAt(time + frame / 4, item.rate);

  const unready = asset?.state === 'working';
  useEffect(() => {
    // Whoever looks at a clip wants it before those that wait.
    if (unready) void request('POST', ROUTES.hurryAsset(assetId)).catch(() => undefined);
  }, [assetId, unready]);

  const setIn = (): void => work.setIn(here());
  const setOut = (): void => work.setOut(here());
  const setHit = (): void => work.setHit(here());
  const begin = (): void => work.begin(here());
  const toProposal = (by: 1 | -1): void => {
    const frames = proposals.map((p) => p.frame).sort((a, b) => a - b);
    const next = by > 0 ? frames.find((n) => n > frameHere) : frames.findLast((n) => n < frameHere);
    if (next !== undefined) goTo(next * frame + frame / 4);
  };
  const faster = (by: 1 | -1): void => {
    player.setSpeed(SPEEDS[Math.max(0, Math.min(SPEEDS.length - 1, SPEEDS.indexOf(player.speed) + by))]!);
    if (!playing) toggle();
  };

  // These keys are the clip's while it is looked at; the montage's own come second.
  useKeys('space', toggle, true);
  useKeys('i', setIn, true);
  useKeys('shift+i', begin, true);
  useKeys('o', setOut, true);
  useKeys('h', setHit, true);
  useKeys('n', () => toProposal(1), true);
  useKeys('shift+n', () => toProposal(-1), true);
  useKeys('l', () => faster(1), true);
  useKeys('j', () => faster(-1), true);
  useKeys('k', player.pause, true);
  useKeys('comma,left', () => step(-1), true);
  useKeys('period,right', () => step(1), true);

  return (
    <section className="flex min-h-0 flex-1 flex-col" aria-label={`Clip ${item.name}`}>
      <ClipScreen
        item={item}
        asset={asset}
        player={player}
        startAt={startAt}
        proposal={proposals.find((p) => Math.abs(p.frame - frameHere) < 1)}
      />
      <ClipTransport
        item={item}
        player={player}
        ready={asset?.state === 'ready'}
        sound={sound}
        onSound={setSound}
        onIn={setIn}
        onOut={setOut}
        onHit={setHit}
        onNextHit={proposals.length > 0 ? () => toProposal(1) : null}
      />
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
            work.choose(id);
            goTo(item.selects.find((s) => s.id === id)?.in ?? 0);
          }}
        />
        <SelectLine item={item} look={look} proposed={proposals.length} work={work} onBegin={begin} />
        <Description item={item} picked={picked} />
        <p className="break-words">
          <b className="font-semibold">{item.name}</b>{' '}
          <span className="figures text-[11.5px] text-soft">
            · {item.width}×{item.height} · {rateLabel(item.rate)} fps · {clipLength(item).toFixed(1)} s{item.hasSound ? ' · sound' : ''}
          </span>
          {asset?.info.damaged && (
            <span className="block text-[12px] text-gold-text" data-testid="damaged">
              Some of its pictures are damaged, as the camera or the copy left them. It is used as far as they go.
            </span>
          )}
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
