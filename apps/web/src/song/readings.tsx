import { Headphones, Pause } from 'lucide-react';
import { pulse, type Montage, type Reading } from '@bluster/core';
import { useCallback, useEffect, useRef } from 'react';
import { useMontage } from '../document/editor.ts';
import { Button } from '../interface/button.tsx';
import { useListening } from '../marking/listening.ts';
import { player } from '../playback/player.ts';
import { usePlayer } from '../playback/use-player.ts';

/** Readings this much less likely than the first are not worth a question. */
const CLOSE = 0.2;
/** Marks this near to a reading's beats are that reading's, seconds. */
const SAME_S = 0.002;
const BARS_COMPARED = 8;

/** Whether the song is marked as a reading has it. */
function inUse(montage: Montage, reading: Reading): boolean {
  const beats = pulse(montage);
  const bars = beats.filter((b) => b.kind === 'bar');
  const starts = reading.beats.filter((b) => b.downbeat).slice(0, BARS_COMPARED);
  return beats.length === reading.beats.length && starts.every((s, i) => Math.abs(s.time - (bars[i]?.time ?? Infinity)) < SAME_S);
}

/** What tells a reading from the first one: its tempo, or how much later its bars begin. */
function nameOf(reading: Reading, first: Reading): { title: string; more: string } {
  const pace = `${Math.round(reading.bpm)} a minute`;
  const bars = `bars of ${reading.metre}`;
  if (reading === first || Math.abs(Math.log(reading.bpm / first.bpm)) > 0.05 || reading.metre !== first.metre)
    return { title: pace, more: bars };
  const start = (r: Reading): number => r.beats.findIndex((b) => b.downbeat);
  const later = (start(reading) - start(first) + first.metre) % first.metre;
  if (later === 0) return { title: pace, more: 'between these beats' };
  return { title: `bars ${later} ${later === 1 ? 'beat' : 'beats'} later`, more: 'same beats' };
}

/**
 * How surely the song was read; where two or three ways to count it are close, all of them at once, each to be heard as clicks
 * and taken in one step.
 */
export function Readings(): React.JSX.Element | null {
  const montage = useMontage();
  const { readings, previewed, take, preview } = useListening();
  const playing = usePlayer((state) => state.playing);
  const clicksBefore = useRef(false);
  // A preview that was paused, or left with the view, is over: what plays next is heard as before.
  const end = useCallback((): void => {
    if (!useListening.getState().previewed) return;
    preview(null);
    player.setClicks(clicksBefore.current);
  }, [preview]);
  useEffect(() => {
    if (!playing) end();
  }, [playing, end]);
  useEffect(() => end, [end]);
  const [first] = readings;
  const close = readings.filter((r) => r === first || r.chance >= CLOSE * first!.chance);
  if (!first) return null;
  if (close.length < 2)
    return (
      <p className="text-[11.5px] text-soft" data-testid="heard-as">
        Heard as {Math.round(first.bpm)} a minute in bars of {first.metre}; {Math.round(100 * first.chance)} % of what was heard agrees.
      </p>
    );
  const hear = (reading: Reading): void => {
    if (previewed === reading) {
      player.pause();
      return;
    }
    if (!previewed) clicksBefore.current = player.state.clicks;
    player.setClicks(true);
    preview(reading);
    if (!player.state.playing) void player.play();
  };
  return (
    <section aria-label="Ways to count the song" className="rounded-md border border-gold/60 bg-paper p-2">
      <p className="text-[12px]">
        {close.length === 2 ? 'Two ways' : 'Three ways'} to count this song are close. Hear the clicks, then choose.
      </p>
      <ul className="mt-1.5 space-y-1">
        {close.map((reading, i) => {
          const { title, more } = nameOf(reading, first);
          const on = inUse(montage, reading);
          const heard = previewed === reading;
          return (
            <li key={i} className="flex items-center gap-1.5">
              <Button
                on={heard}
                tight
                aria-label={heard ? `Stop the clicks of ${title}` : `Hear the clicks of ${title}`}
                hint={heard ? 'Stop' : 'Plays with its beats as clicks'}
                onClick={() => hear(reading)}
              >
                {heard ? <Pause size={14} /> : <Headphones size={14} />}
              </Button>
              <button
                type="button"
                aria-pressed={on}
                onClick={() => take(reading)}
                className={
                  'flex h-8 grow items-center justify-between gap-2 rounded-md border px-2 text-left text-[12.5px] ' +
                  (on ? 'border-spruce bg-spruce/10' : 'border-edge bg-paper hover:bg-cloth-2')
                }
              >
                <span>
                  <b className="font-semibold">{title}</b> <span className="text-[11px] text-soft">{more}</span>
                </span>
                <span className="figures text-[11px] whitespace-nowrap text-soft" title="How much of what was heard speaks for it">
                  {on ? 'in use' : `${Math.round(100 * reading.chance)} %`}
                </span>
              </button>
            </li>
          );
        })}
      </ul>
    </section>
  );
}
