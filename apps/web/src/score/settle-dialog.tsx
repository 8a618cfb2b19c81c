import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useRef, useState } from 'react';
import { toast } from 'sonner';
import {
  SETTLE_DEFAULTS,
  clipLength,
  frameAt,
  frameTime,
  marksInUse,
  scoreOf,
  stretchesOf,
  toMontageTime,
  type Montage,
  type RunStretch,
  type SettleOptions,
  type SettlePlan,
  type SettledCut,
} from '@bluster/core';
import { Button } from '../interface/button.tsx';
import { Choice } from '../interface/choice.tsx';
import { Dialog } from '../interface/dialog.tsx';
import { player } from '../playback/player.ts';
import { montageNow, useEditor, useMontage } from '../project/editor.ts';
import { settlePlan } from './planning.ts';

const clip = (text: string): string => text.replace(/\.\w+$/, '');

/** A cut that was there before the music: laid out over the song as it is, then settled on its marks. */
export function SettleDialog({ open, onClose }: { open: boolean; onClose: () => void }): React.JSX.Element {
  return (
    <Dialog open={open} onClose={onClose} title="A cut that is there already" wide>
      {open && <Steps onClose={onClose} />}
    </Dialog>
  );
}

function Steps({ onClose }: { onClose: () => void }): React.JSX.Element {
  const montage = useMontage();
  const free = scoreOf(montage).pegs.filter((p) => p.peg && !p.mark).length;
  return (
    <div className="space-y-4 text-[12.5px]">
      <LayOut montage={montage} />
      {free > 0 ? (
        <Settle montage={montage} free={free} onDone={onClose} />
      ) : (
        <p className="text-soft">Every cut of the score lies on a mark; there is nothing to settle yet.</p>
      )}
    </div>
  );
}

/** What can be laid out: one film taken apart, or the whole story as it is. */
function LayOut({ montage }: { montage: Montage }): React.JSX.Element {
  const films = montage.footage.filter((f) => f.kind === 'clip' && f.selects.length > 1);
  const [what, setWhat] = useState(films[0]?.assetId ?? 'story');
  const [at, setAt] = useState<'start' | 'playhead'>('start');
  const run = montage.footage
    .filter((f) => what === 'story' || f.assetId === what)
    .flatMap((f): RunStretch[] =>
      stretchesOf(f).map((s) => ({ assetId: f.assetId, in: s.in, out: f.kind === 'photo' ? 2 : Math.min(s.out, clipLength(f)) })),
    );
  const seconds = run.reduce((sum, r) => sum + r.out - r.in, 0);
  const from = at === 'start' ? 0 : frameAt(player.time(), montage.shape.rate);
  const room = frameTime(scoreOf(montage).frames - from, montage.shape.rate);
  const lay = (): void => {
    if (!useEditor.getState().run({ do: 'layRun', run, at: from })) return;
    const hung = montageNow().shots.length;
    toast(`The cut lies over the song: ${hung} shots on free pegs.`);
  };
  return (
    <section className="space-y-2" aria-label="Lay out">
      <div className="flex items-center gap-2">
        <select
          aria-label="What to lay out"
          value={what}
          onChange={(e) => setWhat(e.target.value)}
          className="min-w-0 flex-1 rounded border border-edge bg-paper px-1.5 py-1"
        >
          {films.map((f) => (
            <option key={f.assetId} value={f.assetId}>
              {clip(f.name)}, taken apart into {f.selects.length}
            </option>
          ))}
          <option value="story">all footage in story order</option>
        </select>
        <Choice
          narrow
          label="From where"
          value={at}
          options={[
            ['start', 'from the start'],
            ['playhead', 'from the playhead'],
          ]}
          onChoose={setAt}
        />
        <Button onClick={lay} disabled={run.length === 0}>
          Lay it out
        </Button>
      </div>
      <p className="text-[11.5px] text-soft">
        {run.length} shots, {seconds.toFixed(1)} s, one after the other and as long as they are; {room.toFixed(1)} s of song from there.
        {seconds > room + 0.05 && ' What goes beyond the end is left out.'}{' '}
        {films.length === 0 && 'A finished film is taken apart at its picture changes in Footage.'}
      </p>
    </section>
  );
}

