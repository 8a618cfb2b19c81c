import { useState } from 'react';
import { MARKS, MARK_KINDS, type MarkKind } from '@bluster/core';
import { Button } from '../interface/button.tsx';
import { Choice } from '../interface/choice.tsx';
import { Key } from '../interface/key.tsx';
import { usePlayer } from '../playback/use-player.ts';
import { useEditor, useMontage } from '../document/editor.ts';
import { TapLessonPanel } from './tap-lesson-panel.tsx';
import { useTapLesson } from './tap-lesson.ts';
import { CalibrationDialog } from './calibration-dialog.tsx';
import { useListening } from '../marking/listening.ts';
import { countFromLoneBar, forgetPass, takeOffLateness, takeTap, useTapPass } from './tapping.ts';
import { useTapSettings, type TapWay } from '../playback/tap-settings.ts';

const signed = (seconds: number): string => `${seconds < 0 ? '−' : '+'}${Math.abs(Math.round(seconds * 1000))} ms`;

/** A pad to tap on with mouse or finger, what the keys do, and how taps become marks. */
export function TapPad(): React.JSX.Element {
  const playing = usePlayer((state) => state.playing);
  const { taps, last, noticed, lone } = useTapPass();
  const { lateness, spread, way, place } = useTapSettings();
  const lesson = useTapLesson((state) => state.on);
  const montage = useMontage();
  const [kind, setKind] = useState<MarkKind>('beat');
  const [calibrating, setCalibrating] = useState(false);
  const teaching = way === 'teach' ? taps.filter((t) => t.kind === 'beat' || t.kind === 'bar').length : 0;
  const said = ((): string => {
    if (teaching > 0) return `${teaching} taps to learn from${playing ? ' · pause, and they teach' : ''}`;
    if (!playing) return 'Play the song, then tap along';
    if (!last) return 'Tap along';
    return last.drawn === 0 ? `${last.kind} at ${last.at.toFixed(3)} s` : `${last.kind} drawn to the onset ${signed(last.drawn)}`;
  })();
  return (
    <div>
      <button
        type="button"
        data-testid="tap-pad"
        className="w-full touch-none rounded-xl border border-b-[3px] border-edge bg-paper px-2 py-3 text-center select-none active:translate-y-px active:border-b"
        onPointerDown={(event) => void takeTap(kind, event.timeStamp)}
        aria-label={`Tap a ${kind}`}
      >
        <span className="block text-[22px] font-bold">Tap</span>
        <span className="mt-1 flex justify-center gap-x-1.5 text-[11.5px] whitespace-nowrap text-soft">
          {MARK_KINDS.map((k) => (
            <span key={k}>
              <Key>{MARKS[k].key.toUpperCase()}</Key> {MARKS[k].title}
            </span>
          ))}
        </span>
        <span className="figures mt-1.5 block text-[11px] text-spruce" data-testid="tap-said">
          {said}
        </span>
      </button>
      <p className="mt-1.5 flex items-center justify-between text-[11.5px] text-soft">
        Pad
        {MARK_KINDS.map((k) => (
          <label key={k} className="flex items-center gap-0.5 text-ink">
            <input type="radio" name="pad" checked={kind === k} onChange={() => setKind(k)} className="accent-spruce" /> {k}
          </label>
        ))}
      </p>
      {lesson && <TapLessonPanel />}
      {noticed && (
        <div className="mt-2 rounded-md border border-gold/60 bg-paper p-2 text-[12px]" role="status" data-testid="noticed">
          <p>
            Your taps come {Math.abs(Math.round(noticed.lateness * 1000))} ms {noticed.lateness > 0 ? 'late' : 'early'}. Move the marks of
            this pass?
          </p>
          <p className="mt-1.5 flex gap-1.5">
            <Button look="main" onClick={() => takeOffLateness(false)}>
              Move them
            </Button>
            <Button onClick={() => takeOffLateness(true)} hint="Moves these, and takes it off every tap from now on">
              Always
            </Button>
            <Button onClick={() => useTapPass.setState({ noticed: null })}>Leave</Button>
          </p>
        </div>
      )}
      {lone && (
        <div className="mt-2 rounded-md border border-gold/60 bg-paper p-2 text-[12px]" role="status" data-testid="lone-bar">
          <p>Bars are not counted from your bar at {lone.time.toFixed(2)} s. Count all of them from there?</p>
          <p className="mt-1.5 flex gap-1.5">
            <Button look="main" onClick={countFromLoneBar}>
              Count from there
            </Button>
            <Button onClick={() => useTapPass.setState({ lone: null })}>Leave</Button>
          </p>
        </div>
      )}
      <div className="mt-2.5 flex items-center justify-between">
        Take taps
        <Choice<TapWay>
          label="Take taps"
          value={way}
          options={[
            ['tapped', 'as tapped'],
            ['onset', 'to onset'],
            ['teach', 'teach'],
          ]}
          onChoose={(chosen) => {
            forgetPass();
            useTapSettings.setState({ way: chosen });
            const { song } = montage;
            if (chosen === 'teach' && song && !useListening.getState().curves) void useListening.getState().hear(song.assetId);
          }}
        />
      </div>
      {way === 'teach' ? (
        <div className="mt-1.5 flex items-start justify-between gap-2 text-[11.5px] text-soft">
          <span>Four taps choose tempo and phase, one bar where bars start; the song says where each beat is.</span>
          {teaching > 0 && !playing && (
            <Button onClick={forgetPass} className="shrink-0">
              Forget them
            </Button>
          )}
        </div>
      ) : (
        <div className="mt-1.5 flex items-center justify-between">
          <span className="text-soft">They</span>
          <Choice
            label="What taps do to marks that are there"
            value={place}
            options={[
              ['add', 'add'],
              ['replace', 'replace the stretch'],
            ]}
            onChoose={(chosen) => useTapSettings.setState({ place: chosen })}
          />
        </div>
      )}
      <p className="mt-1.5 flex items-center justify-between text-[12px] text-soft">
        <span className="figures text-[11px]" data-testid="lateness">
          {lateness === null
            ? 'lateness not measured yet'
            : `lateness ${Math.round(lateness * 1000)} ± ${Math.round(spread * 1000)} ms taken off`}
        </span>
        <span className="flex gap-1.5">
          {!lesson && (
            <Button
              onClick={() => useTapLesson.setState({ on: true, taps: [] })}
              hint="The keys one after the other, and how good your taps are"
            >
              Learn
            </Button>
          )}
          <Button onClick={() => setCalibrating(true)} hint="Tap along with clicks, so that this computer's lateness is known">
            Calibrate…
          </Button>
        </span>
      </p>
      {calibrating && <CalibrationDialog onClose={() => setCalibrating(false)} />}
      <FirstUnnamedCue />
    </div>
  );
}

/** Cues are tapped first and named afterwards: the first without a word asks for it once the song stands still. */
function FirstUnnamedCue(): React.JSX.Element | null {
  const montage = useMontage();
  const playing = usePlayer((state) => state.playing);
  const cue = montage.marks.find((m) => m.kind === 'cue' && !m.label && m.origin === 'tapped');
  const [text, setText] = useState('');
  if (!cue || playing) return null;
  return (
    <form
      className="mt-2 rounded-md border border-spruce/50 bg-paper p-2 text-[12px]"
      onSubmit={(event) => {
        event.preventDefault();
        if (text.trim() === '') return;
        useEditor.getState().run({ do: 'setLabel', id: cue.id, label: text });
        setText('');
      }}
    >
      <label>
        The cue at {cue.time.toFixed(2)} s is
        <input
          value={text}
          onChange={(e) => setText(e.target.value)}
          placeholder="a word or what happens"
          aria-label="Word of the tapped cue"
          autoFocus
          className="mt-1 w-full rounded border border-edge bg-cloth px-1.5 py-1"
        />
      </label>
    </form>
  );
}
