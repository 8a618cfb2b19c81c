import { Lock, LockOpen } from 'lucide-react';
import { useState } from 'react';
import { MARKS, MARK_KINDS, LONGEST_LABEL, clock, type Mark, type MarkKind } from '@bluster/core';
import { Button } from '../interface/button.tsx';
import { Choice } from '../interface/choice.tsx';
import { useEditor, useMontage } from '../document/editor.ts';
import { distanceOf, drawToOnsets, onsetNear, toggleLock } from '../marking/repairs.ts';

/** What can be done with the marks that are chosen. */
export function ChosenMarks(): React.JSX.Element | null {
  const montage = useMontage();
  const { markIds, range } = useEditor((state) => state.selection);
  const marks = montage.marks.filter((m) => markIds.includes(m.id));
  if (marks.length === 0 || range) return null;
  const { run } = useEditor.getState();
  const locked = marks.every((m) => m.locked);
  const [one, two] = marks;
  const between = marks.length === 2 ? distanceOf(montage, one!, two!) : null;
  const onset = marks.length === 1 ? onsetNear(montage, one!.time) : null;
  const kinds = MARK_KINDS.filter((kind) => !MARKS[kind].banded).map((kind) => [kind, MARKS[kind].title] as const);
  return (
    <section aria-label="Chosen marks" className="rounded-lg border border-spruce/40 bg-paper p-2.5" data-testid="chosen-mark">
      <p className="flex items-center justify-between">
        <span className="figures text-[12px]">{marks.length === 1 ? `${one!.kind} at ${clock(one!.time)}` : `${marks.length} marks`}</span>
        <span className="flex gap-1">
          <Button
            tight
            onClick={toggleLock}
            on={locked}
            hint={locked ? 'Unlock' : 'Lock: nothing moves or replaces it'}
            hotkey="Shift L"
            aria-label={locked ? 'Unlock' : 'Lock'}
          >
            {locked ? <Lock size={13} /> : <LockOpen size={13} />}
          </Button>
          <Button onClick={() => drawToOnsets(markIds)} disabled={locked} hint="Draws what is chosen to the nearest onset" hotkey="X">
            To onset
          </Button>
        </span>
      </p>
      {between && (
        <p className="figures mt-1.5 text-[11.5px]" data-testid="distance">
          {between.ms.toFixed(1)} ms · {between.frames.toFixed(2)} frames · {between.beats.toFixed(2)} beats apart
        </p>
      )}
      {marks.length === 1 && one!.kind !== 'accent' && (
        <>
          <p className="figures mt-1 text-[11px] text-soft" data-testid="onset-distance">
            {onset ? `onset (${onset.band ?? 'mid'}) ${describe(onset.time - one!.time, montage.shape.rate)}` : 'no onset near it'}
          </p>
          <p className="mt-1.5">
            <Choice<MarkKind>
              label="Kind of the chosen mark"
              value={one!.kind}
              options={kinds}
              onChoose={(kind) => run({ do: 'setMarkKind', id: one!.id, kind })}
            />
          </p>
          {one!.kind === 'cue' && <CueLabel key={one!.id} cue={one!} />}
        </>
      )}
      {marks.length === 1 && one!.kind === 'accent' && (
        <p className="figures mt-1 text-[11px] text-soft">
          {one!.band} band · strength {(one!.strength ?? 1).toFixed(2)}
        </p>
      )}
    </section>
  );
}

function describe(seconds: number, { num, den }: { num: number; den: number }): string {
  const ms = Math.round(Math.abs(seconds) * 1000);
  return ms === 0
    ? 'right on it'
    : `${ms} ms (${((Math.abs(seconds) * num) / den).toFixed(2)} frames) ${seconds > 0 ? 'later' : 'earlier'}`;
}

function CueLabel({ cue }: { cue: Mark }): React.JSX.Element {
  const [text, setText] = useState(cue.label ?? '');
  const keep = (): void => {
    if (text.trim() !== (cue.label ?? '')) useEditor.getState().run({ do: 'setLabel', id: cue.id, label: text });
  };
  return (
    <form
      className="mt-1.5"
      onSubmit={(event) => {
        event.preventDefault();
        keep();
      }}
    >
      <input
        value={text}
        onChange={(e) => setText(e.target.value)}
        onBlur={keep}
        placeholder="its word, or what happens"
        aria-label="Word of the cue"
        maxLength={LONGEST_LABEL}
        className="w-full rounded border border-edge bg-cloth px-1.5 py-1 text-[12px]"
      />
    </form>
  );
}
