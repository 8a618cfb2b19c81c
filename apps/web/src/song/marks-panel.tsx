import { Slider } from 'radix-ui';
import { accentFloorOf, BANDS, doubtfulMarks, marksInUse, pulse, type Band } from '@bluster/core';
import { useEffect, useState } from 'react';
import { Button } from '../interface/button.tsx';
import { useEditor, useMontage } from '../document/editor.ts';
import { goToDoubtful } from '../marking/repairs.ts';

/** How many marks there are of each kind, and how far accents are thinned. */
export function MarksPanel(): React.JSX.Element {
  const montage = useMontage();
  const inUse = marksInUse(montage);
  const count = (kind: string): number => inUse.filter((m) => m.kind === kind).length;
  const doubtful = doubtfulMarks(montage).filter((d) => d.first).length;
  const accents = montage.marks.filter((m) => m.kind === 'accent');
  const left = (band: Band): number => inUse.filter((m) => m.kind === 'accent' && (m.band ?? 'mid') === band).length;
  return (
    <section aria-label="Marks">
      <b className="font-semibold">Marks</b>
      <dl className="mt-1 grid grid-cols-[1fr_auto] items-center gap-y-0.5 text-soft [&>dd]:figures [&>dd]:text-right [&>dd]:font-semibold [&>dd]:text-ink">
        <dt>bars</dt>
        <dd data-testid="bar-count">{count('bar')}</dd>
        <dt>beats</dt>
        <dd data-testid="beat-count">{pulse(montage).length}</dd>
        <dt className="text-coral-text">drops</dt>
        <dd data-testid="drop-count">{count('drop')}</dd>
        {count('cue') > 0 && (
          <>
            <dt>cues</dt>
            <dd data-testid="cue-count">{count('cue')}</dd>
          </>
        )}
        <dt className={doubtful > 0 ? 'text-gold-text' : ''}>doubtful</dt>
        <dd data-testid="doubtful-count">
          {doubtful > 0 ? (
            <Button
              look="quiet"
              tight
              className="h-5! text-gold-text"
              onClick={() => goToDoubtful(1)}
              hint="To the next doubtful beat"
              hotkey="N"
            >
              {doubtful} →
            </Button>
          ) : (
            0
          )}
        </dd>
      </dl>
      {accents.length > 0 && (
        <fieldset className="mt-1.5">
          <legend className="flex w-full justify-between text-soft">
            accents{' '}
            <span className="figures font-semibold text-ink" data-testid="accent-count">
              {count('accent')}
            </span>
          </legend>
          {BANDS.map((band) => (
            <BandSlider key={band} band={band} left={left(band)} all={accents.filter((a) => (a.band ?? 'mid') === band).length} />
          ))}
        </fieldset>
      )}
    </section>
  );
}

/** Thins the accents of one band while it is moved, and says how many are left. */
function BandSlider({ band, left, all }: { band: Band; left: number; all: number }): React.JSX.Element | null {
  const montage = useMontage();
  const floor = accentFloorOf(montage);
  const [before, setBefore] = useState<number | null>(null);
  // One drag is one step to undo, however many places it went through.
  useEffect(() => {
    if (before === null) return;
    const end = (): void => setBefore(null);
    addEventListener('pointerup', end);
    return () => removeEventListener('pointerup', end);
  }, [before]);
  if (all === 0) return null;
  const set = (value: number): void => {
    const { run, amend } = useEditor.getState();
    const next = { ...floor, [band]: value };
    if (before === null) {
      run({ do: 'setAccentFloor', floor: next });
      setBefore(floor[band]);
    } else amend((now) => (now.song ? { ...now, song: { ...now.song, accentFloor: next } } : now));
  };
  return (
    <div className="grid grid-cols-[38px_1fr_80px] items-center gap-2 text-[12px] text-soft">
      {band}
      <Slider.Root
        className="relative flex h-4 touch-none items-center"
        min={0}
        max={1.01}
        step={0.01}
        value={[floor[band]]}
        onValueChange={([value]) => set(value!)}
        aria-label={`Strength from which ${band} accents count`}
      >
        <Slider.Track className="h-1 grow rounded bg-edge">
          <Slider.Range className="absolute h-1 rounded bg-spruce/40" />
        </Slider.Track>
        <Slider.Thumb
          className="block size-3.5 rounded-full border border-spruce bg-paper"
          aria-label={`Strength from which ${band} accents count`}
        />
      </Slider.Root>
      <span className="figures text-right text-[11px] whitespace-nowrap" data-testid={`left-${band}`}>
        {left} of {all}
      </span>
    </div>
  );
}
