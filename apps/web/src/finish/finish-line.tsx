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
import { useMontage } from '../project/editor.ts';
import { LinePicture, WAVE_HEIGHT } from '../score/line-picture.tsx';
import { PRINT_HEIGHT, PRINT_TOP } from '../score/print-layout.ts';
import { CutsLane } from './cuts-lane.tsx';
import { EffectsLane, LANE_HEIGHT } from './effects-lane.tsx';
import { TITLES_HEIGHT, TitlesLane } from './titles-lane.tsx';

const TOP = 18;
const PRINTS_TOP = TOP + WAVE_HEIGHT + PRINT_TOP;
const EFFECTS_TOP = PRINTS_TOP + PRINT_HEIGHT + 6;
const TITLES_TOP = EFFECTS_TOP + LANE_HEIGHT + 3;
export const FINISH_LINE_HEIGHT = TITLES_TOP + TITLES_HEIGHT + 10;

interface FinishLineProps {
  readonly line: Line;
  readonly peaks: Peaks | null;
  readonly width: number;
  readonly assets: ReadonlyMap<string, Asset>;
}

/** A line of the score with what it is dressed in: transitions on its cuts, effects on its marks, titles. */
export const FinishLine = memo(function FinishLine({ line, peaks, width, assets }: FinishLineProps): React.JSX.Element {
  const montage = useMontage();
  const inHand = useTurn('held');
  const fps = framesPerSecond(montage.shape.rate);
  const pieces = montage.song!.pieces;
  const { slots, pegs, marks } = onLine(montage, line);
  return (
    <div className="relative" style={{ height: FINISH_LINE_HEIGHT }} data-testid={`finish-line-${line.index}`}>
      <p className="flex h-[18px] items-center text-[11px] text-soft">
        <span className="figures w-[58px]">{line.bar > 0 ? `bar ${line.bar}` : ''}</span>
        <em>{sectionAt(montage, pieces, line)}</em>
      </p>
      <DropLabels labels={dropLabels(montage.marks, line, pieces, width)} />
      <div className="absolute inset-x-0" style={{ top: TOP }}>
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
        style={{ height: EFFECTS_TOP - TOP - 4 }}
        onPointerDown={(e) => player.seek(line.from + (e.nativeEvent.offsetX / width) * line.span)}
      />
      <div
        className="pointer-events-none absolute top-[63px] -left-1 border-t-[1.3px] border-ink"
        style={{ width: lineX(line, line.to, width) + 8 }}
      />
      {inHand && (
        <>
          <div
            className="pointer-events-none absolute inset-x-0 [&>button]:pointer-events-auto"
            style={{ top: PRINTS_TOP, height: PRINT_HEIGHT }}
          >
            <CutsLane line={line} width={width} height={PRINT_HEIGHT} />
          </div>
          <div className="absolute inset-x-0" style={{ top: EFFECTS_TOP }}>
            <EffectsLane line={line} width={width} />
          </div>
          <div className="absolute inset-x-0" style={{ top: TITLES_TOP }}>
            <TitlesLane line={line} width={width} />
          </div>
        </>
      )}
      <div className="absolute inset-x-0 top-[20px]">
        <LinePlayhead line={line} width={width} height={EFFECTS_TOP + LANE_HEIGHT - 20} />
      </div>
    </div>
  );
});
