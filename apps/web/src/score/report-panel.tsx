import { syncReport } from '@bluster/core';
import { Choice } from '../interface/choice.tsx';
import { player } from '../playback/player.ts';
import { useEditor, useMontage } from '../project/editor.ts';

/** Each cut against its mark; a click goes there. */
export function ReportPanel(): React.JSX.Element {
  const montage = useMontage();
  const { run } = useEditor.getState();
  const report = syncReport(montage);
  if (report.cuts.length === 0) return <p className="p-6 text-center text-soft">There are no cuts yet. Hang pegs first.</p>;
  const { rule, lead } = montage.cut;
  return (
    <div className="space-y-2 px-3.5 py-1">
      <p>
        {report.cuts.length} cuts, none more than <b className="figures">{report.worstErrorMs.toFixed(1)} ms</b> off its mark.
        {report.emptySlots > 0 && <span className="text-gold-text"> {report.emptySlots} empty.</span>}
        {report.shortShots > 0 && <span className="text-gold-text"> {report.shortShots} short.</span>}
      </p>
      <div className="flex items-center gap-2">
        <Choice
          label="Cut rule"
          value={rule}
          options={[
            ['nearest', 'nearest frame'],
            ['never-late', 'never late'],
            ['never-early', 'never early'],
          ]}
          onChoose={(r) => run({ do: 'setCutRule', rule: r, lead })}
        />
        <label className="flex items-center gap-1.5 text-soft">
          lead
          <input
            type="number"
            min={-10}
            max={10}
            value={lead}
            onChange={(e) => run({ do: 'setCutRule', rule, lead: Math.round(Number(e.target.value)) || 0 })}
            className="figures w-12 rounded border border-edge bg-paper px-1 py-0.5 text-ink"
          />
          frames
        </label>
      </div>
      <table className="figures w-full text-[11px]">
        <thead className="text-left text-soft">
          <tr>
            <th className="font-normal">cut</th>
            <th className="font-normal">frame</th>
            <th className="font-normal">mark</th>
            <th className="text-right font-normal">ms</th>
            <th className="text-right font-normal">frames</th>
          </tr>
        </thead>
        <tbody>
          {report.cuts.map((cut) => (
            <tr key={cut.number} className="cursor-pointer hover:bg-cloth-2" onClick={() => player.seek(cut.time + 0.0005)}>
              <td>{cut.number}</td>
              <td>{cut.frame}</td>
              <td className={cut.mark ? '' : 'text-gold-text'}>
                {cut.mark ? `${cut.mark.kind} ${cut.mark.time.toFixed(3)}` : 'free'}
                {!cut.visible && <span className="text-soft"> · no change</span>}
              </td>
              <td className="text-right">{cut.errorMs === null ? '–' : cut.errorMs.toFixed(1)}</td>
              <td className="text-right">{cut.errorFrames === null ? '–' : cut.errorFrames.toFixed(2)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
