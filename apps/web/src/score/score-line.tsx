import { memo } from 'react';
import { framesPerSecond, type Line, type Peaks } from '@bluster/core';
import type { Asset } from '../api/wire.ts';
import { DropLabels, dropLabels } from '../lines/drop-labels.tsx';
import { LinePlayhead } from '../lines/line-playhead.tsx';
import { lineX } from '../lines/line-x.ts';
import { onLine } from '../lines/on-line.ts';
import { sectionAt } from '../lines/sections.ts';
import { useTurn } from '../lines/turns.ts';
import { player } from '../playback/player.ts';
import { useEditor, useMontage } from '../project/editor.ts';
import { LinePicture, WAVE_HEIGHT } from './line-picture.tsx';
import { OverPrints } from './over-prints.tsx';
import { PegRow } from './peg-row.tsx';
import { ShotPrint } from './shot-print.tsx';

export const SCORE_LINE_HEIGHT = 136;

interface ScoreLineProps {
  readonly line: Line;
  readonly peaks: Peaks | null;
  readonly width: number;
  readonly assets: ReadonlyMap<string, Asset>;
}

/** One line of the score: the sound with its beats, the pegs on their line, the shots hanging from it. */
export const ScoreLine = memo(function ScoreLine({ line, peaks, width, assets }: ScoreLineProps): React.JSX.Element {
  const montage = useMontage();
  const slotStart = useEditor((state) => state.selection.slotStart);
  const moreSlots = useEditor((state) => state.selection.moreSlots);
  // What a line looks like is painted first; that its pegs and prints can be taken hold of follows when there is time.
  const inHand = useTurn('held');
  const fps = framesPerSecond(montage.shape.rate);
  const pieces = montage.song!.pieces;
  const { slots, over, pegs, marks } = onLine(montage, line);
  return (
    <div className="relative" style={{ height: SCORE_LINE_HEIGHT }} data-testid={`score-line-${line.index}`}>
      <p className="flex h-[18px] items-center text-[11px] text-soft">
        <span className="figures w-[58px]">{line.bar > 0 ? `bar ${line.bar}` : ''}</span>
        <em>{sectionAt(montage, pieces, line)}</em>
      </p>
      <DropLabels labels={dropLabels(montage.marks, line, pieces, width)} />
      <div className="absolute inset-x-0 top-[18px]">
        <LinePicture
          line={line}
          pieces={pieces}
          peaks={peaks}
          marks={marks}
          slots={slots}
          pegs={pegs}
          width={width}
          fps={fps}
          assets={assets}
        />
      </div>
      <div
        className="relative cursor-pointer"
        style={{ height: WAVE_HEIGHT }}
        onPointerDown={(e) => player.seek(line.from + (e.nativeEvent.offsetX / width) * line.span)}
      />
      <div
        className="pointer-events-none absolute top-[63px] -left-1 border-t-[1.3px] border-ink"
        style={{ width: lineX(line, line.to, width) + 8 }}
      />
      <div className="absolute inset-x-0 top-[58px]">{inHand && <PegRow line={line} pegs={pegs} width={width} />}</div>
      <div className="absolute inset-x-0 top-[73px]">
        {slots.map(
          (slot) =>
            (inHand || !slot.placed) && (
              <ShotPrint
                key={slot.start.id}
                slot={slot}
                line={line}
                width={width}
                fps={fps}
                asset={slot.placed ? assets.get(slot.placed.item.assetId) : undefined}
                chosen={slotStart === slot.start.id || moreSlots.includes(slot.start.id)}
              />
            ),
        )}
      </div>
      <div className="absolute inset-x-0 top-[98px]">
        <OverPrints line={line} width={width} slots={over} assets={assets} />
      </div>
      <div className="absolute inset-x-0 top-[20px]">
        <LinePlayhead line={line} width={width} height={102} />
      </div>
    </div>
  );
});
