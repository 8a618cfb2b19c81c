import { MOVES, type MoveKind } from '@bluster/core';

/** Size of a sketch, and of the picture in it. */
const [WIDTH, HEIGHT] = [58, 34];
const PICTURE = { x: 9, y: 5, width: 40, height: 24 };

/** Where a frame lies in the sketch. */
function frameOf(view: { readonly x: number; readonly y: number; readonly zoom: number }): React.SVGProps<SVGRectElement> {
  const [w, h] = [PICTURE.width / view.zoom, PICTURE.height / view.zoom];
  return { x: PICTURE.x + view.x * PICTURE.width - w / 2, y: PICTURE.y + view.y * PICTURE.height - h / 2, width: w, height: h };
}

/** What a ready move does: dashed from where, whole to where. */
export function MoveSketch({ kind }: { kind: MoveKind | 'stands' }): React.JSX.Element {
  const middle = { x: 0.5, y: 0.5, zoom: 1, turn: 0 };
  const views = kind === 'stands' || kind === 'drawn' ? null : MOVES[kind].views(middle, 0.8, middle);
  return (
    <svg width={WIDTH} height={HEIGHT} aria-hidden className="block">
      {kind === 'drawn' ? (
        <>
          <rect {...frameOf({ x: 0.3, y: 0.62, zoom: 2.2 })} className="fill-none stroke-soft" strokeDasharray="2 2" />
          <rect {...frameOf({ x: 0.64, y: 0.42, zoom: 1.4 })} className="fill-none stroke-current" strokeWidth={1.6} />
        </>
      ) : views ? (
        <>
          <rect {...frameOf(views.from)} className="fill-none stroke-soft" strokeDasharray="2 2" />
          <rect {...frameOf(views.to)} className="fill-none stroke-current" strokeWidth={1.6} />
        </>
      ) : (
        <rect {...frameOf(middle)} className="fill-none stroke-current" strokeDasharray="3 2" />
      )}
    </svg>
  );
}
