import type { Line, Slot } from '@bluster/core';
import { chooseSlot } from '../lines/choose-slot.ts';
import { lineX } from '../lines/line-x.ts';
import { PRINT_HEIGHT } from '../lines/print-layout.ts';
import { player } from '../playback/player.ts';
import { useEditor } from '../document/editor.ts';
import { useFinishing } from './finishing.ts';

const STRIP = 14;

interface OverStripsProps {
  readonly slots: readonly Slot[];
  readonly line: Line;
  readonly width: number;
  readonly fps: number;
}

/** The cutaways of a line, to be chosen: those of the second line lie above those of the first. */
export function OverStrips({ slots, line, width, fps }: OverStripsProps): React.JSX.Element {
  const slotStart = useEditor((state) => state.selection.slotStart);
  const moreSlots = useEditor((state) => state.selection.moreSlots);
  return (
    <>
      {slots.map((slot) => {
        if (!slot.placed) return null;
        const { shot, item } = slot.placed;
        const left = lineX(line, Math.max(line.from, slot.start.frame / fps), width);
        const wide = lineX(line, Math.min(line.to, slot.end.frame / fps), width) - left;
        const chosen = slotStart === slot.start.id || moreSlots.includes(slot.start.id);
        return (
          <button
            key={shot.id}
            type="button"
            data-testid="over-strip"
            aria-pressed={chosen}
            aria-label={`Cutaway: ${item.name}${shot.upper ? ', second line' : ''}`}
            className={`absolute truncate rounded-[3px] border px-1 text-left text-[10px] leading-[12px] text-white [text-shadow:0_1px_2px_rgb(0_0_0/.8)] ${chosen ? 'border-spruce bg-spruce' : 'border-white/80 bg-ink/70'}`}
            style={{ left, width: Math.max(6, wide), height: STRIP, top: PRINT_HEIGHT - (shot.upper ? 2 : 1) * (STRIP + 1) - 2 }}
            onClick={(event) => {
              chooseSlot(slot, event);
              useFinishing.setState({ tab: 'picture', part: 'over', titleId: null, move: 0 });
              const now = player.time() * fps;
              if (!player.state.playing && (now < slot.start.frame || now >= slot.end.frame))
                player.seek((slot.start.frame + (slot.frames >> 1)) / fps);
            }}
          >
            {wide > 40 ? item.name : ''}
          </button>
        );
      })}
    </>
  );
}
