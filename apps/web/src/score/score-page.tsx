import { DndContext, DragOverlay, PointerSensor, useSensor, useSensors, type DragMoveEvent } from '@dnd-kit/core';
import { Tabs } from 'radix-ui';
import { useEffect, useState } from 'react';
import { Link, useParams } from 'react-router';
import { scoreOf } from '@bluster/core';
import { useAssets } from '../api/use-project.ts';
import { StripTiles } from '../tiles/strip-tiles.tsx';
import { useEditor, useMontage } from '../document/editor.ts';
import { Screen, Transport } from '../screen/screen.tsx';
import { ClipPanel } from './shot/clip-panel.tsx';
import { FirstCutBar } from './first-cut/first-cut-bar.tsx';
import { CutView, useChosenCut } from './cut/cut-view.tsx';
import { hangCarefully, useHanging } from './shot/hanging.ts';
import { LiveTrims } from './cut/live-trims.tsx';
import { PegsBar } from './pegs/pegs-bar.tsx';
import { RemedyDialog } from './shot/remedy-dialog.tsx';
import { RhythmPanel } from './report/rhythm-panel.tsx';
import { SettleDialog } from './settle/settle-dialog.tsx';
import { ReportPanel } from './report/report-panel.tsx';
import { SCORE_LINE_HEIGHT, ScoreLine } from './score-line.tsx';
import { Shelf } from './shot/shelf.tsx';
import { ShotPanel } from './shot/shot-panel.tsx';
import { Workbench } from '../workbench/workbench.tsx';
import { Versions } from './report/versions.tsx';
import { WrittenLines } from '../lines/written-lines.tsx';
import { toggleLoopLine } from '../lines/loop-line.ts';

/**
 * The first peg of the slot under what is carried. Looked up on the page: slots that all watched for it would each have to
 * be registered while the score scrolls.
 */
function slotUnder({ activatorEvent, delta }: DragMoveEvent): string | null {
  const { clientX, clientY } = activatorEvent as PointerEvent;
  const under = document.elementsFromPoint(clientX + delta.x, clientY + delta.y);
  return under.flatMap((e) => e.closest<HTMLElement>('[data-start-peg]')?.dataset['startPeg'] ?? [])[0] ?? null;
}

/** The heart: the song in lines of bars, the shots hanging from it. */
export function ScorePage(): React.JSX.Element {
  const { projectId = '' } = useParams();
  const montage = useMontage();
  const { assets } = useAssets(projectId);
  const [dragged, setDragged] = useState<string | null>(null);
  const [tab, setTab] = useState('shelf');
  const cut = useChosenCut();
  const [settling, setSettling] = useState(false);
  const watched = useHanging((state) => state.watched);
  useEffect(() => {
    if (watched) setTab('clip');
  }, [watched]);
  const slotStart = useEditor((state) => state.selection.slotStart);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 5 } }));
  useEffect(() => {
    if (slotStart && scoreOf(useEditor.getState().history.now).slots.some((s) => s.start.id === slotStart && s.placed)) setTab('shot');
  }, [slotStart]);

  const letGo = (): void => {
    setDragged(null);
    useHanging.setState({ dropOn: null });
  };
  const drop = (event: DragMoveEvent): void => {
    const assetId = (event.active.data.current as { assetId?: string } | undefined)?.assetId;
    const startPeg = slotUnder(event);
    const slot = scoreOf(montage).slots.find((s) => s.start.id === startPeg);
    letGo();
    if (assetId && slot) hangCarefully(slot, { assetId });
  };
  const over = assets.get(dragged ?? '');

  return (
    <DndContext
      sensors={sensors}
      onDragStart={(e) => setDragged((e.active.data.current as { assetId: string }).assetId)}
      onDragMove={(e) => useHanging.setState({ dropOn: slotUnder(e) })}
      onDragEnd={drop}
      onDragCancel={letGo}
    >
      <Workbench
        label="Score"
        screen={
          <Screen projectId={projectId} cut={cut?.frame ?? null}>
            <CutView />
          </Screen>
        }
        transport={<Transport onLoopLine={toggleLoopLine} />}
        panel={
          <Tabs.Root value={tab} onValueChange={setTab} className="flex min-h-0 flex-1 flex-col">
            <Tabs.List className="flex flex-wrap gap-x-3.5 px-3.5 pt-2 pb-1" aria-label="Beside the score">
              {[
                ['shelf', 'Shelf'],
                ['clip', 'Clip'],
                ['shot', 'Shot'],
                ['rhythm', 'Rhythm'],
                ['report', 'Report'],
                ['versions', 'Versions'],
              ].map(([value, text]) => (
                <Tabs.Trigger
                  key={value}
                  value={value!}
                  className="border-b-2 border-transparent pb-0.5 text-soft data-[state=active]:border-ink data-[state=active]:font-semibold data-[state=active]:text-ink"
                >
                  {text}
                </Tabs.Trigger>
              ))}
              {tab === 'shelf' && <span className="ml-auto text-[11.5px] text-soft">story order</span>}
            </Tabs.List>
            <Tabs.Content value="shelf" className="min-h-0 flex-1">
              <Shelf assets={assets} />
            </Tabs.Content>
            <Tabs.Content value="clip" className="min-h-0 flex-1 overflow-y-auto">
              <ClipPanel assets={assets} />
            </Tabs.Content>
            <Tabs.Content value="rhythm" className="min-h-0 flex-1 overflow-y-auto">
              <RhythmPanel />
            </Tabs.Content>
            <Tabs.Content value="versions" className="min-h-0 flex-1 overflow-y-auto">
              <Versions />
            </Tabs.Content>
            <Tabs.Content value="shot" className="min-h-0 flex-1 overflow-y-auto">
              <ShotPanel />
            </Tabs.Content>
            <Tabs.Content value="report" className="min-h-0 flex-1 overflow-y-auto">
              <ReportPanel />
            </Tabs.Content>
          </Tabs.Root>
        }
        lines={
          montage.song ? (
            <>
              <PegsBar onSettle={() => setSettling(true)} />
              <FirstCutBar />
              <LiveTrims />
              <WrittenLines
                projectId={projectId}
                label="Lines of the score"
                testId="score"
                lineHeight={SCORE_LINE_HEIGHT}
                without="so there is nothing to hang pegs on"
              >
                {(props) => <ScoreLine {...props} />}
              </WrittenLines>
            </>
          ) : (
            <div className="grid flex-1 place-items-center">
              <p className="text-center text-soft">
                The score is written from a song.{' '}
                <Link className="text-spruce underline" to="../song" relative="path">
                  Choose one first
                </Link>
                .
              </p>
            </div>
          )
        }
      />
      <RemedyDialog />
      <SettleDialog open={settling} onClose={() => setSettling(false)} />
      <DragOverlay dropAnimation={null}>
        {over && (
          <div className="bg-print p-[3px] shadow-lg">
            <StripTiles asset={over} width={100} height={54} times={[0.8]} />
          </div>
        )}
      </DragOverlay>
    </DndContext>
  );
}
