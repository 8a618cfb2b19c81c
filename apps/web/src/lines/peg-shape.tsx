interface PegShapeProps {
  readonly ghost?: boolean;
  readonly chosen?: boolean;
  readonly free?: boolean;
  readonly small?: boolean;
}

/** A little wooden clothes peg. A picture, not drawn anew: hundreds of them scroll past. */
export function PegShape({ ghost = false, chosen = false, free = false, small = false }: PegShapeProps): React.JSX.Element {
  const kind = chosen ? (free ? 'peg-free-chosen' : 'peg-chosen') : free ? 'peg-free' : 'peg-held';
  return <span className={`block ${kind} ${small ? 'h-[13px] w-[9px]' : 'h-[17px] w-[12px]'} ${ghost ? 'opacity-45' : ''}`} aria-hidden />;
}

const BODY = new Path2D('M2.2 .8h7.6v9.4l-1.8 6H4l-1.8-6z');
const SPRING = new Path2D('M2.4 6.6h7.2');

export const PEG_PX = { width: 12, height: 17 };
const drawn = new Map<string, OffscreenCanvas>();

/** A peg drawn once for so many device pixels a pixel. */
function pegPicture(free: boolean, ratio: number): OffscreenCanvas {
  const key = `${free} ${ratio}`;
  let picture = drawn.get(key);
  if (picture) return picture;
  picture = new OffscreenCanvas(Math.ceil(PEG_PX.width * ratio), Math.ceil(PEG_PX.height * ratio));
  drawn.set(key, picture);
  const c = picture.getContext('2d')!;
  c.scale(ratio, ratio);
  c.fillStyle = free ? '#d8b98a' : '#b98a4e';
  c.strokeStyle = '#7d5a2b';
  c.lineWidth = 0.9;
  c.fill(BODY);
  if (free) c.setLineDash([2, 1.4]);
  c.stroke(BODY);
  c.setLineDash([]);
  c.lineWidth = 1.1;
  c.stroke(SPRING);
  return picture;
}

/** The same peg on a canvas, its middle at x; on whole device pixels, so that it stays sharp. */
export function drawPeg(c: CanvasRenderingContext2D, x: number, y: number, free: boolean): void {
  const ratio = c.getTransform().a;
  const picture = pegPicture(free, ratio);
  c.drawImage(picture, Math.round((x - PEG_PX.width / 2) * ratio) / ratio, y, picture.width / ratio, picture.height / ratio);
}
