import type { Asset } from '../api/wire.ts';
import { TilePicture } from './tile-picture.tsx';
import { tileKey } from './tiles.ts';

interface StripTilesProps {
  readonly asset: Asset | undefined;
  /** the clip second that each picture shows, left to right */
  readonly times: readonly number[];
  readonly width: number;
  readonly height: number;
}

/** Small pictures of a clip or photo side by side, cut from its filmstrip. */
export function StripTiles({ asset, times, width, height }: StripTilesProps): React.JSX.Element {
  const first = tileKey(asset, times[0] ?? 0);
  if (!asset || first === null)
    return (
      <div className="grid place-items-center bg-cloth-2 text-[10px] text-soft" style={{ width, height }}>
        {asset?.state === 'failed' ? 'cannot be read' : width > 60 ? 'preparing' : ''}
      </div>
    );
  const strip = asset.info.strip;
  const tile = width / times.length;
  if (!strip || times.length === 1) return <TilePicture name={first} width={width} height={height} />;
  const pictureAt = (time: number): number => Math.max(0, Math.min(strip.pictures - 1, Math.round(time / strip.every)));
  // Each small picture covers its tile; what hangs over on the sides is cropped.
  const scale = Math.max(tile / strip.width, height / strip.height);
  const [w, h] = [strip.width * scale, strip.height * scale];
  return (
    <div className="flex" style={{ width, height }}>
      {times.map((time, i) => {
        const n = pictureAt(time);
        const [column, row] = [n % strip.columns, Math.floor(n / strip.columns)];
        const left = column * w + (w - tile) / 2;
        const top = row * h + (h - height) / 2;
        return (
          <div
            key={i}
            style={{
              width: tile,
              height,
              backgroundImage: `url(/api/assets/${asset.id}/strip)`,
              backgroundSize: `${strip.columns * w}px auto`,
              backgroundPosition: `-${left}px -${top}px`,
            }}
          />
        );
      })}
    </div>
  );
}
