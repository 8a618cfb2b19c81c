import { ChevronDown } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useEffect, useState } from 'react';
import { useParams } from 'react-router';
import { toast } from 'sonner';
import { create } from 'zustand';
import {
  FILL_DEFAULTS,
  frameTime,
  scoreOf,
  sectionStretches,
  toMontageTime,
  type FillCounts,
  type FillOptions,
  type FillPlan,
  type Montage,
} from '@bluster/core';
import { useAssets } from '../api/use-project.ts';
import { bestHits } from '../footage/best-hits.ts';
import { Button } from '../interface/button.tsx';
import { Choice } from '../interface/choice.tsx';
import { montageNow, useEditor, useMontage } from '../project/editor.ts';
import { fillPlan } from './planning.ts';

type Which = 'all' | 'section' | 'chosen' | 'empty';

interface FillSettings {
  readonly options: FillOptions;
  readonly which: Which;
  set: (to: Partial<FillOptions>) => void;
  setWhich: (which: Which) => void;
}

/** How slots are filled; kept while the page is open. */
const useFillSettings = create<FillSettings>((set, get) => ({
  options: FILL_DEFAULTS,
  which: 'all',
  set: (to) => set({ options: { ...get().options, ...to } }),
  setWhich: (which) => set({ which }),
}));

/** First pegs of the slots that start in a section. */
function slotsOfSection(montage: Montage, from: number): string[] {
  const section = sectionStretches(montage).find((s) => Math.abs(s.from - from) < 0.05);
  const { pieces } = montage.song!;
  const [a, b] = [toMontageTime(pieces, section?.from ?? 0) ?? 0, toMontageTime(pieces, (section?.to ?? 0) - 1e-3) ?? Infinity];
  return scoreOf(montage).slots.flatMap((s) => {
    const at = frameTime(s.start.frame, montage.shape.rate);
    return at >= a - 0.05 && at < b ? [s.start.id] : [];
  });
}

/** The options with the slots that are meant. */
function meant({ options, which }: FillSettings): FillOptions {
  const { selection, section, picked } = useEditor.getState();
  const montage = montageNow();
  const chosen = selection.slotStart ? [selection.slotStart, ...selection.moreSlots] : [];
  const base = { ...options, picked };
  if (which === 'empty') return { ...base, scope: 'empty' };
  if (which === 'chosen') return { ...base, scope: 'chosen', slots: chosen };
  if (which === 'section' && section !== null) return { ...base, scope: 'chosen', slots: slotsOfSection(montage, section) };
  return { ...base, scope: 'all' };
}

/** What filling does, in numbers. */
function inNumbers(
  { slots, filled, slowed, beyond, held, gaps, missing, divided, repeated, hits, locked }: FillCounts,
  left: number,
): string[] {
  const parts = [`${filled} of ${slots} ${slots === 1 ? 'slot' : 'slots'} filled`];
  if (hits > 0) parts.push(`${hits} hits on marks`);
  if (slowed > 0) parts.push(`${slowed} slowed to fit`);
  if (beyond > 0) parts.push(`${beyond} beyond their select`);
  if (held > 0) parts.push(`${held} hold their last frame`);
  if (divided > 0) parts.push(`${divided} slots divided`);
  if (gaps > 0) parts.push(`${gaps} too short, ${missing.toFixed(2)} s missing`);
  if (repeated > 0) parts.push(`${repeated} times a clip comes again`);
  if (locked > 0) parts.push(`${locked} locked`);
  if (left > 0) parts.push(`${left} ${left === 1 ? 'clip' : 'clips'} left over`);
  return parts;
}

