import { useRef } from 'react';
import { Panel, PanelGroup, type ImperativePanelGroupHandle } from 'react-resizable-panels';
import { useMontage } from '../document/editor.ts';
import { Divider } from './divider.tsx';
import { usePictureSize } from './picture-size.ts';

interface WorkbenchProps {
  readonly screen: React.ReactNode;
  readonly transport: React.ReactNode;
  readonly panel: React.ReactNode;
  readonly lines: React.ReactNode;
  /** what the lines are called */
  readonly label: string;
}

/** A picture less wide than this, to its height, has a place of its own beside the panel instead of above it. */
const UPRIGHT = 0.9;

/**
 * The screen, what can be done, and the lines of the score, with dividers between them that are dragged and remembered. An
 * upright picture stands in a column of its own. The picture can lie over the whole window, with the loupe below it.
 */
export function Workbench({ screen, transport, panel, lines, label }: WorkbenchProps): React.JSX.Element {
  const { width, height } = useMontage().shape;
  const { size } = usePictureSize();
  const upright = width / height < UPRIGHT;
  const columns = useRef<ImperativePanelGroupHandle>(null);
  const rows = useRef<ImperativePanelGroupHandle>(null);
  const picture = (
    <div
      className={size === 'place' ? 'flex h-full min-h-0 flex-col' : 'fixed inset-x-0 top-0 bottom-[118px] z-30 flex flex-col bg-night'}
      data-testid="picture-place"
      data-size={size}
    >
      {screen}
      {transport}
    </div>
  );
  const score = (
    <section className="flex h-full min-h-0 min-w-0 flex-col" aria-label={label}>
      {lines}
    </section>
  );
  if (upright)
    return (
      <main className="h-full min-h-0">
        <PanelGroup ref={columns} direction="horizontal" autoSaveId="upright-columns">
          <Panel id="picture" order={1} defaultSize={27} minSize={14}>
            {picture}
          </Panel>
          <Divider label="Divider between the picture and the panel" onReset={() => columns.current?.setLayout([27, 27, 46])} />
          <Panel id="panel" order={2} defaultSize={27} minSize={20}>
            <div className="flex h-full min-h-0 flex-col">{panel}</div>
          </Panel>
          <Divider label="Divider between the panel and the lines" onReset={() => columns.current?.setLayout([27, 27, 46])} />
          <Panel id="lines" order={3} minSize={25}>
            {score}
          </Panel>
        </PanelGroup>
      </main>
    );
  return (
    <main className="h-full min-h-0">
      <PanelGroup ref={columns} direction="horizontal" autoSaveId="wide-columns">
        <Panel id="left" order={1} defaultSize={35.3} minSize={24}>
          <PanelGroup ref={rows} direction="vertical" autoSaveId="wide-rows">
            <Panel id="picture" order={1} defaultSize={48} minSize={20}>
              {picture}
            </Panel>
            <Divider across label="Divider between the picture and the panel" onReset={() => rows.current?.setLayout([48, 52])} />
            <Panel id="panel" order={2} minSize={15}>
              <div className="flex h-full min-h-0 flex-col">{panel}</div>
            </Panel>
          </PanelGroup>
        </Panel>
        <Divider label="Divider between the picture and the lines" onReset={() => columns.current?.setLayout([35.3, 64.7])} />
        <Panel id="lines" order={2} minSize={30}>
          {score}
        </Panel>
      </PanelGroup>
    </main>
  );
}