type Found = { readonly montage: Montage; readonly options: SettleOptions } & (
  { readonly plan: SettlePlan } | { readonly problem: string }
);

function Settle({ montage, free, onDone }: { montage: Montage; free: number; onDone: () => void }): React.JSX.Element {
  const [options, setOptions] = useState<SettleOptions>(SETTLE_DEFAULTS);
  const [found, setFound] = useState<Found | null>(null);
  // A plan holds only for what it was made of; until the new one is there, the old one is still to be seen.
  const current = found?.montage === montage && found.options === options;
  const set = (to: Partial<SettleOptions>): void => setOptions({ ...options, ...to });
  useEffect(() => {
    let wanted = true;
    settlePlan(montage, options)
      .then((plan) => wanted && setFound({ montage, options, plan }))
      .catch((problem: Error) => wanted && setFound({ montage, options, problem: problem.message }));
    return () => {
      wanted = false;
    };
  }, [montage, options]);
  const take = (): void => {
    if (found && 'plan' in found && useEditor.getState().run({ do: 'takeSettle', plan: found.plan, options })) onDone();
  };
  return (
    <section className="space-y-2 border-t border-edge pt-3" aria-label="Settle">
      <p>
        <b className="figures">{free}</b> cuts lie on no mark. Settle them by
      </p>
      <div className="flex flex-wrap items-center gap-2">
        <Choice
          narrow
          label="How"
          value={options.way}
          options={[
            ['roll', 'rolling'],
            ['ripple', 'rippling'],
            ['retime', 'retiming'],
          ]}
          onChoose={(way) => set({ way })}
        />
        <Choice
          narrow
          label="Onto"
          value={options.onto}
          options={[
            ['bars', 'bars'],
            ['beats', 'beats'],
            ['any', 'any mark'],
          ]}
          onChoose={(onto) => set({ onto })}
        />
        {options.way === 'retime' && (
          <Choice
            narrow
            label="Speed goes over"
            value={options.ease}
            options={[
              ['hard', 'hard'],
              ['eased', 'eased'],
            ]}
            onChoose={(ease) => set({ ease })}
          />
        )}
        <Field label="shots of at least" unit="s" value={options.leastShot} step={0.1} onChange={(leastShot) => set({ leastShot })} />
        <Field
          label="speed"
          unit="%"
          value={Math.round(options.slowest * 100)}
          step={5}
          onChange={(v) => set({ slowest: Math.max(0.1, v / 100) })}
        />
        <Field
          label="to"
          unit="%"
          value={Math.round(options.fastest * 100)}
          step={10}
          onChange={(v) => set({ fastest: Math.max(1, v / 100) })}
        />
      </div>
      <p className="text-[11.5px] text-soft">
        {options.way === 'roll' && 'Pictures stay in their time, the length stays; a shot without handles is slowed a little.'}
        {options.way === 'ripple' && 'Each shot is trimmed to a mark, from left to right, and the rest follows.'}
        {options.way === 'retime' && 'Nothing is lost: each shot is run faster or slower until its cut lies on a mark.'}
      </p>
      {found && 'problem' in found && (
        <p role="alert" className="text-gold-text">
          {found.problem}
        </p>
      )}
      {found && 'plan' in found && <Moves plan={found.plan} montage={montage} options={options} onChange={(choices) => set({ choices })} />}
      <div className="flex justify-end gap-2">
        <Button look="quiet" onClick={onDone}>
          Leave them
        </Button>
        <Button look="main" disabled={!current || 'problem' in found} onClick={take}>
          Settle {found && 'plan' in found ? `${found.plan.settled} cuts` : ''}
        </Button>
      </div>
    </section>
  );
}

function Field({
  label,
  unit,
  value,
  step,
  onChange,
}: {
  label: string;
  unit: string;
  value: number;
  step: number;
  onChange: (value: number) => void;
}): React.JSX.Element {
  return (
    <label className="flex items-center gap-1 text-soft">
      {label}
      <input
        type="number"
        min={0}
        step={step}
        value={value}
        onChange={(e) => Number.isFinite(e.target.valueAsNumber) && onChange(e.target.valueAsNumber)}
        className="figures w-14 rounded border border-edge bg-paper px-1 py-0.5 text-ink"
      />
      {unit}
    </label>
  );
}

