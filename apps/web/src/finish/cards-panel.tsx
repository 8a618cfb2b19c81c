import { useState } from 'react';
import { useParams } from 'react-router';
import { scoreOf, slotAt, frameAt, type Montage } from '@bluster/core';
import { Button } from '../interface/button.tsx';
import { Choice } from '../interface/choice.tsx';
import { PanelRow } from '../interface/panel-row.tsx';
import { useEditor } from '../document/editor.ts';
import { player } from '../playback/player.ts';
import { ColourField } from './colour-field.tsx';
import { layCards } from './lay-cards.ts';

/** Which slots are meant, by the first of their pegs: the chosen ones, or every second one from the playhead on. */
function slotsFor(montage: Montage, where: 'chosen' | 'second', count: number): string[] {
  const score = scoreOf(montage);
  if (where === 'chosen') {
    const { slotStart, moreSlots } = useEditor.getState().selection;
    const chosen = new Set([slotStart, ...moreSlots]);
    return score.slots.flatMap((s) => (chosen.has(s.start.id) ? [s.start.id] : []));
  }
  const first = slotAt(score, frameAt(player.time(), montage.shape.rate))?.index ?? 0;
  return score.slots
    .filter((s) => s.index >= first && (s.index - first) % 2 === 0)
    .slice(0, count)
    .map((s) => s.start.id);
}

/** Cards: a plain or graded ground that hangs in a slot like a picture, with words on it. */
export function CardsPanel({ montage }: { montage: Montage }): React.JSX.Element | null {
  const { projectId = '' } = useParams();
  const [words, setWords] = useState('');
  const [graded, setGraded] = useState<'plain' | 'graded'>('graded');
  const [[from, to], setColours] = useState(['#2a3342', '#0d1118']);
  const [where, setWhere] = useState<'chosen' | 'second'>('second');
  const [style, setStyle] = useState('');
  const [busy, setBusy] = useState(false);
  const chosen = useEditor((state) => state.selection.slotStart !== null);
  if (scoreOf(montage).slots.length === 0) return null;
  const lines = words.split('\n').filter((line) => line.trim() !== '');
  const lay = async (): Promise<void> => {
    const slots = slotsFor(montage, where, Math.max(1, lines.length));
    const worn = montage.styles.some((s) => s.id === style) ? { style } : {};
    setBusy(true);
    await layCards(projectId, { ground: { from: from, to: graded === 'graded' ? to : null }, slots, words: lines, ...worn });
    setBusy(false);
  };
  return (
    <section aria-label="Cards" className="space-y-1.5 border-t border-edge pt-3 text-[12.5px]">
      <p className="text-soft">Cards hang in slots like pictures, with a ground of their own and words on it.</p>
      <textarea
        aria-label="Words of the cards, a line each"
        placeholder="A line for each card; none for a card without words"
        rows={2}
        className="w-full resize-y rounded border border-edge bg-paper px-2 py-1"
        value={words}
        onChange={(e) => setWords(e.target.value)}
      />
      <PanelRow label="Ground">
        <Choice
          label="Ground of the cards"
          value={graded}
          options={[
            ['plain', 'plain'],
            ['graded', 'graded'],
          ]}
          onChoose={setGraded}
        />
        <span className="ml-2 inline-flex gap-1">
          <ColourField label="Colour of the ground" value={from} onChange={(colour) => setColours([colour, to])} />
          {graded === 'graded' && <ColourField label="Colour at its foot" value={to} onChange={(colour) => setColours([from, colour])} />}
        </span>
      </PanelRow>
      <PanelRow label="Hang">
        <Choice
          label="Where the cards hang"
          value={where}
          options={[
            ['second', 'every 2nd from here'],
            ['chosen', 'chosen slots'],
          ]}
          onChoose={setWhere}
        />
      </PanelRow>
      <p className="flex flex-wrap items-center gap-1.5">
        {montage.styles.length > 0 && (
          <select
            aria-label="Style of the words on cards"
            className="rounded border border-edge bg-paper px-1.5 py-1 text-[12px]"
            value={style}
            onChange={(e) => setStyle(e.target.value)}
          >
            <option value="">from the middle outwards</option>
            {montage.styles.map((s) => (
              <option key={s.id} value={s.id}>
                {s.name}
              </option>
            ))}
          </select>
        )}
        <Button disabled={busy || (where === 'chosen' && !chosen)} onClick={() => void lay()}>
          {busy ? 'Hanging…' : lines.length > 1 ? `Hang ${lines.length} cards` : 'Hang a card'}
        </Button>
        {where === 'chosen' && !chosen && <span className="text-[12px] text-soft">Choose slots in Picture or Score first.</span>}
      </p>
    </section>
  );
}
