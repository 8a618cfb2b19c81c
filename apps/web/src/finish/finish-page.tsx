import { Tabs } from 'radix-ui';
import { useMemo } from 'react';
import { Link, useParams } from 'react-router';
import { layLines } from '@bluster/core';
import { useAssets } from '../api/use-project.ts';
import { BarsChoice } from '../lines/bars-choice.tsx';
import { LineScroller } from '../lines/line-scroller.tsx';
import { useSongSound } from '../playback/song-sound.ts';
import { toggleLoopLine } from '../project/actions.ts';
import { useEditor, useMontage } from '../project/editor.ts';
import { Screen, Transport } from '../screen/screen.tsx';
import { CutsTab } from './cuts-tab.tsx';
import { EffectsTab } from './effects-tab.tsx';
import { FINISH_LINE_HEIGHT, FinishLine } from './finish-line.tsx';
import { useFinishing, type FinishTab } from './finishing.ts';
import { FrameTab } from './frame-tab.tsx';
import { SoundTab } from './sound-tab.tsx';
import { TitlesTab } from './titles-tab.tsx';

/** Room beside the lines, pixels. */
const LEFT = 34;
const RIGHT = 22;

const TABS: readonly (readonly [FinishTab, string])[] = [
  ['effects', 'Effects'],
  ['cuts', 'Cuts'],
  ['titles', 'Titles'],
  ['frame', 'Frame'],
  ['sound', 'Sound'],
];

/** Dressing the montage: effects on marks, transitions on cuts, titles, framing and sound. */
export function FinishPage(): React.JSX.Element {
  const { projectId = '' } = useParams();
  const montage = useMontage();
  const { assets } = useAssets(projectId);
  const tab = useFinishing((state) => state.tab);
  return (
    <main className="grid h-full min-h-0 grid-cols-[452px_1fr]">
      <section className="flex min-h-0 flex-col border-r border-edge">
        <Screen projectId={projectId} />
        <Transport onLoopLine={toggleLoopLine} />
        <Tabs.Root
          value={tab}
          onValueChange={(value) => useFinishing.setState({ tab: value as FinishTab })}
          className="flex min-h-0 flex-1 flex-col"
        >
          <Tabs.List className="flex gap-3.5 px-3.5 pt-2 pb-2" aria-label="Dressing">
            {TABS.map(([value, text]) => (
              <Tabs.Trigger
                key={value}
                value={value}
                className="border-b-2 border-transparent pb-0.5 text-soft data-[state=active]:border-ink data-[state=active]:font-semibold data-[state=active]:text-ink"
              >
                {text}
              </Tabs.Trigger>
            ))}
          </Tabs.List>
          <div className="min-h-0 flex-1 overflow-y-auto">
            <Tabs.Content value="effects">
              <EffectsTab />
            </Tabs.Content>
            <Tabs.Content value="cuts">
              <CutsTab />
            </Tabs.Content>
            <Tabs.Content value="titles">
              <TitlesTab />
            </Tabs.Content>
            <Tabs.Content value="frame">
              <FrameTab assets={assets} />
            </Tabs.Content>
            <Tabs.Content value="sound">
              <SoundTab assets={assets} />
            </Tabs.Content>
          </div>
        </Tabs.Root>
      </section>
      <section className="flex min-h-0 min-w-0 flex-col" aria-label="Dressed score">
        {montage.song ? (
          <>
            <div className="flex h-[46px] shrink-0 items-center gap-3 pr-5 pl-[34px] text-[12px] text-soft">
              Under each line: effects on its marks, and titles. Between two prints: their cut.
              <span className="ml-auto" />
              <BarsChoice />
            </div>
            <FinishLines projectId={projectId} />
          </>
        ) : (
          <div className="grid flex-1 place-items-center">
            <p className="text-center text-soft">
              There is nothing to dress before there is a song.{' '}
              <Link className="text-spruce underline" to="../song" relative="path">
                Choose one first
              </Link>
              .
            </p>
          </div>
        )}
      </section>
    </main>
  );
}

function FinishLines({ projectId }: { projectId: string }): React.JSX.Element {
  const montage = useMontage();
  const { assets } = useAssets(projectId);
  const { peaks, problem } = useSongSound();
  const barsALine = useEditor((s) => s.barsALine);
  const lines = useMemo(() => layLines(montage, montage.song!.pieces, barsALine), [montage, barsALine]);
  const head = (
    <>
      {problem && (
        <p role="alert" className="mx-5 mb-2 rounded border border-coral/50 bg-paper p-2 text-coral-text">
          {problem}
        </p>
      )}
      {montage.marks.length === 0 && (
        <p className="mx-5 mb-2 rounded border border-gold/60 bg-paper p-2 text-gold-text">
          The song has no marks yet, so there is nothing for effects and titles to start on. Let the beats be detected under{' '}
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
      label="Lines of the dressed score"
      testId="dressed"
      head={head}
      barsALine={barsALine}
      lines={lines}
      lineHeight={FINISH_LINE_HEIGHT}
      left={LEFT}
      right={RIGHT}
    >
      {(line, width) => <FinishLine line={line} peaks={peaks} width={width} assets={assets} />}
    </LineScroller>
  );
}
