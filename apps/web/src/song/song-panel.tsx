import { useState } from 'react';
import { useLocation } from 'react-router';
import type { SongVisit } from '../interface/song-visit.ts';
import { toast } from 'sonner';
import { LONGEST_FADE_S, pulse, shortClock, trimPieces, type Montage } from '@bluster/core';
import { Button } from '../interface/button.tsx';
import { Choice } from '../interface/choice.tsx';
import { NumberField } from '../interface/number-field.tsx';
import { Progress } from '../interface/progress.tsx';
import { player } from '../playback/player.ts';
import { usePlayer } from '../playback/use-player.ts';
import { useEditor, useMontage } from '../document/editor.ts';
import { ChosenMarks } from './chosen-marks.tsx';
import { trimSong } from './song-range.ts';
import { useListening } from '../marking/listening.ts';
import { MarksFiles } from './marks-files.tsx';
import { MarksPanel } from './marks-panel.tsx';
import { RangeTools } from './range-tools.tsx';
import { Readings } from './readings.tsx';
import { ShortenDialog } from './shorten-dialog.tsx';
import { SpacingChart } from './spacing-chart.tsx';
import { TapPad } from './tap-pad.tsx';
import { useTapSettings } from '../playback/tap-settings.ts';
import { montageLength } from '../document/montage-length.ts';

const FARTHEST_SHIFT_MS = 10_000;
const METRES = ['2', '3', '4', '5', '6', '7'] as const;

/** Tapping, the marks' numbers, the tempo, and what puts marks right. */
export function SongPanel(): React.JSX.Element {
  const montage = useMontage();
  const song = montage.song!;
  return (
    <aside className="flex min-h-0 w-[300px] shrink-0 flex-col gap-3.5 overflow-y-auto border-l border-edge p-4">
      <TapPad />
      <DetectionBox assetId={song.assetId} />
      <Readings />
      <RangeTools />
      <ChosenMarks />
      <MarksPanel />
      <SpacingChart />
      <Counting />
      <Clicks />
      <ShiftAll />
      <SongLength />
      <MarksFiles />
    </aside>
  );
}

/** The chosen beat, or the one nearest to the playhead. */
function beatMeant(montage: Montage, chosen: readonly string[]): string | null {
  const beats = pulse(montage);
  const own = chosen.length === 1 ? beats.find((b) => b.id === chosen[0]) : undefined;
  if (own) return own.id;
  const at = player.songTime();
  if (beats.length === 0) toast.error('There are no beats yet. Tap some, or let them be detected.');
  return beats.length === 0 ? null : beats.reduce((best, b) => (Math.abs(b.time - at) < Math.abs(best.time - at) ? b : best)).id;
}

/** Tempo level, phase, and how beats are counted. */
function Counting(): React.JSX.Element {
  const montage = useMontage();
  const { run } = useEditor.getState();
  const chosen = useEditor((state) => state.selection.markIds);
  const [from, setFrom] = useState<'song' | 'here'>('song');
  const metre = montage.song!.metre;
  return (
    <div className="space-y-2">
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
        <Button
          onClick={() => {
            const id = beatMeant(montage, chosen);
            if (id) run({ do: 'setBarOne', id, metre });
          }}
          hint="Bars are counted from the chosen beat, or the one nearest to the playhead"
        >
          bar 1 here
        </Button>
      </div>
      <div className="flex items-center justify-between gap-1.5">
        <span className="flex shrink-0 items-center gap-1">
          Bars
          <select
            value={from}
            onChange={(e) => setFrom(e.target.value as 'song' | 'here')}
            aria-label="Where this metre counts"
            className="w-[98px] rounded border border-edge bg-paper px-1 py-0.5 text-[12px]"
          >
            <option value="song">throughout</option>
            <option value="here">from here on</option>
          </select>
        </span>
        <Choice
          narrow
          label="Beats in a bar"
          value={from === 'song' ? (METRES.find((m) => m === String(metre)) ?? '') : ''}
          options={METRES.map((m) => [m, m] as const)}
          onChoose={(m) => {
            if (from === 'here') {
              const id = beatMeant(montage, chosen);
              if (id) run({ do: 'setMetreFrom', id, metre: Number(m) });
              return;
            }
            const bar = montage.marks.find((x) => x.kind === 'bar') ?? pulse(montage)[0];
            if (bar) run({ do: 'setBarOne', id: bar.id, metre: Number(m) });
          }}
        />
      </div>
    </div>
  );
}

