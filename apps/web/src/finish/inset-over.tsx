import { useRef, useState } from 'react';
import type { Shot } from '@bluster/core';
import { useEditor } from '../document/editor.ts';
import { useSize } from '../interface/use-size.ts';

type Inset = NonNullable<Shot['inset']>;

const SMALLEST = 0.08;
const STEP = 0.01;

/** All of it stays in the frame. */
function within({ x, y, size }: Inset): Inset {
  const own = Math.max(SMALLEST, Math.min(1, size));
  const middle = (at: number): number => Math.max(own / 2, Math.min(1 - own / 2, at));
  return { x: middle(x), y: middle(y), size: own };
}

/** A picture in the picture, to be dragged on the screen and made larger by its corner. */
export function InsetOver({ shot, inset }: { shot: Shot; inset: Inset }): React.JSX.Element {
  const [hold, box] = useSize<HTMLDivElement>();
  const held = useRef<{ x: number; y: number; corner: boolean } | null>(null);
  const [draft, setDraft] = useState<Inset | null>(null);
  const now = within(draft ?? inset);
  const set = (to: Inset): void => void useEditor.getState().run({ do: 'setCutaways', ids: [shot.id], inset: within(to) });
  const dragged = (event: React.PointerEvent): Inset | null => {
    if (!held.current) return null;
    const [dx, dy] = [(event.clientX - held.current.x) / box.width, (event.clientY - held.current.y) / box.height];
    return held.current.corner ? { ...inset, size: inset.size + 2 * Math.max(dx, dy) } : { ...inset, x: inset.x + dx, y: inset.y + dy };
  };
  const take = (corner: boolean) => (event: React.PointerEvent<HTMLElement>) => {
    event.stopPropagation();
    event.currentTarget.setPointerCapture(event.pointerId);
    held.current = { x: event.clientX, y: event.clientY, corner };
  };
  const points = {
    onPointerMove: (event: React.PointerEvent) => {
      const to = dragged(event);
      if (to) setDraft(to);
    },
    onPointerUp: (event: React.PointerEvent) => {
      const to = draft && dragged(event);
      held.current = null;
      setDraft(null);
      if (to) set(to);
    },
    onPointerCancel: () => {
      held.current = null;
      setDraft(null);
    },
  };
  return (
    <div ref={hold} className="absolute inset-0">
      <div
        role="button"
        tabIndex={0}
        aria-label="The picture in the picture; arrows move it, plus and minus size it"
        data-testid="inset-over"
        className="absolute cursor-move touch-none border-2 border-dashed border-white/80"
        style={{
          left: `${100 * (now.x - now.size / 2)}%`,
          top: `${100 * (now.y - now.size / 2)}%`,
          width: `${100 * now.size}%`,
          height: `${100 * now.size}%`,
        }}
        onPointerDown={take(false)}
        onKeyDown={(event) => {
          const to: Record<string, Partial<Inset>> = {
            ArrowLeft: { x: inset.x - STEP },
            ArrowRight: { x: inset.x + STEP },
            ArrowUp: { y: inset.y - STEP },
            ArrowDown: { y: inset.y + STEP },
            '+': { size: inset.size + STEP },
            '-': { size: inset.size - STEP },
          };
          const change = to[event.key];
          if (!change) return;
          event.preventDefault();
          event.stopPropagation();
          set({ ...inset, ...change });
        }}
        {...points}
      >
        <span
          className="absolute -right-1.5 -bottom-1.5 size-3 cursor-nwse-resize rounded-[2px] bg-white"
          data-testid="inset-corner"
          onPointerDown={take(true)}
          {...points}
        />
      </div>
    </div>
  );
}