/** Hangs shots in many slots at once, by the options under the arrow. */
export function FillButton(): React.JSX.Element {
  const { projectId = '' } = useParams();
  const { assets } = useAssets(projectId);
  const [working, setWorking] = useState(false);
  const fill = async (): Promise<void> => {
    setWorking(true);
    try {
      const plan = await fillPlan(montageNow(), meant(useFillSettings.getState()), assets);
      if (useEditor.getState().run({ do: 'takeFill', plan }))
        toast(inNumbers(plan.counts, plan.leftovers.length).join(' · '), { id: 'fill' });
    } catch (problem) {
      toast.error((problem as Error).message);
    } finally {
      setWorking(false);
    }
  };
  return (
    <span className="flex">
      <Button
        look="main"
        className="rounded-r-none"
        disabled={working}
        onClick={() => void fill()}
        hint="Hang the footage in the slots, as set under the arrow"
      >
        {working ? 'Filling' : 'Fill slots'}
      </Button>
      <Popover.Root>
        <Popover.Trigger asChild>
          <button
            type="button"
            aria-label="How slots are filled"
            className="rounded-r-md border-l border-cloth/40 bg-spruce px-1.5 text-on-spruce"
          >
            <ChevronDown size={14} />
          </button>
        </Popover.Trigger>
        <Popover.Portal>
          <Popover.Content
            align="end"
            sideOffset={6}
            className="z-50 w-[452px] space-y-2.5 rounded-xl border border-edge bg-paper p-4 shadow-xl"
          >
            <Options />
            <Preview />
            <div className="flex justify-end">
              <Popover.Close asChild>
                <Button look="main" disabled={working} onClick={() => void fill()}>
                  Fill so
                </Button>
              </Popover.Close>
            </div>
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
    </span>
  );
}

function Options(): React.JSX.Element {
  const settings = useFillSettings();
  const { options, which, set, setWhich } = settings;
  const { picked, section } = useEditor.getState();
  return (
    <>
      <Option label="Slots">
        <Choice
          narrow
          label="Which slots"
          value={which}
          options={[
            ['all', 'all anew'],
            ...(section === null ? [] : [['section', 'this section'] as const]),
            ['chosen', 'chosen'],
            ['empty', 'only empty'],
          ]}
          onChoose={setWhich}
        />
      </Option>
      <Option label="Order">
        <Choice
          narrow
          label="Order"
          value={options.order}
          options={[
            ['story', 'story'],
            ['picked', `picked (${picked.length})`],
            ['shuffle', 'shuffled'],
            ['match', 'best match'],
          ]}
          onChoose={(order) => set({ order })}
        />
      </Option>
      {options.order === 'shuffle' && (
        <Option label="Seed">
          <span className="flex items-center gap-1.5">
            <NumberField label="Seed" value={options.seed} from={1} to={99999} onChange={(seed) => set({ seed })} />
            <Button tight onClick={() => set({ seed: options.seed + 1 })}>
              another
            </Button>
          </span>
        </Option>
      )}
      <Option label="From where in the clip">
        <Choice
          narrow
          label="From where"
          value={options.from}
          options={[
            ['in', 'its in'],
            ['out', 'up to its out'],
            ['hit-first', 'hit on the cut'],
            ['hit-mark', 'hit on a mark'],
          ]}
          onChoose={(from) => set({ from })}
        />
      </Option>
      {options.from.startsWith('hit') || options.order === 'match' ? <MissingHits /> : null}
      <Option label="Slow down at most to">
        <Choice
          narrow
          label="Least speed"
          value={String(options.leastSpeed)}
          options={[
            ['0.25', '25 %'],
            ['0.5', '50 %'],
            ['0.75', '75 %'],
            ['1', 'not at all'],
          ]}
          onChoose={(v) => set({ leastSpeed: Number(v) })}
        />
      </Option>
      <Option label="Then reach beyond the select">
        <Choice
          narrow
          label="Beyond the select"
          value={options.handles ? 'yes' : 'no'}
          options={[
            ['yes', 'yes'],
            ['no', 'no'],
          ]}
          onChoose={(v) => set({ handles: v === 'yes' })}
        />
      </Option>
      <Option label="Still too short">
        <Choice
          narrow
          label="Too short"
          value={options.tooShort}
          options={[
            ['gap', 'gap'],
            ['hold', 'hold'],
            ['divide', 'share with the next'],
            ['next', 'pass over'],
          ]}
          onChoose={(tooShort) => set({ tooShort })}
        />
      </Option>
      <Option label="When all were used">
        <Choice
          narrow
          label="When all were used"
          value={options.whenOut}
          options={[
            ['again', 'go round again'],
            ['stop', 'stop'],
          ]}
          onChoose={(whenOut) => set({ whenOut })}
        />
      </Option>
      <Option label="The same clip not within">
        <span className="flex items-center gap-1.5 text-soft">
          <NumberField label="Slots between" value={options.apart} from={1} to={50} onChange={(apart) => set({ apart })} /> slots
        </span>
      </Option>
    </>
  );
}

