import { BARS_A_LINE, type BarsALine } from '@bluster/core';
import { useEditor } from '../document/editor.ts';

/** How many bars a line of the song holds. */
export function BarsChoice(): React.JSX.Element {
  const barsALine = useEditor((state) => state.barsALine);
  const { setBarsALine } = useEditor.getState();
  return (
    <label className="text-soft">
      <span className="sr-only">Bars a line</span>
      <select
        value={barsALine}
        onChange={(e) => setBarsALine(Number(e.target.value) as BarsALine)}
        className="rounded border border-transparent bg-transparent py-0.5 hover:border-edge"
      >
        {BARS_A_LINE.map((n) => (
          <option key={n} value={n}>
            {n} {n === 1 ? 'bar' : 'bars'} a line
          </option>
        ))}
      </select>
    </label>
  );
}
