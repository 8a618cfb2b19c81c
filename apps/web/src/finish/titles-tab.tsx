import { Type } from 'lucide-react';
import { barAndBeat, shortClock, type Montage, type Title } from '@bluster/core';
import { Button } from '../interface/button.tsx';
import { useMontage } from '../document/editor.ts';
import { CardsPanel } from './cards-panel.tsx';
import { ChosenTitle } from './chosen-title.tsx';
import { chooseTitle, useFinishing, writeTitle } from './finishing.ts';
import { SpokenTitles } from './spoken-titles.tsx';

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
      <SpokenTitles montage={montage} />
      <CardsPanel montage={montage} />
    </div>
  );
}

function placeOf(montage: Montage, { from }: Title): string {
  const time = montage.marks.find((m) => m.id === from.markId)?.time ?? from.time;
  const at = barAndBeat(montage, time + 1e-3);
  return at ? `bar ${at.bar} · ${at.beat}` : shortClock(time);
}
