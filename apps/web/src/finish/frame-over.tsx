import { useRef, useState } from 'react';
import { covering, framingScale, movesOf, placedMoves, standingView, type AskedMove, type Montage, type View } from '@bluster/core';
import { useEditor } from '../document/editor.ts';
import { useSize } from '../interface/use-size.ts';
import type { FilledSlot } from './chosen-shots.ts';
import { useFinishing } from './finishing.ts';
import { asked } from './move-panel.tsx';

type End = 'stands' | 'from' | 'to';
interface Held {
  readonly end: End;
  readonly corner: boolean;
  readonly x: number;
  readonly y: number;
  readonly view: View;
  /** where the picture's place lies in the window */
  readonly area: { readonly left: number; readonly top: number };
}

const WORDS = { stands: 'frame', from: 'from', to: 'to' } as const;
const CORNERS = [
  [0, 0],
  [1, 0],
  [0, 1],
  [1, 1],
] as const;

/** The frames of a shot on its picture, which is seen whole: dragged to move them, by a corner or with the wheel to make them larger. */
export function FrameOver({ montage, slot }: { montage: Montage; slot: FilledSlot }): React.JSX.Element {
  const { move: at } = useFinishing();
  const [hold, box] = useSize<HTMLDivElement>();
  const { shot, item } = slot.placed;
  const { shape } = montage;
  const moves = placedMoves(montage, slot);
  const now = moves[Math.min(at, moves.length - 1)];
  const held = useRef<Held | null>(null);
  const [draft, setDraft] = useState<{ readonly end: End; readonly view: View } | null>(null);

  const standing = standingView(shot, item);
  const views: Partial<Record<End, View>> = now ? { from: now.views.from, to: now.views.to } : { stands: standing };
  const framed = (view: View): View => (shot.framing === 'fill' ? covering(view, item, shape) : view);
  if (draft) views[draft.end] = framed(draft.view);

  // The picture lies on the screen as large as it fits; a frame is as much of it as the film shows.
  const fit = Math.min(box.width / item.width, box.height / item.height);
  const [left, top] = [(box.width - item.width * fit) / 2, (box.height - item.height * fit) / 2];
  const place = (view: View): React.CSSProperties => {
    const each = fit / (framingScale(item, shape, shot.framing) * view.zoom);
    const [width, height] = [shape.width * each, shape.height * each];
    return {
      left: left + view.x * item.width * fit - width / 2,
      top: top + view.y * item.height * fit - height / 2,
      width,
      height,
      transform: view.turn === 0 ? undefined : `rotate(${-view.turn}deg)`,
    };
  };

  const commit = (end: End, view: View): void => {
    const { run } = useEditor.getState();
    const ids = [shot.id];
    const whole = framed(view);
    if (end === 'stands') return void run({ do: 'setView', ids, view: whole });
    const all = movesOf(montage, shot).map(asked);
    const index = Math.min(at, all.length - 1);
    const drawn: AskedMove = { ...all[index]!, kind: 'drawn', views: { ...now!.views, [end]: whole } };
    run({ do: 'setMoves', ids, moves: all.map((one, i) => (i === index ? drawn : one)) });
    return undefined;
  };
  const dragged = (event: React.PointerEvent): View | null => {
    const from = held.current;
    if (!from) return null;
    const [dx, dy] = [event.clientX - from.x, event.clientY - from.y];
    if (!from.corner) return { ...from.view, x: from.view.x + dx / (item.width * fit), y: from.view.y + dy / (item.height * fit) };
    const { area } = from;
    // The corner follows the pointer, about the frame's middle.
    const [midX, midY] = [area.left + left + from.view.x * item.width * fit, area.top + top + from.view.y * item.height * fit];
    const far = (x: number, y: number): number => Math.max(8, Math.hypot(x - midX, y - midY));
    return { ...from.view, zoom: from.view.zoom * (far(from.x, from.y) / far(event.clientX, event.clientY)) };
  };
  const take = (end: End, corner: boolean) => (event: React.PointerEvent<HTMLElement>) => {
    event.stopPropagation();
    event.currentTarget.setPointerCapture(event.pointerId);
    const area = event.currentTarget.closest('[data-frames]')!.getBoundingClientRect();
    held.current = { end, corner, x: event.clientX, y: event.clientY, view: views[end]!, area };
  };
  const drag = (event: React.PointerEvent): void => {
    const view = dragged(event);
    if (view && held.current) setDraft({ end: held.current.end, view });
  };
  const drop = (event: React.PointerEvent): void => {
    const view = dragged(event);
    const end = held.current?.end;
    held.current = null;
    setDraft(null);
    if (view && end && (view.x !== views[end]?.x || draft)) commit(end, view);
  };
  const byKey = (end: End) => (event: React.KeyboardEvent) => {
    const view = views[end]!;
    const to: Record<string, Partial<View>> = {
      ArrowLeft: { x: view.x - 0.01 },
      ArrowRight: { x: view.x + 0.01 },
      ArrowUp: { y: view.y - 0.01 },
      ArrowDown: { y: view.y + 0.01 },
      '+': { zoom: view.zoom * 1.04 },
      '-': { zoom: view.zoom / 1.04 },
    };
    const change = to[event.key];
    if (!change) return;
    event.preventDefault();
    event.stopPropagation();
    commit(end, { ...view, ...change });
  };
  const points = { onPointerMove: drag, onPointerUp: drop, onPointerCancel: () => (held.current = null) };
  return (
    <div ref={hold} className="absolute inset-0 overflow-hidden" data-testid="frame-over" data-frames>
      {(['from', 'to', 'stands'] as const).map((end) => {
        const view = views[end];
        if (!view) return null;
        const dashed = end === 'from';
        return (
          <div
            key={end}
            role="button"
            tabIndex={0}
            aria-label={`${end === 'stands' ? 'Frame' : `Frame ${end}`}: ${Math.round(100 * view.zoom)} %; arrows move it, plus and minus make it larger`}
            className={`absolute cursor-move touch-none border-2 ${dashed ? 'border-dashed border-white/80' : 'border-white shadow-[0_0_0_2000px_rgb(0_0_0/0.35)]'}`}
            style={place(view)}
            data-testid={`frame-${end}`}
            onPointerDown={take(end, false)}
            onWheel={(event) => commit(end, { ...view, zoom: view.zoom * (event.deltaY > 0 ? 1 / 1.05 : 1.05) })}
            onKeyDown={byKey(end)}
            {...points}
          >
            <span className="pointer-events-none absolute top-1 left-1.5 text-[11px] font-semibold text-white [text-shadow:0_1px_3px_rgb(0_0_0/.8)]">
              {WORDS[end]} · {Math.round(100 * view.zoom)} %
            </span>
            {CORNERS.map(([x, y]) => (
              <span
                key={`${x} ${y}`}
                className="absolute size-2.5 rounded-[2px] bg-white"
                style={{ left: `calc(${100 * x}% - 5px)`, top: `calc(${100 * y}% - 5px)`, cursor: x === y ? 'nwse-resize' : 'nesw-resize' }}
                data-testid={`corner-${end}`}
                onPointerDown={take(end, true)}
                {...points}
              />
            ))}
          </div>
        );
      })}
    </div>
  );
}
