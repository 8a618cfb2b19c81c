import { memo } from 'react';
import { framesPerSecond } from '@bluster/core';
import { onLine } from '../lines/on-line.ts';
import { InTurn } from '../lines/in-turn.tsx';
import { useMontage } from '../document/editor.ts';
import { WAVE_HEIGHT } from '../lines/line-picture.tsx';
import { PRINT_HEIGHT, PRINT_TOP } from '../lines/print-layout.ts';
import { WrittenLine, type LineProps } from '../lines/written-line.tsx';
import { CutsLane } from './cuts-lane.tsx';
import { EffectsLane, LANE_HEIGHT } from './effects-lane.tsx';
import { useFinishing } from './finishing.ts';
import { GapOutlines } from './gap-outlines.tsx';
import { LevelsLane } from './levels-lane.tsx';
import { MOVES_HEIGHT, MovesLane } from './moves-lane.tsx';
import { OverStrips } from './over-strips.tsx';
import { PrintsLane } from './prints-lane.tsx';
import { TITLES_HEIGHT, TitlesLane } from './titles-lane.tsx';

const TOP = 18;
const PRINTS_TOP = TOP + WAVE_HEIGHT + PRINT_TOP;
const MOVES_TOP = PRINTS_TOP + PRINT_HEIGHT + 4;
const EFFECTS_TOP = MOVES_TOP + MOVES_HEIGHT + 1;
const TITLES_TOP = EFFECTS_TOP + LANE_HEIGHT + 3;
export const FINISH_LINE_HEIGHT = TITLES_TOP + TITLES_HEIGHT + 10;

/** A line of the score with what it is dressed in: transitions on its cuts, effects on its marks, titles. */
export const FinishLine = memo(function FinishLine(props: LineProps): React.JSX.Element {
  const { line, width } = props;
  const montage = useMontage();
  const tab = useFinishing((state) => state.tab);
  const fps = framesPerSecond(montage.shape.rate);
  const on = onLine(montage, line);
  return (
    <WrittenLine
      {...props}
      on={on}
      testId={`finish-line-${line.index}`}
      height={FINISH_LINE_HEIGHT}
      seekHeight={MOVES_TOP - TOP - 4}
      playheadHeight={EFFECTS_TOP + LANE_HEIGHT - 20}
    >
      <div
        className="pointer-events-none absolute inset-x-0 [&>button]:pointer-events-auto"
        style={{ top: PRINTS_TOP, height: PRINT_HEIGHT }}
      >
        <InTurn rank="held">
          <PrintsLane slots={on.slots} line={line} width={width} fps={fps} />
          <OverStrips slots={on.over} line={line} width={width} fps={fps} />
          <GapOutlines slots={on.slots} line={line} width={width} fps={fps} />
        </InTurn>
        <InTurn rank="held">
          <CutsLane slots={on.slots} line={line} width={width} height={PRINT_HEIGHT} />
        </InTurn>
      </div>
      {tab === 'sound' && (
        <div className="pointer-events-none absolute inset-x-0 [&>button]:pointer-events-auto" style={{ top: TOP, height: WAVE_HEIGHT }}>
          <InTurn rank="held">
            <LevelsLane line={line} width={width} />
          </InTurn>
        </div>
      )}
      <div className="pointer-events-none absolute inset-x-0" style={{ top: MOVES_TOP }}>
        <InTurn rank="held">
          <MovesLane slots={on.slots} line={line} width={width} />
        </InTurn>
      </div>
      <div className="absolute inset-x-0" style={{ top: EFFECTS_TOP }}>
        <InTurn rank="held">
          <EffectsLane line={line} width={width} />
        </InTurn>
      </div>
      <div className="absolute inset-x-0" style={{ top: TITLES_TOP }}>
        <InTurn rank="held">
          <TitlesLane line={line} width={width} />
        </InTurn>
      </div>
    </WrittenLine>
  );
});
