import { useMemo } from 'react';
import { Link } from 'react-router';
import { layLines } from '@bluster/core';
import { useAssets } from '../api/use-project.ts';
import { LineScroller } from './line-scroller.tsx';
import { useSongSound } from '../playback/song-sound.ts';
import { useEditor, useMontage } from '../document/editor.ts';
import type { LineProps } from './written-line.tsx';

/** Room beside the lines, pixels. */
const LEFT = 34;
const RIGHT = 22;

interface WrittenLinesProps {
  readonly projectId: string;
  readonly label: string;
  readonly testId: string;
  readonly lineHeight: number;
  /** what needs marks, for saying that there are none: "so there is nothing ..." */
  readonly without: string;
  readonly children: (props: LineProps) => React.ReactNode;
}

/** All lines of the score, one below the other, with what is amiss above them. */
export function WrittenLines({ projectId, label, testId, lineHeight, without, children }: WrittenLinesProps): React.JSX.Element {
  const montage = useMontage();
  const { assets } = useAssets(projectId);
  const { peaks, problem, state } = useSongSound();
  const barsALine = useEditor((s) => s.barsALine);
  // The same lines while nothing is edited, so that scrolling draws only what comes into sight.
  const lines = useMemo(() => layLines(montage, montage.song!.pieces, barsALine), [montage, barsALine]);
  const head = (
    <>
      {problem && (
        <p role="alert" className="mx-5 mb-2 rounded border border-coral/50 bg-paper p-2 text-coral-text">
          {problem}
        </p>
      )}
      {montage.marks.length === 0 && state === 'ready' && (
        <p className="mx-5 mb-2 rounded border border-gold/60 bg-paper p-2 text-gold-text">
          The song has no marks yet, {without}. Let the beats be detected under{' '}
          <Link className="underline" to="../song" relative="path">
            Song
          </Link>
          , or tap them there.
        </p>
      )}
    </>
  );
  return (
    <LineScroller
      label={label}
      testId={testId}
      head={head}
      barsALine={barsALine}
      lines={lines}
      lineHeight={lineHeight}
      left={LEFT}
      right={RIGHT}
    >
      {(line, width) => children({ line, peaks, width, assets })}
    </LineScroller>
  );
}
