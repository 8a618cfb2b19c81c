import { ChevronDown, Ellipsis } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import { OFFERED_RULES, clock, ruleLabel, sectionStretches, type PegRule } from '@bluster/core';
import { Choice } from '../../interface/choice.tsx';
import { Button } from '../../interface/button.tsx';
import { Menu, MenuItem } from '../../interface/menu.tsx';
import { NumberField } from '../../interface/number-field.tsx';
import { BarsChoice } from '../../lines/bars-choice.tsx';
import { useEditor, useMontage } from '../../document/editor.ts';
import { FillButton } from '../fill/fill-button.tsx';
import { hangByRule, ruleHere } from './hang-by-rule.ts';
import { PaceEditor } from './pace-editor.tsx';
import { PatternEditor } from './pattern-editor.tsx';

type AccentRule = Extract<PegRule, { kind: 'accents' }>;

/** So many of the ready-made rules stand in the bar, the others under "other". */
const IN_THE_BAR = 4;
const SHOWN: readonly PegRule[] = OFFERED_RULES.slice(0, IN_THE_BAR);
const FURTHER: readonly PegRule[] = OFFERED_RULES.slice(IN_THE_BAR);

const chip = (on: boolean): string =>
  `rounded-full border px-2 py-0.5 text-[12px] whitespace-nowrap ${on ? 'border-spruce bg-spruce text-on-spruce' : 'border-edge bg-paper hover:bg-cloth-2'}`;
const same = (a: PegRule | null, b: PegRule): boolean => JSON.stringify(a) === JSON.stringify(b);

/** Where pegs hang: for all of the song or for a section, by beats, bars, patterns or what the music does. */
export function PegsBar({ onSettle }: { onSettle: () => void }): React.JSX.Element {
  const montage = useMontage();
  const section = useEditor((state) => state.section);
  const rule = ruleHere(montage, section);
  return (
    <div className="flex min-h-[46px] shrink-0 flex-wrap items-center gap-1.5 py-1 pr-5 pl-4" role="toolbar" aria-label="Pegs and filling">
      <SectionChoice />
      {SHOWN.map((r) => (
        <button key={ruleLabel(r)} type="button" aria-pressed={same(rule, r)} onClick={() => hangByRule(r)} className={chip(same(rule, r))}>
          {ruleLabel(r)}
        </button>
      ))}
      <PatternChip rule={rule} />
      <MoreRules rule={rule} />
      <span className="ml-auto" />
      <BarsChoice />
      <Menu
        trigger={
          <Button look="quiet" tight aria-label="More for the score">
            <Ellipsis size={15} />
          </Button>
        }
      >
        <MenuItem onSelect={onSettle}>Lay out a cut that is there, and settle it…</MenuItem>
      </Menu>
      <FillButton />
    </div>
  );
}

function SectionChoice(): React.JSX.Element {
  const montage = useMontage();
  const section = useEditor((state) => state.section);
  const { setSection } = useEditor.getState();
  const sections = sectionStretches(montage).flatMap(({ id, ...s }) => (id === null ? [] : [{ id, ...s }]));
  return (
    <label className="flex items-center text-soft">
      <span className="sr-only">Pegs for</span>
      <select
        value={section ?? ''}
        onChange={(e) => setSection(e.target.value || null)}
        className="max-w-[124px] rounded border border-transparent bg-transparent py-0.5 hover:border-edge"
        title="What the rule, and Fill, are for"
      >
        <option value="">all of the song</option>
        {sections.map((s) => (
          <option key={s.id} value={s.id}>
            {s.name} {clock(s.from).slice(0, -4)}
            {montage.sectionRules.some((r) => r.section === s.id) ? ' *' : ''}
          </option>
        ))}
      </select>
    </label>
  );
}

function PatternChip({ rule }: { rule: PegRule | null }): React.JSX.Element {
  const on = rule?.kind === 'pattern';
  const dots = on ? ruleLabel(rule) : '● ○ ○ ● ○ ● ○ ○';
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <button type="button" aria-pressed={on} aria-label="Pattern" className={`${chip(on)} max-w-[120px] truncate tracking-tight`}>
          {dots.length > 15 ? `${dots.slice(0, 13)}…` : dots}
        </button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content sideOffset={6} className="z-50 rounded-xl border border-edge bg-paper p-4 shadow-xl">
          <PatternEditor rule={on ? rule : null} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function MoreRules({ rule }: { rule: PegRule | null }): React.JSX.Element {
  const section = useEditor((state) => state.section);
  const [open, setOpen] = useState(false);
  const [accents, setAccents] = useState<AccentRule>(rule?.kind === 'accents' ? rule : { kind: 'accents', band: 'low', least: 0.6 });
  const [frames, setFrames] = useState(rule?.kind === 'even' ? rule.frames : 48);
  const shown = rule !== null && !SHOWN.some((r) => same(rule, r)) && rule.kind !== 'pattern';
  const count = useMontage().marks.filter(
    (m) => m.kind === 'accent' && (m.band ?? 'mid') === accents.band && (m.strength ?? 1) >= accents.least,
  ).length;
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger asChild>
        <button type="button" aria-pressed={shown} aria-label="Other rules" className={`${chip(shown)} inline-flex items-center gap-1`}>
          {shown ? ruleLabel(rule) : 'other'} <ChevronDown size={12} />
        </button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={6}
          className="z-50 w-[348px] space-y-3 rounded-xl border border-edge bg-paper p-4 shadow-xl"
        >
          <div className="flex flex-wrap gap-1.5">
            {FURTHER.map((r) => (
              <button
                key={ruleLabel(r)}
                type="button"
                aria-pressed={same(rule, r)}
                onClick={() => hangByRule(r)}
                className={chip(same(rule, r))}
              >
                {ruleLabel(r)}
              </button>
            ))}
          </div>
          <PaceEditor rule={rule} />
          <fieldset className="space-y-1.5 border-t border-edge pt-2.5">
            <legend className="sr-only">Accents</legend>
            <div className="flex items-center justify-between">
              <Choice
                narrow
                label="Band of the accents"
                value={accents.band}
                options={[
                  ['low', 'low'],
                  ['mid', 'mid'],
                  ['high', 'high'],
                  ['voice', 'voice'],
                ]}
                onChoose={(band) => setAccents({ ...accents, band })}
              />
              <Button onClick={() => hangByRule(accents)}>
                Hang on <b className="figures">{count}</b> {count === 1 ? 'accent' : 'accents'}
              </Button>
            </div>
            <label className="flex items-center gap-2 text-soft">
              from strength
              <input
                type="range"
                min={0}
                max={1}
                step={0.05}
                value={accents.least}
                onChange={(e) => setAccents({ ...accents, least: Number(e.target.value) })}
                className="flex-1 accent-spruce"
              />
              <span className="figures w-9 text-right text-ink">{Math.round(accents.least * 100)} %</span>
            </label>
          </fieldset>
          <div className="flex items-center justify-between border-t border-edge pt-2.5 text-soft">
            <label className="flex items-center gap-2">
              even, every
              <NumberField value={frames} from={2} to={10000} onChange={setFrames} />
              frames
            </label>
            <Button onClick={() => hangByRule({ kind: 'even', frames })}>Hang evenly</Button>
          </div>
          <div className="flex justify-between border-t border-edge pt-2.5">
            <Button onClick={() => hangByRule({ kind: 'none' })} hint="Those hung by hand stay">
              No pegs by rule
            </Button>
            {section !== null && (
              <Button onClick={() => hangByRule(null)} hint="The section follows the rule for all of the song again">
                As all of the song
              </Button>
            )}
          </div>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
