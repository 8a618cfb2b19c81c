import type { AssetAnswer as Asset } from '@bluster/wire';
import type { Within } from './draw-framed.ts';
import type { FilmFrame } from './film-frame.ts';
import { TilePicture } from './tile-picture.tsx';
import { tileKey } from './tiles.ts';

interface StripTilesProps {
  readonly asset: Asset | undefined;
  /** the clip second that each picture shows, left to right */
  readonly times: readonly number[];
  readonly width: number;
  readonly height: number;
  /** how the film frames it; without, as much of it as the place holds */
  readonly framed?: FilmFrame | undefined;
  readonly within?: Within;
}

/** Small pictures of a clip or photo side by side, from its filmstrip. */
export function StripTiles({ asset, times, width, height, framed, within = 'cover' }: StripTilesProps): React.JSX.Element {
  if (!asset || tileKey(asset, times[0] ?? 0) === null)
    return (
      <div className="grid place-items-center bg-cloth-2 text-[10px] text-soft" style={{ width, height }}>
        {asset?.info.missing ? 'not here yet' : asset?.state === 'failed' ? 'cannot be read' : width > 60 ? 'preparing' : ''}
      </div>
    );
  return (
    <div className="flex" style={{ width, height }}>
      {times.map((time, i) => (
        <TilePicture key={i} name={tileKey(asset, time)!} width={width / times.length} height={height} framed={framed} within={within} />
      ))}
    </div>
  );
}
