import type { Line, PlacedShot, Slot } from '@bluster/core';
import { coveredPart, NARROWEST_PRINT, PRINT_EDGE, PRINT_HEIGHT, printPlace } from '../lines/print-layout.ts';

interface GapOutlinesProps {
  readonly slots: readonly Slot[];
  readonly line: Line;
  readonly width: number;
  readonly fps: number;
}

/** Where a gap begins on a line, pixels from the line's left; null where the slot is covered. */
function gapFrom(slot: Slot, { line, width, fps }: Omit<GapOutlinesProps, 'slots'>): number | null {
  const place = printPlace(slot, line, width, fps);
  if (!slot.placed) return place.left + PRINT_EDGE;
  if (slot.placed.missing === 0 || slot.placed.shot.whenShort !== 'gap') return null;
  const covered = coveredPart(slot as Slot & { readonly placed: PlacedShot }, line, width, fps, place);
  return covered.coveredTo < place.to ? place.left + 2 * PRINT_EDGE + Math.max(0, covered.width) : null;
}

/** The dashed outlines of what is black in the film: empty slots, and the ends of shots that ran short. */
export function GapOutlines({ slots, ...on }: GapOutlinesProps): React.JSX.Element[] {
  return slots.flatMap((slot) => {
    const from = gapFrom(slot, on);
    const { left, wide } = printPlace(slot, on.line, on.width, on.fps);
    if (from === null || left + wide - from < NARROWEST_PRINT) return [];
    return [
      <span
        key={slot.start.id}
        className="absolute grid place-items-center overflow-hidden border border-dashed border-gold bg-cloth text-[10px] whitespace-nowrap text-gold-text"
        style={{ left: from, width: left + wide - PRINT_EDGE - from, height: PRINT_HEIGHT }}
      >
        {slot.placed ? `${slot.placed.missing.toFixed(2)} s missing` : 'empty'}
      </span>,
    ];
  });
}