const ROW_HEIGHT = 26;

/** Room for the rows that are not in sight. */
function OutOfSight({ height }: { height: number }): React.JSX.Element | null {
  return height > 0 ? <tr aria-hidden style={{ height }} /> : null;
}

/** Before and after, cut by cut; each can be given another mark or left where it is. */
function Moves({
  plan,
  montage,
  options,
  onChange,
}: {
  plan: SettlePlan;
  montage: Montage;
  options: SettleOptions;
  onChange: (choices: SettleOptions['choices']) => void;
}): React.JSX.Element {
  const { rate } = montage.shape;
  const pieces = montage.song?.pieces ?? [];
  const scroller = useRef<HTMLDivElement>(null);
  const rows = useVirtualizer({
    count: plan.cuts.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW_HEIGHT,
    overscan: 8,
  });
  const shown = rows.getVirtualItems();
  const names = new Map(scoreOf(montage).slots.map((s) => [s.start.id, s.placed ? clip(s.placed.item.name) : 'empty']));
  const marks = marksInUse(montage)
    .filter((m) => m.kind !== 'accent' || options.onto === 'any')
    .flatMap((mark) => {
      const at = toMontageTime(pieces, mark.time);
      return at === null ? [] : [{ mark, frame: frameAt(at, rate) }];
    });
  const marksNear = (cut: SettledCut): typeof marks =>
    marks.filter((m) => Math.abs(m.frame - cut.toFrame) < 90 || m.mark.id === cut.markId);
  return (
    <div
      ref={scroller}
      className="max-h-[30vh] overflow-y-auto rounded border border-edge"
      tabIndex={0}
      role="region"
      aria-label="Cuts before and after"
      data-testid="settle-moves"
    >
      <table className="figures w-full text-[11.5px]">
        <thead className="sticky top-0 bg-paper text-left text-soft">
          <tr>
            <th className="pl-2 font-normal">shot</th>
            <th className="font-normal">before</th>
            <th className="font-normal">after</th>
            <th className="font-normal">moved</th>
            <th className="font-normal">speed</th>
            <th className="font-normal">mark</th>
          </tr>
        </thead>
        <tbody>
          <OutOfSight height={shown[0]?.start ?? 0} />
          {shown.map(({ index }) => {
            const cut = plan.cuts[index]!;
            return (
              <tr key={cut.pegId} data-testid="settled-cut" style={{ height: ROW_HEIGHT }}>
                <td className="max-w-[130px] truncate pl-2">{names.get(cut.pegId) ?? ''}</td>
                <td>{cut.fromFrame}</td>
                <td>{cut.toFrame}</td>
                <td className={cut.markId === null ? 'text-gold-text' : ''}>
                  {cut.toFrame === cut.fromFrame
                    ? '0'
                    : `${cut.toFrame > cut.fromFrame ? '+' : '−'}${Math.abs(cut.toFrame - cut.fromFrame)}`}
                </td>
                <td>{Math.abs(cut.speed - 1) < 5e-3 ? '' : `${Math.round(cut.speed * 100)} %`}</td>
                <td>
                  <select
                    aria-label={`Mark of the cut at frame ${cut.fromFrame}`}
                    value={cut.markId ?? ''}
                    onChange={(e) => onChange({ ...options.choices, [cut.pegId]: e.target.value === '' ? null : e.target.value })}
                    className="rounded border border-edge bg-paper"
                  >
                    <option value="">stays free</option>
                    {marksNear(cut).map((m) => (
                      <option key={m.mark.id} value={m.mark.id}>
                        {m.mark.kind} {frameTime(m.frame, rate).toFixed(2)}
                      </option>
                    ))}
                  </select>
                </td>
              </tr>
            );
          })}
          <OutOfSight height={rows.getTotalSize() - (shown.at(-1)?.end ?? 0)} />
        </tbody>
      </table>
      <p className="border-t border-edge px-2 py-1 text-[11.5px] text-soft">
        {plan.settled} of {plan.cuts.length} on marks; {plan.movedFrames} frames of movement in all, {plan.worstFrames} at the most.
      </p>
    </div>
  );
}
