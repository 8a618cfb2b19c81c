import { Trash2, Type } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { TITLE_COLOURS, barAndBeat, nearestMark, shortClock, toSongTime, type Command, type Montage, type Title } from '@bluster/core';
import { Button } from '../interface/button.tsx';
import { Choice } from '../interface/choice.tsx';
import { NumberField } from '../interface/number-field.tsx';
import { PanelRow } from '../interface/panel-row.tsx';
import { player } from '../playback/player.ts';
import { useEditor, useMontage } from '../document/editor.ts';
import { chooseTitle, useFinishing, writeTitle } from './finishing.ts';

/** Height of the letters, parts of the picture's. */
const SIZES = [
  ['0.06', 'small'],
  ['0.12', 'middle'],
  ['0.2', 'large'],
] as const;
const PLACES = [
  ['top', 'top'],
  ['middle', 'middle'],
  ['bottom', 'bottom'],
] as const;
const WEIGHTS = [
  ['light', 'light'],
  ['bold', 'bold'],
] as const;
const ENTERS = [
  ['cut', 'at once'],
  ['fade', 'fading'],
  ['rise', 'rising'],
  ['grow', 'growing'],
] as const;

/** Titles: their words, when they are seen, and how they look. */
export function TitlesTab(): React.JSX.Element {
  const montage = useMontage();
  const titleId = useFinishing((state) => state.titleId);
  const chosen = montage.titles.find((t) => t.id === titleId);
  const inOrder = [...montage.titles].sort((a, b) => a.from.time - b.from.time);
  return (
    <div className="space-y-3 px-3.5 pb-4">
      <p className="flex items-center gap-2">
        <Button disabled={!montage.song} onClick={writeTitle} hint="From the mark at the playhead on" hotkey="Shift T">
          <Type size={13} /> Write a title here
        </Button>
        <span className="text-[12px] text-soft">{montage.titles.length === 0 && 'No titles yet.'}</span>
      </p>
      {inOrder.length > 0 && (
        <ul aria-label="Titles">
          {inOrder.map((title) => (
            <li key={title.id}>
              <button
                className={`flex w-full items-center gap-2 rounded px-1.5 py-1 text-left text-[12.5px] hover:bg-cloth-2 ${title === chosen ? 'bg-cloth-2' : ''}`}
                aria-pressed={title === chosen}
                onClick={() => chooseTitle(title)}
              >
                <span className="figures w-24 shrink-0 text-[11.5px] text-soft">{placeOf(montage, title)}</span>
                <span className="truncate font-semibold">{title.text.replaceAll('\n', ' / ')}</span>
                <span className="figures ml-auto text-[11px] text-soft">{title.beats} beats</span>
              </button>
            </li>
          ))}
        </ul>
      )}
      {chosen && <ChosenTitle key={chosen.id} title={chosen} montage={montage} />}
    </div>
  );
}

function placeOf(montage: Montage, { from }: Title): string {
  const time = montage.marks.find((m) => m.id === from.markId)?.time ?? from.time;
  const at = barAndBeat(montage, time + 1e-3);
  return at ? `bar ${at.bar} · ${at.beat}` : shortClock(time);
}

function ChosenTitle({ title, montage }: { title: Title; montage: Montage }): React.JSX.Element {
  const { run } = useEditor.getState();
  const change = (to: Omit<Extract<Command, { do: 'changeTitle' }>, 'do' | 'id'>): void =>
    void run({ do: 'changeTitle', id: title.id, ...to });
  const startHere = (): void => {
    const time = toSongTime(montage.song!.pieces, player.time());
    const mark = nearestMark(montage, time, 0.4, (m) => m.kind !== 'accent');
    change({ at: mark ? { markId: mark.id } : { time } });
  };
  return (
    <section className="space-y-2 border-t border-edge pt-3" aria-label="Chosen title">
      <Words title={title} onChange={(text) => change({ text })} />
      <PanelRow label="From">
        <span className="figures pr-2 text-[12px]">{placeOf(montage, title)}</span>
        <Button onClick={startHere}>from the playhead</Button>
        <label className="ml-3 flex items-center gap-1.5 text-soft">
          for
          <NumberField
            label="Beats of the title"
            value={title.beats}
            from={0.25}
            to={256}
            step={0.25}
            atOnce={false}
            figures={3}
            onChange={(beats) => change({ beats })}
          />
          beats
        </label>
      </PanelRow>
      <PanelRow label="Place">
        <Choice label="Place of the title" value={title.place} options={PLACES} onChoose={(place) => change({ place })} />
      </PanelRow>
      <PanelRow label="Letters">
        <Choice label="Size of the title" value={String(title.size)} options={SIZES} onChoose={(size) => change({ size: Number(size) })} />
        <span className="w-2" />
        <Choice label="Weight of the title" value={title.weight} options={WEIGHTS} onChoose={(weight) => change({ weight })} />
      </PanelRow>
      <PanelRow label="Colour">
        <div role="radiogroup" aria-label="Colour of the title" className="flex gap-1.5">
          {(Object.keys(TITLE_COLOURS) as Title['colour'][]).map((colour) => (
            <button
              key={colour}
              role="radio"
              aria-checked={title.colour === colour}
              aria-label={colour}
              title={colour}
              className={`size-6 rounded-full border border-edge ${title.colour === colour ? 'ring-2 ring-spruce ring-offset-1' : ''}`}
              style={{ background: TITLE_COLOURS[colour] }}
              onClick={() => change({ colour })}
            />
          ))}
        </div>
      </PanelRow>
      <PanelRow label="Comes">
        <Choice label="How the title comes" value={title.enter} options={ENTERS} onChoose={(enter) => change({ enter })} />
        <Button
          look="danger"
          tight
          className="ml-auto"
          aria-label="Take the title away"
          hint="Remove it"
          hotkey="Del"
          onClick={() => run({ do: 'removeTitles', ids: [title.id] })}
        >
          <Trash2 size={13} />
        </Button>
      </PanelRow>
    </section>
  );
}

/** The words of a title; each time the field is left is a step to undo. */
function Words({ title, onChange }: { title: Title; onChange: (text: string) => void }): React.JSX.Element {
  const [typed, setTyped] = useState<string | null>(null);
  const field = useRef<HTMLTextAreaElement>(null);
  useEffect(() => field.current?.select(), []);
  const leave = (): void => {
    if (typed !== null && typed.trim() !== '' && typed !== title.text) onChange(typed);
    setTyped(null);
  };
  return (
    <textarea
      ref={field}
      aria-label="Words of the title"
      rows={2}
      maxLength={400}
      className="w-full resize-y rounded border border-edge bg-paper px-2 py-1"
      value={typed ?? title.text}
      onChange={(e) => setTyped(e.target.value)}
      onBlur={leave}
      onKeyDown={(e) => {
        if (e.key === 'Enter' && (e.ctrlKey || e.metaKey)) leave();
        if (e.key === 'Escape') setTyped(null);
      }}
    />
  );
}
