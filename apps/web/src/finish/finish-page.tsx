import { Tabs } from 'radix-ui';
import { Link, useParams } from 'react-router';
import { useAssets } from '../api/use-project.ts';
import { undressed } from '@bluster/core';
import { useDrawnInset, useDrawnShot } from './drawn-shot.ts';
import { useHeldBare } from './held-bare.ts';
import { BarsChoice } from '../lines/bars-choice.tsx';
import { useMontage } from '../document/editor.ts';
import { WrittenLines } from '../lines/written-lines.tsx';
import { Screen, Transport } from '../screen/screen.tsx';
import { CutsTab } from './cuts-tab.tsx';
import { EffectsTab } from './effects-tab.tsx';
import { FINISH_LINE_HEIGHT, FinishLine } from './finish-line.tsx';
import { useFinishing, type FinishTab } from './finishing.ts';
import { FrameTab } from './frame-tab.tsx';
import { FrameOver } from './frame-over.tsx';
import { DressingTab } from './dressing-tab.tsx';
import { InsetOver } from './inset-over.tsx';
import { PictureTab } from './picture-tab.tsx';
import { SoundTab } from './sound-tab.tsx';
import { Workbench } from '../workbench/workbench.tsx';
import { TitleOver } from './title-over.tsx';
import { TitlesTab } from './titles-tab.tsx';
import { toggleLoopLine } from '../lines/loop-line.ts';

const TABS: readonly (readonly [FinishTab, string])[] = [
  ['effects', 'Effects'],
  ['cuts', 'Cuts'],
  ['titles', 'Titles'],
  ['picture', 'Picture'],
  ['frame', 'Frame'],
  ['sound', 'Sound'],
  ['dressing', 'As a whole'],
];

/** Dressing the montage: effects on marks, transitions on cuts, titles, framing and sound. */
export function FinishPage(): React.JSX.Element {
  const { projectId = '' } = useParams();
  const montage = useMontage();
  const { assets } = useAssets(projectId);
  const { tab, bare, titleId } = useFinishing();
  const drawn = useDrawnShot();
  const inset = useDrawnInset();
  const title = tab === 'titles' ? montage.titles.find((t) => t.id === titleId) : undefined;
  useHeldBare();
  return (
    <Workbench
      label="Dressed score"
      screen={
        <Screen
          projectId={projectId}
          shown={bare ? undressed(montage) : undefined}
          whole={drawn?.placed.shot.id ?? null}
          over={
            drawn ? (
              <FrameOver key={drawn.placed.shot.id} montage={montage} slot={drawn} />
            ) : inset?.placed.shot.inset ? (
              <InsetOver key={inset.placed.shot.id} shot={inset.placed.shot} inset={inset.placed.shot.inset} />
            ) : title ? (
              <TitleOver montage={montage} title={title} />
            ) : null
          }
        />
      }
      transport={<Transport onLoopLine={toggleLoopLine} />}
      panel={
        <Tabs.Root
          value={tab}
          onValueChange={(value) => useFinishing.setState({ tab: value as FinishTab })}
          className="flex min-h-0 flex-1 flex-col"
        >
          <Tabs.List className="flex flex-wrap gap-x-3.5 px-3.5 pt-2 pb-2" aria-label="Dressing">
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
          {/* Each tab begins at its top. */}
          <div key={tab} className="min-h-0 flex-1 overflow-y-auto">
            <Tabs.Content value="effects">
              <EffectsTab />
            </Tabs.Content>
            <Tabs.Content value="cuts">
              <CutsTab />
            </Tabs.Content>
            <Tabs.Content value="titles">
              <TitlesTab />
            </Tabs.Content>
            <Tabs.Content value="picture">
              <PictureTab />
            </Tabs.Content>
            <Tabs.Content value="frame">
              <FrameTab assets={assets} />
            </Tabs.Content>
            <Tabs.Content value="dressing">
              <DressingTab />
            </Tabs.Content>
            <Tabs.Content value="sound">
              <SoundTab assets={assets} />
            </Tabs.Content>
          </div>
        </Tabs.Root>
      }
      lines={
        montage.song ? (
          <>
            <div className="flex min-h-[46px] shrink-0 flex-wrap items-center gap-x-3 pr-5 pl-[34px] text-[12px] text-soft">
              Under each line: moves, effects on marks, titles. Between two prints: their cut.
              <span className="ml-auto" />
              <BarsChoice />
            </div>
            <WrittenLines
              projectId={projectId}
              label="Lines of the dressed score"
              testId="dressed"
              lineHeight={FINISH_LINE_HEIGHT}
              without="so there is nothing for effects and titles to start on"
            >
              {(props) => <FinishLine {...props} />}
            </WrittenLines>
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
        )
      }
    />
  );
}
