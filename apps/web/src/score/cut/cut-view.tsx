import { handlesOf, markBeside, scoreOf, sourceFrame, type Montage, type Slot } from '@bluster/core';
import { Button } from '../../interface/button.tsx';
import { usePlayer } from '../../playback/use-player.ts';
import { montageNow, useEditor, useMontage } from '../../document/editor.ts';

/** The cut that is chosen, while nothing plays. */
export function useChosenCut(): { frame: number; before: Slot | undefined; after: Slot | undefined; pegId: string } | null {
  const montage = useMontage();
  const pegId = useEditor((state) => state.selection.pegId);
  const playing = usePlayer((state) => state.playing);
  if (pegId === null || playing) return null;
  const { slots } = scoreOf(montage);
  const before = slots.find((s) => s.end.id === pegId);
  const after = slots.find((s) => s.start.id === pegId);
  return before && after ? { frame: after.start.frame, before, after, pegId } : null;
}

/** Rolls the chosen cut to the mark beside it, or by frames. */
export function rollChosen(to: 'before' | 'after' | number): void {
  const { selection, run } = useEditor.getState();
  const montage = montageNow();
  const placed = scoreOf(montage).pegs.find((p) => p.id === selection.pegId);
  if (!placed?.peg) return;
  if (typeof to === 'number') {
    run({ do: 'rollCut', id: placed.id, to: { frame: placed.frame + to } });
    return;
  }
  const mark = markBeside(montage, placed.frame, to === 'before' ? -1 : 1);
  if (mark) run({ do: 'rollCut', id: placed.id, to: { markId: mark.id } });
}

function side(slot: Slot | undefined, edge: 'last' | 'first', montage: Montage): string {
  if (!slot?.placed) return 'empty';
  const { placed } = slot;
  const name = placed.item.name.replace(/\.\w+$/, '');
  if (placed.item.kind === 'photo') return name;
  const n = sourceFrame(placed, edge === 'last' ? slot.frames - 1 : 0, montage);
  const fps = placed.item.rate.num / placed.item.rate.den;
  const { before, after } = handlesOf(placed, montage);
  const left = Math.floor((edge === 'last' ? after : before) * fps + 1e-4);
  return n === null ? `${name} · ${placed.missing.toFixed(2)} s missing` : `${name} · frame ${n} · ${left} left`;
}

/** Over the screen while a cut is chosen: the last frame before it and the first after it, with the clips' own numbers. */
export function CutView(): React.JSX.Element | null {
  const montage = useMontage();
  const cut = useChosenCut();
  if (!cut) return null;
  return (
    <div className="@container absolute inset-x-0 bottom-0 bg-night/80 text-[11px] text-white" data-testid="cut-view">
      <div className="figures grid grid-cols-2 gap-x-2 px-2 pt-1 @max-[380px]:grid-cols-1">
        <span className="truncate" title="clip, its own frame, and how many frames of handle are left" data-testid="cut-before">
          {side(cut.before, 'last', montage)}
        </span>
        <span className="truncate text-right @max-[380px]:text-left" data-testid="cut-after">
          {side(cut.after, 'first', montage)}
        </span>
      </div>
      <div className="flex flex-wrap items-center justify-center gap-1 pb-1">
        <Button
          tight
          look="quiet"
          className="text-white!"
          hotkey="["
          hint="Roll the cut to the mark before"
          aria-label="Roll to the mark before"
          onClick={() => rollChosen('before')}
        >
          ‹ mark
        </Button>
        <Button
          tight
          look="quiet"
          className="text-white!"
          hotkey="Shift ["
          hint="Roll one frame earlier"
          aria-label="Roll one frame earlier"
          onClick={() => rollChosen(-1)}
        >
          −1
        </Button>
        <span className="figures px-1">
          cut at frame {cut.frame} · {cut.after?.start.mark ? `on a ${cut.after.start.mark.kind}` : 'free'}
        </span>
        <Button
          tight
          look="quiet"
          className="text-white!"
          hotkey="Shift ]"
          hint="Roll one frame later"
          aria-label="Roll one frame later"
          onClick={() => rollChosen(1)}
        >
          +1
        </Button>
        <Button
          tight
          look="quiet"
          className="text-white!"
          hotkey="]"
          hint="Roll the cut to the next mark"
          aria-label="Roll to the next mark"
          onClick={() => rollChosen('after')}
        >
          mark ›
        </Button>
      </div>
    </div>
  );
}