function Clicks(): React.JSX.Element {
  const clicks = usePlayer((state) => state.clicks);
  const speed = usePlayer((state) => state.speed);
  const clickLevel = useTapSettings((s) => s.clickLevel);
  return (
    <div className="space-y-2">
      <div className="flex items-center justify-between gap-2">
        <span>Clicks on the marks</span>
        <input
          type="range"
          min={0}
          max={1}
          step={0.05}
          value={clickLevel}
          aria-label="Loudness of the clicks"
          className="w-16 accent-spruce"
          onChange={(e) => {
            useTapSettings.setState({ clickLevel: Number(e.target.value) });
            player.setClickLevel(Number(e.target.value));
          }}
        />
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
      <div className="flex items-center justify-between">
        Speed, at its own pitch
        <Choice
          label="Speed"
          value={speed === 1 ? '1' : '0.5'}
          options={[
            ['1', 'full'],
            ['0.5', 'half'],
          ]}
          onChoose={(v) => player.setSpeed(Number(v))}
        />
      </div>
    </div>
  );
}

function ShiftAll(): React.JSX.Element {
  const { run } = useEditor.getState();
  const [shift, setShift] = useState<number | null>(20);
  return (
    <form
      className="flex items-center justify-between gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (shift !== null) run({ do: 'shiftAllMarks', by: shift / 1000 });
      }}
    >
      <label className="flex items-center gap-2">
        Shift all by
        <NumberField
          label="Milliseconds, negative is earlier"
          value={shift}
          from={-FARTHEST_SHIFT_MS}
          to={FARTHEST_SHIFT_MS}
          onChange={setShift}
          onNone={() => setShift(null)}
        />
        ms
      </label>
      <Button type="submit" disabled={shift === null}>
        Shift
      </Button>
    </form>
  );
}

/** The stretch in use, its fades, and how it is made shorter. */
function SongLength(): React.JSX.Element {
  const montage = useMontage();
  const song = montage.song!;
  const { run } = useEditor.getState();
  // Whoever comes to make it shorter finds the ways to do it open.
  const { state } = useLocation() as { state: SongVisit | null };
  const [shortening, setShortening] = useState(state?.shortenTo !== undefined);
  return (
    <div className="space-y-2">
      <div className="flex items-center justify-between">
        <span>
          In use <b className="figures">{shortClock(montageLength(montage))}</b> of {shortClock(song.length)}
        </span>
        <span className="flex gap-1.5">
          <Button
            hint="The song starts at the playhead"
            hotkey="I"
            onClick={() => trimSong(trimPieces(song.pieces, 'in', player.songTime()))}
          >
            In
          </Button>
          <Button
            hint="The song ends at the playhead"
            hotkey="O"
            onClick={() => trimSong(trimPieces(song.pieces, 'out', player.songTime()))}
          >
            Out
          </Button>
          <Button hint="Use the whole song" onClick={() => trimSong([{ from: 0, to: song.length }])}>
            All
          </Button>
        </span>
      </div>
      <div className="flex items-center gap-3 text-soft">
        {(['fadeIn', 'fadeOut'] as const).map((edge) => (
          <label key={edge} className="flex items-center gap-1">
            {edge === 'fadeIn' ? 'Fade in' : 'out'}
            <NumberField
              label={edge === 'fadeIn' ? 'Fade in, seconds' : 'Fade out, seconds'}
              value={song[edge]}
              from={0}
              to={LONGEST_FADE_S}
              step={0.1}
              figures={3}
              atOnce={false}
              onChange={(seconds) => run({ do: 'setFades', fadeIn: song.fadeIn, fadeOut: song.fadeOut, [edge]: seconds })}
            />
            s
          </label>
        ))}
      </div>
      <div className="flex items-center justify-between">
        <span className="text-soft">
          {song.pieces.length > 1 ? `${song.pieces.length - 1} ${song.pieces.length === 2 ? 'join' : 'joins'}` : 'As long as it is wished'}
        </span>
        <Button onClick={() => setShortening(true)} hint="Brings the song to a wished length with joins that are hard to hear">
          Make it shorter…
        </Button>
      </div>
      {shortening && <ShortenDialog wish={state?.shortenTo} onClose={() => setShortening(false)} />}
    </div>
  );
}

function DetectionBox({ assetId }: { assetId: string }): React.JSX.Element {
  const { part, at, verdict, detect, cancel } = useListening();
  return (
    <section aria-label="Detection" aria-live="polite">
      {part !== null ? (
        <div className="space-y-1.5">
          <p className="flex items-center justify-between">
            {at}… <Button onClick={cancel}>Cancel</Button>
          </p>
          <Progress part={part} label="Beat detection" />
        </div>
      ) : (
        <p className="flex items-center justify-between">
          <span className="text-soft">Beats from the song itself</span>
          <Button
            onClick={() => void detect(assetId)}
            hint="Finds beats, bars, sections, drops and accents; those that are there are replaced, but for locked ones"
          >
            Detect
          </Button>
        </p>
      )}
      {verdict && <p className="mt-1.5 rounded-md border border-gold/60 bg-paper p-2 text-gold-text">{verdict}</p>}
    </section>
  );
}
