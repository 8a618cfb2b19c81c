import { memo } from 'react';
import { frameTime, framesPerSecond, scoreOf, toMontageTime, type Line, type Peaks, type Slot } from '@bluster/core';
import type { Asset } from '../api/wire.ts';
import { LinePlayhead } from '../lines/line-playhead.tsx';
import { LineWave, lineX } from '../lines/line-wave.tsx';
import { sectionAt } from '../lines/sections.ts';
import { player } from '../playback/player.ts';
import { useEditor, useMontage } from '../project/editor.ts';
import { OverPrints } from './over-prints.tsx';
import { PegRow } from './peg-row.tsx';
import { ShotPrint } from './shot-print.tsx';

export const SCORE_LINE_HEIGHT = 136;
const WAVE_HEIGHT = 40;

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
  const score = scoreOf(montage);
  const { rate } = montage.shape;
  const fps = framesPerSecond(rate);
  const pieces = montage.song!.pieces;
  const here = (s: Slot): boolean => frameTime(s.start.frame, rate) < line.to - 1e-6 && frameTime(s.end.frame, rate) > line.from + 1e-6;
  const slots = score.slots.filter(here);
  const pegs = score.pegs.filter((p) => p.peg && p.time >= line.from - 1e-6 && p.time < line.to - 1e-6);
  const drops = montage.marks.filter((m) => m.kind === 'drop').sort((a, b) => a.time - b.time);
  return (
    <div className="relative" style={{ height: SCORE_LINE_HEIGHT }} data-testid={`score-line-${line.index}`}>
      <p className="flex h-[18px] items-center text-[11px] text-soft">
        <span className="figures w-[58px]">{line.bar > 0 ? `bar ${line.bar}` : ''}</span>
        <em>{sectionAt(montage, pieces, line)}</em>
      </p>
      {drops.map((drop, i) => {
        const time = toMontageTime(pieces, drop.time);
        if (time === null || time < line.from - 1e-6 || time >= line.to) return null;
        return (
          <b
            key={drop.id}
            className="absolute top-[2px] text-[10.5px] text-coral-text"
            style={{ left: lineX(line, time, width) + (time - line.from < 0.5 ? 100 : 8) }}
          >
            drop {i + 1}
          </b>
        );
      })}
      <div
        className="relative cursor-pointer"
        style={{ height: WAVE_HEIGHT }}
        onPointerDown={(e) => player.seek(line.from + (e.nativeEvent.offsetX / width) * line.span)}
      >
        <LineWave
          line={line}
          pieces={pieces}
          peaks={peaks}
          marks={montage.marks}
          chosen={[]}
          width={width}
          height={WAVE_HEIGHT}
          bands={false}
        />
      </div>
      <div className="absolute inset-x-0 top-[58px]">
        <PegRow line={line} pegs={pegs} width={width} />
      </div>
      <div className="absolute inset-x-0 top-[73px]">
        {slots.map((slot) => (
          <ShotPrint
            key={slot.start.id}
            slot={slot}
            line={line}
            width={width}
            fps={fps}
            asset={slot.placed ? assets.get(slot.placed.item.assetId) : undefined}
            chosen={slotStart === slot.start.id || moreSlots.includes(slot.start.id)}
          />
        ))}
      </div>
      <div className="absolute inset-x-0 top-[98px]">
        <OverPrints line={line} width={width} slots={score.over.filter(here)} assets={assets} />
      </div>
      <div className="absolute inset-x-0 top-[20px]">
        <LinePlayhead line={line} width={width} height={102} />
      </div>
    </div>
  );
});
