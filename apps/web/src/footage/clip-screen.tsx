import { ROUTES } from '@bluster/wire/routes';
import { type FootageItem, type ProposedHit } from '@bluster/core';
import type { AssetAnswer as Asset } from '@bluster/wire';
import { useSize } from '../interface/use-size.ts';
import { REASONS } from '../clips/clip-strip.tsx';
import { StripTiles } from '../tiles/strip-tiles.tsx';
import type { ClipPlayer } from '../clips/use-clip-player.ts';

/** The picture of a clip that is looked at: its preview, until there is one its filmstrip, or why there is neither. */
export function ClipScreen({
  item,
  asset,
  player,
  startAt,
  proposal,
}: {
  item: FootageItem;
  asset: Asset | undefined;
  player: ClipPlayer;
  /** what it shows first, clip seconds */
  startAt: number;
  /** the proposed hit that is on the screen */
  proposal: ProposedHit | undefined;
}): React.JSX.Element {
  const [screen, box] = useSize<HTMLDivElement>();
  const { assetId } = item;
  const frame = item.rate.den / item.rate.num;
  return (
    <div ref={screen} className="relative grid min-h-0 flex-1 place-items-center overflow-hidden bg-night">
      {asset?.state === 'ready' ? (
        <video
          ref={player.video}
          key={assetId}
          data-testid="clip-video"
          src={`${ROUTES.assetPart(assetId, 'proxy')}#t=${(startAt + frame / 2).toFixed(4)}`}
          preload="auto"
          muted
          playsInline
          className="h-full max-h-full w-full max-w-full object-contain"
          onLoadedMetadata={player.onLoaded}
          onPlay={player.onPlay}
          onPause={player.onPause}
          onClick={player.toggle}
        />
      ) : asset?.state === 'working' && asset.info.strip ? (
        <div className="grid place-items-center gap-2">
          <StripTiles asset={asset} times={[player.time]} {...standIn(item, box)} />
          <p className="text-[12px] text-white/80">Its filmstrip, while the preview is being made</p>
        </div>
      ) : (
        <p className="p-4 text-white/80">
          {asset?.state === 'failed' ? (asset.problem ?? 'This clip cannot be read.') : 'Being looked at…'}
        </p>
      )}
      {asset?.state === 'ready' && item.hasSound && (
        <audio ref={player.audio} key={`${assetId}-sound`} src={ROUTES.assetPart(assetId, 'sound')} preload="auto" />
      )}
      {proposal && (
        <span className="pointer-events-none absolute top-2 left-2 rounded bg-night/80 px-2 py-0.5 text-[11.5px] text-white">
          {REASONS[proposal.reason]}
        </span>
      )}
    </div>
  );
}

/** The size of a small picture that stands in for the preview. */
function standIn(item: FootageItem, box: { width: number; height: number }): { width: number; height: number } {
  const scale = Math.min((box.width - 24) / item.width, (box.height - 60) / item.height);
  return { width: Math.max(16, item.width * scale), height: Math.max(16, item.height * scale) };
}
