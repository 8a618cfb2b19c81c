import { Check } from 'lucide-react';
import { MARKS } from '@bluster/core';
import { useMontage } from '../document/editor.ts';
import { Button } from '../interface/button.tsx';
import { Key } from '../interface/key.tsx';
import { useTapSettings } from '../playback/tap-settings.ts';
import { howGood, inWords, LESSON, metOf, stepNow, useTapLesson, type LessonTap } from './tap-lesson.ts';

/** What the metre shows to either side, seconds, and how many of the last taps. */
const REACH_S = 0.12;
const SHOWN = 16;
/** A lateness that is worth taking off, seconds. */
const WORTH_S = 0.02;
/** Taps that scatter more have no lateness of their own, seconds. */
const STEADY_S = 0.05;

/** The keys of tapping, one after the other, with a metre of how good the taps are. Taps change no mark meanwhile. */
export function TapLessonPanel(): React.JSX.Element {
  const montage = useMontage();
  const { taps } = useTapLesson();
  const at = stepNow(taps);
  const good = howGood(montage, taps);
  const unmarked = montage.marks.length === 0;
  return (
    <section
      className="mt-2 rounded-lg border border-spruce/50 bg-paper p-2.5 text-[12px]"
      aria-label="The keys of tapping"
      data-testid="tap-lesson"
    >
      <p className="flex items-center justify-between font-semibold">
        The keys of tapping
        <Button look="quiet" tight className="h-6" onClick={() => useTapLesson.setState({ on: false, taps: [] })}>
          End
        </Button>
      </p>
      <ol className="mt-1 space-y-1">
        {LESSON.map((step, i) => (
          <li
            key={step.kind}
            className={`flex items-baseline gap-2 ${i === at ? '' : 'text-soft'}`}
            aria-current={i === at ? 'step' : undefined}
          >
            <Key>{MARKS[step.kind].key.toUpperCase()}</Key>
            <span className="min-w-0 flex-1">{i === at ? step.says : MARKS[step.kind].title}</span>
            {i < at ? (
              <Check size={13} className="self-center text-spruce" aria-label="done" />
            ) : (
              <span className="figures text-[11px]">
                {metOf(step, taps)} of {step.times}
              </span>
            )}
          </li>
        ))}
      </ol>
      <Metre taps={taps} lateness={good?.lateness ?? null} />
      <p role="status" className="text-soft">
        {at === LESSON.length && 'Those are all the keys. '}
        {unmarked
          ? 'Beats are needed to hold taps against: have them found first.'
          : good
            ? `${good.taps} taps, ${inWords(good.spread)}: half of them within ${Math.round(good.spread * 1000)} ms, ${Math.abs(Math.round(good.lateness * 1000))} ms ${good.lateness < 0 ? 'early' : 'late'} throughout.`
            : 'Nothing you tap here changes a mark.'}
      </p>
      {good && good.spread <= STEADY_S && Math.abs(good.lateness) >= WORTH_S && (
        <Button
          className="mt-1.5"
          onClick={() => {
            useTapSettings.setState((s) => ({ lateness: (s.lateness ?? 0) + good.lateness, spread: good.spread }));
            useTapLesson.setState({ taps: [] });
          }}
        >
          Take {Math.round(good.lateness * 1000)} ms off every tap
        </Button>
      )}
    </section>
  );
}

/** The last taps as strokes to the left (early) and right (late) of the mark that they meant. */
function Metre({ taps, lateness }: { taps: readonly LessonTap[]; lateness: number | null }): React.JSX.Element {
  const place = (off: number): number => 50 + 50 * Math.max(-1, Math.min(1, off / REACH_S));
  const measured = taps.filter((t) => t.off !== null).slice(-SHOWN);
  return (
    <svg
      viewBox="0 0 100 22"
      className="mt-2 h-8 w-full"
      preserveAspectRatio="none"
      role="img"
      aria-label="How far the taps lie from their marks"
    >
      <rect x="0" y="2" width="100" height="12" rx="1" className="fill-cloth-2" />
      <line x1="50" x2="50" y1="0" y2="16" className="stroke-ink" strokeWidth="0.6" />
      {measured.map((t, i) => (
        <line
          key={i}
          x1={place(t.off!)}
          x2={place(t.off!)}
          y1="3.5"
          y2="12.5"
          className="stroke-spruce"
          strokeWidth="1"
          opacity={0.25 + (0.75 * (i + 1)) / measured.length}
        />
      ))}
      {lateness !== null && (
        <polygon points={`${place(lateness) - 1.6},21 ${place(lateness) + 1.6},21 ${place(lateness)},15`} className="fill-coral" />
      )}
    </svg>
  );
}
