import { ChevronDown } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import { toast } from 'sonner';
import { FILL_DEFAULTS, scoreOf, type FillOptions } from '@bluster/core';
import { Button } from '../interface/button.tsx';
import { Choice } from '../interface/choice.tsx';
import { montageNow, useEditor } from '../project/editor.ts';

/** Says in numbers what filling did. */
function sayResult(): void {
  const { slots } = scoreOf(montageNow());
  const placed = slots.flatMap((s) => s.placed ?? []);
  const slowed = placed.filter((p) => p.speed < 0.999).length;
  const short = placed.filter((p) => p.missing > 0);
  const missing = short.reduce((sum, p) => sum + p.missing, 0);
  const parts = [`${placed.length} of ${slots.length} slots filled`];
  if (slowed > 0) parts.push(`${slowed} slowed to fit`);
  if (short.length > 0) parts.push(`${short.length} too short, ${missing.toFixed(2)} s missing`);
  toast(parts.join(' · '));
}

/** Hangs shots in many slots at once, by the options under the arrow. */
export function FillButton(): React.JSX.Element {
  const [options, setOptions] = useState<FillOptions>(FILL_DEFAULTS);
  const change = (to: Partial<FillOptions>): void => setOptions({ ...options, ...to });
  const fill = (): void => {
    if (useEditor.getState().run({ do: 'fill', options })) sayResult();
  };
  return (
    <span className="flex">
      <Button
        look="main"
        className="rounded-r-none"
        onClick={fill}
        hint="Hang the footage in the slots, in story order from each clip's in"
      >
        Fill slots
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
            className="z-50 w-[380px] space-y-3 rounded-xl border border-edge bg-paper p-4 shadow-xl"
          >
            <Option label="Which slots">
              <Choice
                label="Which slots"
                value={options.scope}
                options={[
                  ['all', 'all anew'],
                  ['empty', 'only empty ones'],
                ]}
                onChoose={(scope) => change({ scope })}
              />
            </Option>
            <Option label="Order">
              <Choice
                label="Order"
                value={options.order}
                options={[
                  ['story', 'story'],
                  ['shuffle', 'shuffled'],
                ]}
                onChoose={(order) => change({ order, seed: order === 'shuffle' ? options.seed + 1 : options.seed })}
              />
            </Option>
            <Option label="Slow down at most to">
              <Choice
                label="Least speed"
                value={String(options.leastSpeed)}
                options={[
                  ['0.25', '25 %'],
                  ['0.5', '50 %'],
                  ['0.75', '75 %'],
                  ['1', 'not at all'],
                ]}
                onChoose={(v) => change({ leastSpeed: Number(v) })}
              />
            </Option>
            <Option label="A clip too short even so">
              <Choice
                label="Too short"
                value={options.tooShort}
                options={[
                  ['gap', 'leaves a gap'],
                  ['next', 'is passed over'],
                ]}
                onChoose={(tooShort) => change({ tooShort })}
              />
            </Option>
            <Option label="When all were used">
              <Choice
                label="When all were used"
                value={options.whenOut}
                options={[
                  ['again', 'go round again'],
                  ['stop', 'stop'],
                ]}
                onChoose={(whenOut) => change({ whenOut })}
              />
            </Option>
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
    </span>
  );
}

function Option({ label, children }: { label: string; children: React.ReactNode }): React.JSX.Element {
  return (
    <div className="flex items-center justify-between gap-2">
      <span className="text-soft">{label}</span>
      {children}
    </div>
  );
}
