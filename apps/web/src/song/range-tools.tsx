import { useState } from 'react';
import { clock, pulse } from '@bluster/core';
import { Button } from '../interface/button.tsx';
import { NumberField } from '../interface/number-field.tsx';
import { player } from '../playback/player.ts';
import { useEditor, useMontage } from '../document/editor.ts';
import { useListening } from '../marking/listening.ts';
import { drawToOnsets } from '../marking/repairs.ts';

/** How far a hinted tempo may be off, as a factor. */
const HINT_WITHIN = 1.15;
const MOST_IN_A_GRID = 2000;

/** What can be done with a stretch of the song that was chosen by dragging over its lines. */
export function RangeTools(): React.JSX.Element | null {
  const montage = useMontage();
  const range = useEditor((state) => state.selection.range);
  const [bpm, setBpm] = useState('');
  const [grid, setGrid] = useState<number | null>(16);
  const [unit, setUnit] = useState<'beats' | 'frames'>('beats');
  const { song } = montage;
  if (!range || !song) return null;
  const { run, select } = useEditor.getState();
  const inside = montage.marks.filter((m) => m.time >= range.from && m.time <= range.to && m.kind !== 'accent');
  const beats = pulse(montage).filter((m) => m.time >= range.from && m.time <= range.to);
  const hint = bpm.trim() === '' ? null : Number(bpm.replace(',', '.'));
  const noTempo = hint !== null && !(hint >= 20 && hint <= 400);
  const detect = (): void => {
    if (noTempo) return;
    const near = hint === null ? undefined : { bpm: hint, within: HINT_WITHIN };
    void useListening.getState().detectRange(song.assetId, range.from, range.to, near);
  };
  const lay = (): void => {
    // Where the range begins and ends on beats, the grid lies between them and leaves them where they are.
    if (grid === null) return;
    const near = (time: number): number => beats.find((b) => Math.abs(b.time - time) < 0.08)?.time ?? time;
    const { num, den } = montage.shape.rate;
    const ends = { from: near(range.from), to: near(range.to) };
    if (unit === 'beats') run({ do: 'layGrid', ...ends, beats: Math.round(grid) });
    else run({ do: 'layGrid', ...ends, every: (grid * den) / num });
  };
  return (
    <section aria-label="Range" className="rounded-lg border border-spruce/40 bg-paper p-2.5" data-testid="range-tools">
      <p className="flex items-center justify-between">
        <span className="figures text-[11.5px]">
          {clock(range.from)} – {clock(range.to)} · {beats.length} beats
        </span>
        <Button tight look="quiet" onClick={() => select({ range: null })} hint="Choose no range" hotkey="Esc">
          ×
        </Button>
      </p>
      <div className="mt-1.5 flex flex-wrap items-center gap-1.5">
        <Button onClick={detect} hint="Finds the beats of this range anew, near this tempo if one is given">
          Detect here
        </Button>
        <label className="flex items-center gap-1 text-[12px] text-soft">
          near
          <input
            value={bpm}
            onChange={(e) => setBpm(e.target.value)}
            placeholder="any"
            aria-label="Tempo hint, beats a minute"
            aria-invalid={noTempo}
            className="figures w-12 rounded border border-edge bg-cloth px-1 py-0.5 text-right"
          />
          bpm
        </label>
      </div>
      {noTempo && (
        <p role="alert" className="mt-1 text-[12px] text-coral-text">
          “{bpm}” is no tempo. Give beats a minute from 20 to 400, or nothing.
        </p>
      )}
      <div className="mt-1.5 flex flex-wrap items-center gap-1.5">
        <Button onClick={lay} disabled={grid === null} hint="Evenly spaced beats over the range, in the place of those that are there">
          Even grid
        </Button>
        <NumberField
          label="How many"
          value={grid}
          from={1}
          to={MOST_IN_A_GRID}
          step={unit === 'beats' ? 1 : 0.5}
          figures={3}
          onChange={setGrid}
          onNone={() => setGrid(null)}
        />
        <select
          value={unit}
          onChange={(e) => setUnit(e.target.value as 'beats' | 'frames')}
          aria-label="What the grid counts"
          className="rounded border border-edge bg-cloth px-1 py-0.5 text-[12px]"
        >
          <option value="beats">beats in it</option>
          <option value="frames">frames each</option>
        </select>
      </div>
      <div className="mt-1.5 flex flex-wrap gap-1.5">
        <Button onClick={() => run({ do: 'fillHoles', ...range })} hint="Beats where the beats before and after leave a hole">
          Fill holes
        </Button>
        <Button onClick={() => drawToOnsets(inside.map((m) => m.id))} hint="Draws every mark of the range to its nearest onset" hotkey="X">
          To onsets
        </Button>
        <Button onClick={() => run({ do: 'halveBeats', ...range })} aria-label="Halve the beats of the range">
          ½
        </Button>
        <Button onClick={() => run({ do: 'doubleBeats', ...range })} aria-label="Double the beats of the range">
          ×2
        </Button>
        <Button onClick={() => run({ do: 'shiftHalfBeat', ...range })}>shift ½ beat</Button>
        <Button onClick={() => run({ do: 'lockMarks', ids: inside.map((m) => m.id), locked: true })}>Lock</Button>
        <Button onClick={() => run({ do: 'lockMarks', ids: inside.map((m) => m.id), locked: false })}>Unlock</Button>
        <Button onClick={() => player.setLoop({ from: range.from, to: range.to })} hint="Play the range round and round" hotkey="R">
          Loop
        </Button>
        <Button
          look="danger"
          onClick={() => run({ do: 'removeMarks', ids: inside.map((m) => m.id) })}
          hint="Takes away the marks of the range; accents stay"
          hotkey="Del"
        >
          Delete
        </Button>
      </div>
    </section>
  );
}
