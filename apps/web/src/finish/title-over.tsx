import { useRef, useState } from 'react';
import { LINE_STEP, titlesAt, type Montage, type Title } from '@bluster/core';
import { useEditor } from '../document/editor.ts';
import { useSize } from '../interface/use-size.ts';
import { useStill } from './drawn-shot.ts';

/** What lies nearer to the picture's edge than this may be cut off by a screen; parts of its width and height. */
const SAFE = 0.05;
/** As near to the middle as this a dragged title is drawn to it, parts of the width and height. */
const DRAWN = 0.02;

/** The place of a title on the picture, to be dragged: guides show what is safe, and the middle draws it. */
export function TitleOver({ montage, title }: { montage: Montage; title: Title }): React.JSX.Element | null {
  const frame = useStill((at) => at);
  const [hold, box] = useSize<HTMLDivElement>();
  const held = useRef<{ x: number; y: number; at: { x: number; y: number } } | null>(null);
  const [draft, setDraft] = useState<{ x: number; y: number } | null>(null);
  const item = frame === null ? undefined : titlesAt(montage, frame).find((t) => t.titleId === title.id);
  if (!item) return null;
  const { width, height } = montage.shape;
  const at = draft ?? { x: item.x / width, y: item.y / height };
  const tall = ((item.lines.length - 1) * (item.step || LINE_STEP) + 1.3) * (item.size / height);
  const within = (value: number): number => {
    const inside = Math.max(SAFE, Math.min(1 - SAFE, value));
    return Math.abs(inside - 0.5) < DRAWN ? 0.5 : inside;
  };
  const stand = (to: { x: number; y: number }): void => void useEditor.getState().run({ do: 'changeTitle', id: title.id, stand: to });
  const dragged = (event: React.PointerEvent): { x: number; y: number } | null =>
    held.current && {
      x: within(held.current.at.x + (event.clientX - held.current.x) / box.width),
      y: within(held.current.at.y + (event.clientY - held.current.y) / box.height),
    };
  return (
    <div ref={hold} className="pointer-events-none absolute inset-0">
      {draft && (
        <>
          <span className="absolute border border-dashed border-white/60" style={{ inset: `${100 * SAFE}%` }} />
          {draft.x === 0.5 && <span className="absolute inset-y-0 left-1/2 border-l border-coral" />}
          {draft.y === 0.5 && <span className="absolute inset-x-0 top-1/2 border-t border-coral" />}
        </>
      )}
      <button
        type="button"
        aria-label="The title on the picture; arrows move it"
        data-testid="title-over"
        className="pointer-events-auto absolute w-3/5 cursor-move touch-none rounded-sm border border-dashed border-transparent hover:border-white/70 focus-visible:border-white/70"
        style={{ left: `${100 * at.x}%`, top: `${100 * at.y}%`, height: `${100 * tall}%`, transform: 'translate(-50%, -50%)' }}
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          held.current = { x: event.clientX, y: event.clientY, at };
        }}
        onPointerMove={(event) => {
          const to = dragged(event);
          if (to) setDraft(to);
        }}
        onPointerUp={(event) => {
          const to = draft && dragged(event);
          held.current = null;
          setDraft(null);
          if (to) stand(to);
        }}
        onPointerCancel={() => {
          held.current = null;
          setDraft(null);
        }}
        onKeyDown={(event) => {
          const by = { ArrowLeft: [-0.01, 0], ArrowRight: [0.01, 0], ArrowUp: [0, -0.01], ArrowDown: [0, 0.01] }[event.key];
          if (!by) return;
          event.preventDefault();
          event.stopPropagation();
          stand({ x: Math.max(SAFE, Math.min(1 - SAFE, at.x + by[0]!)), y: Math.max(SAFE, Math.min(1 - SAFE, at.y + by[1]!)) });
        }}
      />
    </div>
  );
}
