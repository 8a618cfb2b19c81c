import { useVirtualizer } from '@tanstack/react-virtual';
import { Download } from 'lucide-react';
import { useMemo, useRef } from 'react';
import { frameTime, gapsOf, reportCsv, syncReport, type GapRemedy, type SyncReport } from '@bluster/core';
import { Button } from '../../interface/button.tsx';
import { Choice } from '../../interface/choice.tsx';
import { NumberField } from '../../interface/number-field.tsx';
import { player } from '../../playback/player.ts';
import { useEditor, useMontage } from '../../document/editor.ts';
import { saveFile } from '../../interface/save-file.ts';

const ROW_PX = 21;

/** Each cut against its mark, each shot with what deserves a look; a click goes there. */
export function ReportPanel(): React.JSX.Element {
  const montage = useMontage();
  const { run } = useEditor.getState();
  const report = useMemo(() => syncReport(montage), [montage]);
  if (report.cuts.length === 0) return <p className="p-6 text-center text-soft">There are no cuts yet. Hang pegs first.</p>;
  const { rule, lead } = montage.cut;
  return (
    <div className="flex h-full min-h-0 flex-col gap-2 px-3.5 py-1">
      <p className="text-[12.5px]">
        {report.cuts.length} cuts, none more than <b className="figures">{report.worstErrorMs.toFixed(1)} ms</b> off its mark, on the mean{' '}
        <span className="figures">{report.meanErrorMs.toFixed(1)}</span>.
        {report.freeCuts > 0 && ` ${report.freeCuts} off marks on purpose.`}
        {report.emptySlots > 0 && <span className="text-gold-text"> {report.emptySlots} empty.</span>}
        {report.shortShots > 0 && <span className="text-gold-text"> {report.shortShots} short.</span>}
      </p>
      <div className="flex items-center gap-1.5">
        <Choice
          narrow
          label="Cut rule"
          value={rule}
          options={[
            ['nearest', 'nearest'],
            ['never-late', 'never late'],
            ['never-early', 'never early'],
          ]}
          onChoose={(r) => run({ do: 'setCutRule', rule: r, lead })}
        />
        <label className="flex items-center gap-1 text-[12px] text-soft">
          lead
          <NumberField value={lead} from={-10} to={10} figures={2} onChange={(frames) => run({ do: 'setCutRule', rule, lead: frames })} />
        </label>
        <span className="ml-auto" />
        <Button tight aria-label="Save the report as CSV" onClick={() => saveFile('sync-report.csv', reportCsv(report), 'text/csv')}>
          <Download size={12} /> CSV
        </Button>
        <Button
          tight
          aria-label="Save the report as JSON"
          onClick={() => saveFile('sync-report.json', `${JSON.stringify(report, null, 2)}\n`, 'application/json')}
        >
          <Download size={12} /> JSON
        </Button>
      </div>
      <Gaps />
      <Table report={report} />
    </div>
  );
}

const REMEDIES: Record<GapRemedy, string> = {
  handles: 'show more',
  slow: 'slow down',
  hold: 'hold',
  fill: 'fill',
  'reach-over': 'reach over',
};
const ALL: readonly GapRemedy[] = ['handles', 'slow', 'hold', 'fill', 'reach-over'];

/** What is missing, with a step for each and one for all. */
function Gaps(): React.JSX.Element | null {
  const gaps = gapsOf(useMontage());
  const { run, select } = useEditor.getState();
  const { rate } = useMontage().shape;
  if (gaps.length === 0) return null;
  const go = (startPeg: string, frame: number): void => {
    player.seek(frameTime(frame, rate) + 0.0005);
    select({ slotStart: startPeg, pegId: null, markIds: [] });
  };
  return (
    <section className="rounded-md border border-gold/60 bg-paper p-2 text-[11.5px]" aria-label="Gaps" data-testid="gaps">
      <div className="flex items-center gap-1.5">
        <b>
          {gaps.length} {gaps.length === 1 ? 'gap' : 'gaps'}, {gaps.reduce((sum, g) => sum + g.missing, 0).toFixed(2)} s
        </b>
        <span className="ml-auto text-soft">all:</span>
        {ALL.filter((r) => gaps.some((g) => g.remedies.includes(r))).map((remedy) => (
          <button
            key={remedy}
            type="button"
            className="text-spruce underline"
            onClick={() => run({ do: 'remedyGaps', startPegs: gaps.map((g) => g.slot.start.id), remedy })}
          >
            {REMEDIES[remedy]}
          </button>
        ))}
      </div>
      <ul className="max-h-[84px] overflow-y-auto">
        {gaps.map((g) => (
          <li key={g.slot.start.id} className="flex items-center gap-1.5 leading-5">
            <button
              type="button"
              className="figures truncate text-left hover:underline"
              onClick={() => go(g.slot.start.id, g.slot.start.frame)}
            >
              slot {g.slot.index + 1} · {g.slot.placed ? `${g.slot.placed.item.name} short by` : 'empty,'} {g.missing.toFixed(2)} s
            </button>
            <span className="ml-auto" />
            {g.remedies.map((remedy) => (
              <button
                key={remedy}
                type="button"
                className="text-spruce underline"
                onClick={() => run({ do: 'remedyGaps', startPegs: [g.slot.start.id], remedy })}
              >
                {REMEDIES[remedy]}
              </button>
            ))}
          </li>
        ))}
      </ul>
    </section>
  );
}

