import { memo } from 'react';
import type { Line, Slot } from '@bluster/core';
import { chooseSlot } from '../lines/choose-slot.ts';
import { DressedSigns } from '../lines/dressed-signs.tsx';
import { NARROWEST_PRINT, PRINT_HEIGHT, printPlace } from '../lines/print-layout.ts';
import { player } from '../playback/player.ts';
import { useEditor } from '../document/editor.ts';
import { useFinishing } from './finishing.ts';

interface PrintsLaneProps {
  readonly slots: readonly Slot[];
  readonly line: Line;
  readonly width: number;
  readonly fps: number;
}

/** The prints of a line, to be chosen: one, with Ctrl one more, with Shift all up to it. */
export const PrintsLane = memo(function PrintsLane({ slots, line, width, fps }: PrintsLaneProps): React.JSX.Element {
  const slotStart = useEditor((state) => state.selection.slotStart);
  const moreSlots = useEditor((state) => state.selection.moreSlots);
  return (
    <>
      {slots.map((slot) => {
        const { left, wide, starts } = printPlace(slot, line, width, fps);
        if (!slot.placed || wide < NARROWEST_PRINT) return null;
        const chosen = slotStart === slot.start.id || moreSlots.includes(slot.start.id);
        return (
          <button
            key={slot.start.id}
            type="button"
            className={`absolute top-0 rounded-[3px] border-2 ${chosen ? 'border-spruce' : 'border-transparent hover:border-spruce/40'}`}
            style={{ left, width: Math.max(1, wide), height: PRINT_HEIGHT }}
            aria-label={`Shot ${slot.index + 1}: ${slot.placed.item.name}`}
            aria-pressed={chosen}
            data-testid="print"
            onClick={(event) => {
              chooseSlot(slot, event);
              useFinishing.setState({ tab: 'picture', titleId: null, move: 0 });
              // Where the playhead is elsewhere, the shot comes into sight.
              const now = player.time() * fps;
              if (!player.state.playing && (now < slot.start.frame || now >= slot.end.frame)) player.seek(slot.start.frame / fps + 1e-4);
            }}
          >
            {starts && wide > 30 && <DressedSigns placed={slot.placed} />}
          </button>
        );
      })}
    </>
  );
});