/** Clips without a hit of their own, and the one-step way to take the proposed ones. */
function MissingHits(): React.JSX.Element | null {
  const { projectId = '' } = useParams();
  const { assets } = useAssets(projectId);
  const hits = bestHits(useMontage().footage, assets);
  if (hits.length === 0) return null;
  return (
    <div className="flex items-center justify-between rounded bg-cloth-2 px-2 py-1 text-[11.5px]">
      {hits.length} selects have no hit yet.
      <Button tight onClick={() => useEditor.getState().run({ do: 'takeHits', hits })}>
        Take the proposed ones
      </Button>
    </div>
  );
}

/** What would happen, before it does. */
function Preview(): React.JSX.Element {
  const { projectId = '' } = useParams();
  const { assets } = useAssets(projectId);
  const montage = useMontage();
  const settings = useFillSettings();
  const section = useEditor((state) => state.section);
  const selection = useEditor((state) => state.selection);
  const [answer, setAnswer] = useState<({ plan: FillPlan } | { problem: string }) & { asked: string }>();
  const asked = JSON.stringify([settings.options, settings.which, section, selection.slotStart, selection.moreSlots]);
  useEffect(() => {
    let current = true;
    fillPlan(montage, meant(useFillSettings.getState()), assets)
      .then((plan) => current && setAnswer({ asked, plan }))
      .catch((problem: Error) => current && setAnswer({ asked, problem: problem.message }));
    return () => {
      current = false;
    };
  }, [asked, montage, assets]);
  const names = new Map(montage.footage.map((f) => [f.assetId, f.name]));
  // What was found for other options says nothing about these.
  const found = answer?.asked === asked ? answer : null;
  return (
    <div className="min-h-[52px] rounded-md border border-edge bg-cloth p-2 text-[12px]" data-testid="fill-preview" aria-live="polite">
      {!found && <span className="text-soft">Working it out</span>}
      {found && 'problem' in found && <span className="text-gold-text">{found.problem}</span>}
      {found && 'plan' in found && (
        <>
          <p>{inNumbers(found.plan.counts, found.plan.leftovers.length).join(' · ')}</p>
          {found.plan.leftovers.length > 0 && (
            <p className="mt-0.5 truncate text-[11px] text-soft" title="Left over">
              left over: {[...new Set(found.plan.leftovers.map((l) => names.get(l.assetId)?.replace(/\.\w+$/, '')))].join(', ')}
            </p>
          )}
        </>
      )}
    </div>
  );
}

function NumberField({
  label,
  value,
  from,
  to,
  onChange,
}: {
  label: string;
  value: number;
  from: number;
  to: number;
  onChange: (value: number) => void;
}): React.JSX.Element {
  return (
    <input
      type="number"
      aria-label={label}
      min={from}
      max={to}
      value={value}
      onChange={(e) => onChange(Math.max(from, Math.min(to, Math.round(Number(e.target.value)) || from)))}
      className="figures w-16 rounded border border-edge bg-paper px-1 py-0.5 text-ink"
    />
  );
}

function Option({ label, children }: { label: string; children: React.ReactNode }): React.JSX.Element {
  return (
    <div className="flex items-center justify-between gap-2">
      <span className="text-[12px] text-soft">{label}</span>
      {children}
    </div>
  );
}
