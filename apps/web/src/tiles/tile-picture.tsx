import { memo, useEffect, useRef } from 'react';
import { drawCovering } from './draw-covering.ts';
import { drawFramed, type Within } from './draw-framed.ts';
import type { FilmFrame } from './film-frame.ts';
import { onTiles, tile } from './tiles.ts';

interface TilePictureProps {
  /** as tileKey() names it */
  readonly name: string;
  /** pixels */
  readonly width: number;
  readonly height: number;
  /** how the film frames it; without, as much of it as the place holds */
  readonly framed?: FilmFrame | undefined;
  readonly within?: Within;
}

/** One small picture of a clip or photo, cropped to its place. It comes with the others that are wanted at the same time. */
export const TilePicture = memo(function TilePicture({
  name,
  width,
  height,
  framed,
  within = 'cover',
}: TilePictureProps): React.JSX.Element {
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
      if (framed) drawFramed(c, picture, framed, { x: 0, y: 0, width: w, height: h }, within);
      else drawCovering(c, picture, 0, 0, w, h);
      canvas.style.visibility = '';
      end?.();
      return true;
    };
    if (!draw()) {
      canvas.style.visibility = 'hidden'; // it may still show another clip's picture
      end = onTiles(draw);
    }
    return () => end?.();
  }, [name, width, height, framed, within]);
  return <canvas ref={ref} width={1} height={1} className="block" style={{ width, height }} aria-hidden />;
});
