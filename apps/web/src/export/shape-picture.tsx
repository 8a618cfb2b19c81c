import { framedAt, reshaped, slotOf, type Montage } from '@bluster/core';
import type { AssetAnswer as Asset } from '@bluster/wire';
import { TilePicture } from '../tiles/tile-picture.tsx';
import { tileKey } from '../tiles/tiles.ts';

interface ShapePictureProps {
  readonly montage: Montage;
  readonly shotId: string;
  readonly asset: Asset | undefined;
  /** of the film */
  readonly size: { readonly width: number; readonly height: number };
  /** the longer side on the page, pixels */
  readonly longer: number;
}

/** A shot's first frame as a film of a shape shows it. */
export function ShapePicture({ montage, shotId, asset, size, longer }: ShapePictureProps): React.JSX.Element {
  const by = longer / Math.max(size.width, size.height);
  const [wide, high] = [Math.round(size.width * by), Math.round(size.height * by)];
  const shaped = reshaped(montage, { ...montage.shape, ...size });
  const slot = slotOf(shaped, shotId);
  const tile = slot && tileKey(asset, slot.placed.shot.sourceIn);
  return (
    <span className="block overflow-hidden bg-night" style={{ width: wide, height: high }}>
      {tile && (
        <TilePicture
          name={tile}
          width={wide}
          height={high}
          framed={{ ...framedAt(shaped, slot, 0), size: slot.placed.item, screen: size }}
        />
      )}
    </span>
  );
}
