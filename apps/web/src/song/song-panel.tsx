import { useState } from 'react';
import { clock, pulse, readBeatText, shortClock } from '@bluster/core';
import { toast } from 'sonner';
import { Button } from '../interface/button.tsx';
import { Choice } from '../interface/choice.tsx';
import { Progress } from '../interface/progress.tsx';
import { player } from '../playback/player.ts';
import { usePlayer } from '../playback/use-player.ts';
import { montageLength } from '../project/actions.ts';
import { useEditor, useMontage } from '../project/editor.ts';
import { useDetection } from './detection.ts';
import { TapPad } from './tap-pad.tsx';
import { TempoChart } from './tempo-chart.tsx';

/** Tapping, the marks' numbers, the tempo, and what puts marks right. */
export function SongPanel(): React.JSX.Element {
  const montage = useMontage();
  const { run } = useEditor.getState();
  const { clicks } = usePlayer();
  const chosen = useEditor((state) => state.selection.markIds);
  const [shift, setShift] = useState('20');
  const song = montage.song!;
  const count = (kind: string): number => montage.marks.filter((m) => m.kind === kind).length;
  const one = chosen.length === 1 ? montage.marks.find((m) => m.id === chosen[0]) : undefined;
  const setBarOne = (): void => {
    const at = player.songTime();
    const beats = pulse(montage);
    const beat =
      one && (one.kind === 'beat' || one.kind === 'bar')
        ? one
        : beats.reduce<(typeof beats)[number] | null>(
            (best, b) => (!best || Math.abs(b.time - at) < Math.abs(best.time - at) ? b : best),
            null,
          );
    if (beat) run({ do: 'setBarOne', id: beat.id, metre: song.metre });
    else toast.error('There are no beats yet. Tap some, or let them be detected.');
  };
  const readMarks = async (file: File): Promise<void> => {
    try {
      run({ do: 'takeBeatTimes', times: readBeatText(await file.text()), metre: song.metre });
    } catch (error) {
      toast.error((error as Error).message);
    }
  };
  return (
    <aside className="flex min-h-0 w-[296px] shrink-0 flex-col gap-3.5 overflow-y-auto border-l border-edge p-4">
      <TapPad />
      <DetectionBox assetId={song.assetId} />
      <section aria-label="Marks">
        <b className="font-semibold">Marks</b>
        <dl className="mt-1 grid grid-cols-[1fr_auto] gap-y-0.5 text-soft [&>dd]:figures [&>dd]:font-semibold [&>dd]:text-ink">
          <dt>bars</dt>
          <dd data-testid="bar-count">{count('bar')}</dd>
          <dt>beats</dt>
          <dd data-testid="beat-count">{pulse(montage).length}</dd>
          <dt className="text-coral-text">drops</dt>
          <dd>{count('drop')}</dd>
        </dl>
      </section>
      <TempoChart />
      <div className="flex flex-wrap gap-1.5">
        <Button onClick={() => run({ do: 'halveBeats' })} hint="Every other beat goes" aria-label="Halve the beats">
          ½
        </Button>
        <Button onClick={() => run({ do: 'doubleBeats' })} hint="A beat between every two" aria-label="Double the beats">
          ×2
        </Button>
        <Button onClick={() => run({ do: 'shiftHalfBeat' })} hint="All beats move half a beat on">
          shift ½ beat
        </Button>
        <Button onClick={setBarOne} hint="Bars are counted from the chosen beat, or the one nearest to the playhead">
          bar 1 here
        </Button>
      </div>
      <div className="flex items-center justify-between">
        Beats in a bar
        <Choice
          label="Beats in a bar"
          value={String(song.metre)}
          options={[
            ['2', '2'],
            ['3', '3'],
            ['4', '4'],
            ['5', '5'],
            ['6', '6'],
          ]}
          onChoose={(m) => {
            const bar = montage.marks.find((x) => x.kind === 'bar') ?? pulse(montage)[0];
            if (bar) run({ do: 'setBarOne', id: bar.id, metre: Number(m) });
          }}
        />
      </div>
      {one && (
        <div className="flex items-center justify-between" data-testid="chosen-mark">
          <span className="figures text-[12px]">{clock(one.time)}</span>
          <Choice
            label="Kind of the chosen mark"
            value={one.kind}
            options={[
              ['beat', 'beat'],
              ['bar', 'bar'],
              ['drop', 'drop'],
            ]}
            onChoose={(kind) => run({ do: 'setMarkKind', id: one.id, kind })}
          />
        </div>
      )}
      <div className="flex items-center justify-between">
        Clicks on the marks
        <Choice
          label="Clicks on the marks"
          value={clicks ? 'on' : 'off'}
          options={[
            ['on', 'on'],
            ['off', 'off'],
          ]}
          onChoose={(v) => player.setClicks(v === 'on')}
        />
      </div>
      <form
        className="flex items-center justify-between gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          const ms = Number(shift.replace(',', '.'));
          if (Number.isFinite(ms)) run({ do: 'shiftAllMarks', by: ms / 1000 });
          else toast.error(`"${shift}" is not a number of milliseconds.`);
        }}
      >
        <label className="flex items-center gap-2">
          Shift all by
          <input
            value={shift}
            onChange={(e) => setShift(e.target.value)}
            className="figures w-14 rounded border border-edge bg-paper px-1.5 py-0.5 text-right"
            aria-label="Milliseconds, negative is earlier"
          />{' '}
          ms
        </label>
        <Button type="submit">Shift</Button>
      </form>
      <div className="flex items-center justify-between">
        <span>
          In use <b className="figures">{shortClock(montageLength(montage))}</b> of {shortClock(song.length)}
        </span>
        <span className="flex gap-1.5">
          <Button
            hint="The song starts at the playhead"
            hotkey="I"
            onClick={() => run({ do: 'setSongRange', pieces: [{ from: player.songTime(), to: song.pieces.at(-1)!.to }] })}
          >
            In
          </Button>
          <Button
            hint="The song ends at the playhead"
            hotkey="O"
            onClick={() => run({ do: 'setSongRange', pieces: [{ from: song.pieces[0]!.from, to: player.songTime() }] })}
          >
            Out
          </Button>
          <Button hint="Use the whole song" onClick={() => run({ do: 'setSongRange', pieces: [{ from: 0, to: song.length }] })}>
            All
          </Button>
        </span>
      </div>
      <label className="cursor-pointer text-spruce underline">
        Read beat times from a text file…
        <input
          type="file"
          accept=".txt,text/plain"
          className="sr-only"
          onChange={(e) => e.target.files?.[0] && void readMarks(e.target.files[0])}
        />
      </label>
    </aside>
  );
}

function DetectionBox({ assetId }: { assetId: string }): React.JSX.Element {
  const { part, verdict, start, cancel } = useDetection();
  return (
    <section aria-label="Detection" aria-live="polite">
      {part !== null ? (
        <div className="space-y-1.5">
          <p className="flex items-center justify-between">
            Listening for beats… <Button onClick={cancel}>Cancel</Button>
          </p>
          <Progress part={part} label="Beat detection" />
        </div>
      ) : (
        <p className="flex items-center justify-between">
          <span className="text-soft">Beats from the song itself</span>
          <Button
            onClick={() => void start(assetId)}
            hint="Finds beats, bars, sections and drops; beats and bars that are there are replaced"
          >
            Detect
          </Button>
        </p>
      )}
      {verdict && <p className="mt-1.5 rounded-md border border-gold/60 bg-paper p-2 text-gold-text">{verdict}</p>}
    </section>
  );
}
