import { framesPerSecond, type Line, type Peaks } from '@bluster/core';
import type { AssetAnswer as Asset } from '@bluster/wire';
import { DropLabels, dropLabels } from './drop-labels.tsx';
import { LinePlayhead } from './line-playhead.tsx';
import { lineX } from './line-x.ts';
import type { OnLine } from './on-line.ts';
import { sectionAt } from './sections.ts';
import { player } from '../playback/player.ts';
import { useMontage } from '../document/editor.ts';
import { LinePicture } from './line-picture.tsx';

/** What a line of the score is written from. */
export interface LineProps {
  readonly line: Line;
  readonly peaks: Peaks | null;
  readonly width: number;
  readonly assets: ReadonlyMap<string, Asset>;
}

interface WrittenLineProps extends LineProps {
  readonly on: OnLine;
  readonly testId: string;
  readonly height: number;
  /** how far down a click goes to that moment, and how long the playhead is; pixels */
  readonly seekHeight: number;
  readonly playheadHeight: number;
  /** what can be taken hold of on it */
  readonly children: React.ReactNode;
}

/** A line of the score as it looks: its bar, its section and drops, the sound, the pegs and the prints, and the playhead. */
export function WrittenLine(props: WrittenLineProps): React.JSX.Element {
  const { line, peaks, width, assets, on, testId, height, seekHeight, playheadHeight, children } = props;
  const montage = useMontage();
  const pieces = montage.song!.pieces;
  const fps = framesPerSecond(montage.shape.rate);
  return (
    <div className="relative will-change-transform" style={{ height }} data-testid={testId}>
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
          marks={on.marks}
          slots={on.slots}
          pegs={on.pegs}
          width={width}
          fps={fps}
          screen={montage.shape}
          assets={assets}
        />
      </div>
      <div
        className="relative cursor-pointer"
        style={{ height: seekHeight }}
        onPointerDown={(e) => player.seek(line.from + (e.nativeEvent.offsetX / width) * line.span)}
      />
      <div
        className="pointer-events-none absolute top-[63px] -left-1 border-t-[1.3px] border-ink"
        style={{ width: lineX(line, line.to, width) + 8 }}
      />
      {children}
      <div className="absolute inset-x-0 top-[20px]">
        <LinePlayhead line={line} width={width} height={playheadHeight} />
      </div>
    </div>
  );
}