const COLUMNS = 'grid grid-cols-[24px_36px_46px_32px_minmax(0,1fr)_38px_78px] items-center gap-x-1.5';

function Table({ report }: { report: SyncReport }): React.JSX.Element {
  const scroller = useRef<HTMLDivElement>(null);
  const rows = useVirtualizer({
    count: report.slots.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW_PX,
    overscan: 8,
  });
  const { select } = useEditor.getState();
  const { rate } = useMontage().shape;
  const go = (index: number): void => {
    const slot = report.slots[index]!;
    player.seek(frameTime(slot.fromFrame, rate) + 0.0005);
    select({ pegId: null, markIds: [], slotStart: null });
  };
  return (
    <div
      className="flex min-h-[120px] flex-1 flex-col text-[11px]"
      role="table"
      aria-label="Cuts and shots"
      aria-rowcount={report.slots.length + 1}
    >
      <div className={`${COLUMNS} border-b border-edge pb-0.5 text-soft`} role="row">
        {['slot', 'frame', 'mark', 'ms', 'clip and its frames', 'speed', 'to look at'].map((h) => (
          <span key={h} role="columnheader">
            {h}
          </span>
        ))}
      </div>
      <div ref={scroller} className="min-h-0 flex-1 overflow-y-auto" tabIndex={0} role="rowgroup" aria-label="Rows">
        <div className="relative" role="presentation" style={{ height: rows.getTotalSize() }}>
          {rows.getVirtualItems().map((row) => {
            const slot = report.slots[row.index]!;
            const cut = row.index === 0 ? null : report.cuts[row.index - 1]!;
            return (
              <div
                key={row.key}
                role="row"
                tabIndex={0}
                data-testid="report-row"
                aria-rowindex={row.index + 2}
                className={`figures absolute inset-x-0 cursor-pointer hover:bg-cloth-2 ${COLUMNS}`}
                style={{ top: row.start, height: ROW_PX }}
                onClick={() => go(row.index)}
                onKeyDown={(e) => e.key === 'Enter' && go(row.index)}
              >
                <span role="cell">{slot.number}</span>
                <span role="cell">{slot.fromFrame}</span>
                <span role="cell" className={cut && !cut.mark ? 'text-gold-text' : ''}>
                  {cut ? (cut.mark ? `${cut.mark.kind}${cut.mark.part === null ? '' : ' + ½'}` : 'free') : 'start'}
                </span>
                <span role="cell">{cut?.errorMs === null || !cut ? '–' : cut.errorMs.toFixed(1)}</span>
                <span role="cell" className="truncate">
                  {slot.clip
                    ? `${slot.clip.replace(/\.\w+$/, '')}${slot.sourceFrames ? ` ${slot.sourceFrames[0]}–${slot.sourceFrames[1]}` : ''}`
                    : 'empty'}
                </span>
                <span role="cell">{slot.speed === null || !slot.sourceFrames ? '' : `${Math.round(slot.speed * 100)} %`}</span>
                <span
                  role="cell"
                  className="truncate text-gold-text"
                  title={[...slot.warnings, ...(cut && !cut.visible ? ['no change seen'] : [])].join(', ')}
                >
                  {[...slot.warnings, ...(cut && !cut.visible ? ['no change'] : [])].join(', ')}
                </span>
              </div>
            );
          })}
        </div>
      </div>
    </div>
  );
}
