import { memo } from 'react';
import { framesPerSecond } from '@bluster/core';
import { onLine } from '../lines/on-line.ts';
import { useTurn } from '../lines/turns.ts';
import { useEditor, useMontage } from '../document/editor.ts';
import { WAVE_HEIGHT } from '../lines/line-picture.tsx';
import { OverPrints } from './shot/over-prints.tsx';
import { PegRow } from './pegs/peg-row.tsx';
import { ShotPrint } from './shot/shot-print.tsx';
import { WrittenLine, type LineProps } from '../lines/written-line.tsx';

export const SCORE_LINE_HEIGHT = 136;

/** One line of the score: the sound with its beats, the pegs on their line, the shots hanging from it. */
export const ScoreLine = memo(function ScoreLine(props: LineProps): React.JSX.Element {
  const { line, width, assets } = props;
  const montage = useMontage();
  const slotStart = useEditor((state) => state.selection.slotStart);
  const moreSlots = useEditor((state) => state.selection.moreSlots);
  // What a line looks like is painted first; that its pegs and prints can be taken hold of follows when there is time.
  const inHand = useTurn('held');
  const fps = framesPerSecond(montage.shape.rate);
  const on = onLine(montage, line);
  return (
    <WrittenLine
      {...props}
      on={on}
      testId={`score-line-${line.index}`}
      height={SCORE_LINE_HEIGHT}
      seekHeight={WAVE_HEIGHT}
      playheadHeight={102}
    >
      <div className="absolute inset-x-0 top-[58px]">{inHand && <PegRow line={line} pegs={on.pegs} width={width} />}</div>
      <div className="absolute inset-x-0 top-[73px]">
        {on.slots.map(
          (slot) =>
            (inHand || !slot.placed) && (
              <ShotPrint
                key={slot.start.id}
                slot={slot}
                line={line}
                width={width}
                fps={fps}
                screen={montage.shape}
                asset={slot.placed ? assets.get(slot.placed.item.assetId) : undefined}
                chosen={slotStart === slot.start.id || moreSlots.includes(slot.start.id)}
              />
            ),
        )}
      </div>
      <div className="absolute inset-x-0 top-[98px]">
        <OverPrints line={line} width={width} slots={on.over} assets={assets} />
      </div>
    </WrittenLine>
  );
});
