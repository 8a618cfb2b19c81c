import { useEffect, useLayoutEffect, useRef } from 'react';
import { useTheme } from '../interface/theme.ts';

interface LineCanvasProps {
  /** of the line, pixels */
  readonly width: number;
  readonly height: number;
  /** Draws in pixels from the line's left and top; what it returns ends what it still waits for. */
  readonly draw: (c: CanvasRenderingContext2D) => (() => void) | undefined;
}

/** Room beside the line, so that what lies on its very start is drawn whole. */
const MARGIN_PX = 8;
const MOST_SPARE = 32;

/**
 * Canvases that are on no line now. Each new one, and each new size, has the page wait for the process that puts it on the
 * screen; lines by the dozen come and go while it scrolls or is written anew.
 */
const spare: HTMLCanvasElement[] = [];

function takeCanvas(width: number, height: number): HTMLCanvasElement {
  const fitting = spare.findIndex((canvas) => canvas.width === width && canvas.height === height);
  const [canvas = document.createElement('canvas')] = fitting < 0 ? [] : spare.splice(fitting, 1);
  canvas.ariaHidden = 'true';
  return canvas;
}

function giveBack(canvas: HTMLCanvasElement): void {
  canvas.remove();
  spare.push(canvas);
  if (spare.length > MOST_SPARE) spare.shift();
}

/** What a line looks like; drawn again whenever it is rendered. */
export function LineCanvas({ width, height, draw }: LineCanvasProps): React.JSX.Element {
  const hold = useRef<HTMLDivElement>(null);
  const end = useRef<(() => void) | undefined>(undefined);
  useTheme();
  const ratio = devicePixelRatio;
  const wide = Math.round((width + 2 * MARGIN_PX) * ratio);
  const tall = Math.round(height * ratio);
  useLayoutEffect(() => {
    const canvas = takeCanvas(wide, tall);
    hold.current!.append(canvas);
    return () => {
      // Before another line has it: what this one still waits for must not be drawn there.
      end.current?.();
      end.current = undefined;
      giveBack(canvas);
    };
  }, [wide, tall]);
  useEffect(() => {
    const canvas = hold.current!.querySelector('canvas')!;
    if (canvas.width !== wide) canvas.width = wide;
    if (canvas.height !== tall) canvas.height = tall;
    const c = canvas.getContext('2d')!;
    c.resetTransform();
    c.clearRect(0, 0, wide, tall);
    c.setTransform(ratio, 0, 0, ratio, MARGIN_PX * ratio, 0);
    end.current?.();
    end.current = draw(c);
  });
  return (
    <div
      ref={hold}
      className="pointer-events-none absolute top-0 [&>canvas]:size-full"
      style={{ left: -MARGIN_PX, width: width + 2 * MARGIN_PX, height }}
    />
  );
}
