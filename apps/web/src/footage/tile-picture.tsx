import { memo, useEffect, useRef } from 'react';
import { drawCovering } from './draw-covering.ts';
import { onTiles, tile } from './tiles.ts';

interface TilePictureProps {
  /** as tileKey() names it */
  readonly name: string;
  /** pixels */
  readonly width: number;
  readonly height: number;
}

/** One small picture of a clip or photo, cropped to its place. It comes with the others that are wanted at the same time. */
export const TilePicture = memo(function TilePicture({ name, width, height }: TilePictureProps): React.JSX.Element {
  const ref = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const canvas = ref.current;
    const c = canvas?.getContext('2d', { alpha: false });
    if (!canvas || !c) return;
    let end: (() => void) | undefined;
    const draw = (): boolean => {
      const picture = tile(name);
      if (!picture) return false;
      const [w, h] = [Math.round(width * devicePixelRatio), Math.round(height * devicePixelRatio)];
      // A new size costs a new picture in memory, even where it is the old one.
      if (canvas.width !== w) canvas.width = w;
      if (canvas.height !== h) canvas.height = h;
      drawCovering(c, picture, 0, 0, w, h);
      canvas.style.visibility = '';
      end?.();
      return true;
    };
    if (!draw()) {
      canvas.style.visibility = 'hidden'; // it may still show another clip's picture
      end = onTiles(draw);
    }
    return () => end?.();
  }, [name, width, height]);
  return <canvas ref={ref} width={1} height={1} className="block" style={{ width, height }} aria-hidden />;
});
