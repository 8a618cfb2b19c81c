import { useEffect, useRef, useState } from 'react';
import { tappingOf, type Tapping } from '@bluster/core';
import { Button } from '../interface/button.tsx';
import { Dialog } from '../interface/dialog.tsx';
import { Key } from '../interface/key.tsx';
import { player } from '../playback/player.ts';
import { useTapSettings } from '../playback/tap-settings.ts';

const CLICKS = 16;
const EVERY_S = 0.6;
/** The first clicks are for finding the beat. */
const NOT_COUNTED = 3;
const LIT_S = 0.12;

type Stage =
  | { readonly is: 'before' }
  | { readonly is: 'running'; readonly times: readonly number[] }
  | { readonly is: 'done'; readonly tapping: Tapping | null };

/** Tap along with clicks that are heard and seen: measures how late taps come on this computer. */
export function CalibrationDialog({ onClose }: { onClose: () => void }): React.JSX.Element {
  const [stage, setStage] = useState<Stage>({ is: 'before' });
  const [lit, setLit] = useState(-1);
  // Moments of the audio clock, seconds.
  const taps = useRef<number[]>([]);
  const stop = useRef<() => void>(() => undefined);
  const [count, setCount] = useState(0);

  const start = async (): Promise<void> => {
    taps.current = [];
    setCount(0);
    const { times, stop: silence } = await player.countIn(CLICKS, EVERY_S);
    stop.current = silence;
    setStage({ is: 'running', times });
  };
  useEffect(() => () => stop.current(), []);

  useEffect(() => {
    if (stage.is !== 'running') return;
    const { times } = stage;
    let frame = 0;
    const follow = (): void => {
      const now = player.heardAt(performance.now());
      const at = times.findLastIndex((t) => t <= now);
      setLit(at >= 0 && now - times[at]! < LIT_S ? at : -1);
      if (now < times.at(-1)! + 0.5) frame = requestAnimationFrame(follow);
      else {
        const meant = times.slice(NOT_COUNTED);
        const counted = taps.current.filter((t) => t > meant[0]! - EVERY_S / 2);
        setStage({ is: 'done', tapping: tappingOf(counted, meant, EVERY_S / 2) });
      }
    };
    const tap = (event: Event): void => {
      taps.current.push(player.heardAt(event.timeStamp));
      setCount(taps.current.length);
    };
    const key = (event: KeyboardEvent): void => {
      if (event.repeat || !['t', 'T', ' '].includes(event.key)) return;
      event.preventDefault();
      tap(event);
    };
    addEventListener('keydown', key);
    frame = requestAnimationFrame(follow);
    return () => {
      removeEventListener('keydown', key);
      cancelAnimationFrame(frame);
    };
  }, [stage]);

  const keep = (tapping: Tapping): void => {
    useTapSettings.setState({ lateness: tapping.lateness, spread: tapping.spread });
    onClose();
  };
  return (
    <Dialog open onClose={onClose} title="How late do taps come here?">
      {stage.is === 'before' && (
        <>
          <p className="text-soft">
            You will hear {CLICKS} clicks and see them. Tap along with <Key>T</Key>, the space bar, or on the pad. What your hand, the
            keyboard and the loudspeakers add up to is then taken off every tap.
          </p>
          <p className="mt-4 flex justify-end gap-2">
            <Button onClick={onClose}>Not now</Button>
            <Button look="main" onClick={() => void start()}>
              Start the clicks
            </Button>
          </p>
        </>
      )}
      {stage.is === 'running' && (
        <>
          <button
            type="button"
            data-testid="calibration-pad"
            className="grid h-32 w-full touch-none place-items-center rounded-xl border border-edge bg-cloth select-none"
            onPointerDown={(event) => {
              taps.current.push(player.heardAt(event.timeStamp));
              setCount(taps.current.length);
            }}
          >
            <span
              className={`size-16 rounded-full ${lit >= 0 ? (lit % 4 === 0 ? 'bg-coral' : 'bg-spruce') : 'bg-edge'}`}
              data-testid="click-light"
            />
          </button>
          <p className="mt-2 text-center text-soft" aria-live="polite">
            {count} taps
          </p>
        </>
      )}
      {stage.is === 'done' && (
        <>
          {stage.tapping ? (
            <p data-testid="calibration-result">
              Your taps come <b>{Math.round(stage.tapping.lateness * 1000)} ms</b> {stage.tapping.lateness >= 0 ? 'late' : 'early'}, and
              half of them are within {Math.round(stage.tapping.spread * 1000)} ms of that.
            </p>
          ) : (
            <p role="alert">Too few taps lay near the clicks to tell. Tap once with every click, and try again.</p>
          )}
          <p className="mt-4 flex justify-end gap-2">
            <Button onClick={() => void start()}>Once more</Button>
            {stage.tapping && (
              <Button look="main" onClick={() => keep((stage as { tapping: Tapping }).tapping)}>
                Take it off every tap
              </Button>
            )}
          </p>
        </>
      )}
    </Dialog>
  );
}
