import { EASES, EASE_NAMES, MOVES, MOVE_KINDS, type Montage, type MoveRule } from '@bluster/core';
import { ToggleGroup } from 'radix-ui';
import { Chips } from '../interface/chips.tsx';
import { LiveSlider } from '../interface/live-slider.tsx';
import { PanelRow } from '../interface/panel-row.tsx';
import { useEditor } from '../document/editor.ts';
import { oneStep } from './one-step.ts';

const USUAL: MoveRule = { what: 'photos', kinds: ['closer', 'left', 'wider', 'right'], strength: 0.3, ease: 'in-and-out' };
const KINDS = MOVE_KINDS.filter((kind) => kind !== 'drawn');

/** How all photos (or all pictures) move that nobody moved by hand. */
export function MoveRulePanel({ montage }: { montage: Montage }): React.JSX.Element {
  const { moveRule: rule } = montage;
  const set = (to: Partial<MoveRule>, again = false): void => oneStep({ do: 'setMoveRule', rule: { ...(rule ?? USUAL), ...to } }, again);
  return (
    <section className="space-y-2 border-t border-edge pt-3" aria-label="Rule for moves">
      <PanelRow label="By itself">
        <Chips
          label="What moves by itself"
          value={rule?.what ?? 'none'}
          options={[
            ['none', 'nothing moves'],
            ['photos', 'all photos'],
            ['all', 'all pictures'],
          ]}
          onChoose={(what) => (what === 'none' ? useEditor.getState().run({ do: 'setMoveRule', rule: null }) : set({ what }))}
        />
      </PanelRow>
      {rule && (
        <>
          <PanelRow label="By turns">
            <ToggleGroup.Root
              type="multiple"
              aria-label="Moves by turns"
              value={[...rule.kinds]}
              onValueChange={(kinds) => kinds.length > 0 && set({ kinds: KINDS.filter((kind) => kinds.includes(kind)) })}
              className="flex flex-wrap gap-1"
            >
              {KINDS.map((kind) => (
                <ToggleGroup.Item
                  key={kind}
                  value={kind}
                  className="rounded-full border border-edge bg-paper px-2 py-0.5 text-[12px] hover:bg-cloth-2 data-[state=on]:border-spruce data-[state=on]:bg-spruce data-[state=on]:text-on-spruce"
                >
                  {MOVES[kind].title}
                </ToggleGroup.Item>
              ))}
            </ToggleGroup.Root>
          </PanelRow>
          <PanelRow label="How far">
            <LiveSlider
              label="How far all move"
              value={rule.strength}
              from={0.05}
              to={1}
              onMove={(strength, again) => set({ strength }, again)}
            />
            <label className="ml-3 inline-flex items-center gap-1.5 text-[12px] text-soft">
              <input type="checkbox" checked={rule.byEnergy ?? false} onChange={(e) => set({ byEnergy: e.target.checked })} />
              by energy
            </label>
          </PanelRow>
          <PanelRow label="Eases">
            <Chips
              label="How all ease"
              value={rule.ease}
              options={EASE_NAMES.map((ease) => [ease, EASES[ease].title] as const)}
              onChoose={(ease) => set({ ease })}
            />
          </PanelRow>
        </>
      )}
    </section>
  );
}
