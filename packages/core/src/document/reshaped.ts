import type { Framing, Montage, Shape, Shot } from './montage.ts';

interface Size {
  readonly width: number;
  readonly height: number;
}

/** How a picture stands in a shape. */
export interface ShapeView {
  /** width to height, as "9:16" */
  readonly shape: string;
  readonly framing: Framing;
  readonly view?: Shot['view'];
}

/** As near as this two shapes are the same: even sides cannot keep every one exactly. */
const SAME = 0.01;

const aspectOf = (shape: string): number => {
  const [wide, high] = shape.split(':').map(Number);
  return wide! / high!;
};

const isAlike = (a: number, b: number): boolean => Math.abs(Math.log(a / b)) < SAME;

/** Whether a frame of a size is of a shape. @param shape width to height, as "9:16" */
export const isInShape = (shape: string, { width, height }: Size): boolean => isAlike(aspectOf(shape), width / height);

const divisor = (a: number, b: number): number => (b === 0 ? a : divisor(b, a % b));

/** The sides of a frame in least numbers. */
export function leastSides({ width, height }: Size): readonly [wide: number, high: number] {
  const by = divisor(width, height);
  return [width / by, height / by];
}

/** How a shot stands in a shape where that was said for it. */
export const ownView = (shot: Shot, size: Size): ShapeView | undefined => shot.shapeViews?.find((v) => isInShape(v.shape, size));

/** A shot as it stands in another shape; how it stood is kept for the shape that it had. */
function reshapedShot(shot: Shot, from: Size, to: Size): Shot {
  const own = ownView(shot, to);
  if (!own) return shot;
  const { view, ...rest } = shot;
  const left: ShapeView = { shape: leastSides(from).join(':'), framing: shot.framing, ...(view ? { view } : {}) };
  const others = shot.shapeViews!.filter((v) => v !== own && !isInShape(v.shape, from));
  return { ...rest, framing: own.framing, ...(own.view ? { view: own.view } : {}), shapeViews: [...others, left] };
}

/** The montage in another size or rate. Shots that were framed for that shape stand as they were framed for it. */
export function reshaped(montage: Montage, shape: Shape): Montage {
  const alike = isAlike(montage.shape.width / montage.shape.height, shape.width / shape.height);
  if (alike || !montage.shots.some((s) => s.shapeViews)) return { ...montage, shape };
  return { ...montage, shape, shots: montage.shots.map((s) => reshapedShot(s, montage.shape, shape)) };
}
