import { carryOut, standingView, type View } from '@bluster/core';
import { Button } from '../interface/button.tsx';
import { Choice } from '../interface/choice.tsx';
import { Chips } from '../interface/chips.tsx';
import { LiveSlider } from '../interface/live-slider.tsx';
import { NumberField } from '../interface/number-field.tsx';
import { PanelRow } from '../interface/panel-row.tsx';
import { useEditor } from '../document/editor.ts';
import type { FilledSlot } from './chosen-shots.ts';
import { useFinishing } from './finishing.ts';
import { oneStep } from './one-step.ts';

const BORDERS = [
  ['black', 'black'],
  ['blurred', 'itself, blurred'],
  ['colour', 'a colour'],
] as const;

/** How the chosen shots stand in the frame: scale, place and turn, and what lies beside them. */
export function FramingPanel({ slots }: { slots: readonly FilledSlot[] }): React.JSX.Element {
  const { framing: drawing } = useFinishing();
  const { run } = useEditor.getState();
  const ids = slots.map((s) => s.placed.shot.id);
  const { shot, item } = slots[0]!.placed;
  const view = shot.view ?? standingView(shot, item);
  const change = (to: Partial<View>, again = false): void => oneStep({ do: 'setView', ids, view: { ...view, ...to } }, again);
  const border = shot.border === undefined ? 'black' : shot.border === 'blurred' ? 'blurred' : 'colour';
  return (
    <section className="space-y-2.5" aria-label="Framing">
      <PanelRow label="Framing">
        <Choice
          label="Framing of the chosen shots"
          value={shot.view ? '' : shot.framing}
          options={[
            ['fill', 'fill the frame'],
            ['fit', 'show all of it'],
          ]}
          onChoose={(framing) =>
            useEditor
              .getState()
              .runAll('Change the framing', (m) =>
                carryOut(carryOut(m, { do: 'setView', ids, view: null }), { do: 'setFraming', ids, framing }),
              )
          }
        />
        {shot.view && <span className="ml-2 text-[12px] text-soft">by hand</span>}
      </PanelRow>
      <PanelRow label="Scale">
        <LiveSlider
          label="Scale"
          value={view.zoom}
          from={shot.framing === 'fill' ? 1 : 0.2}
          to={4}
          step={0.01}
          wide
          onMove={(zoom, again) => change({ zoom }, again)}
        />
      </PanelRow>
      <PanelRow label="Turn">
        <LiveSlider
          label="Turn"
          value={view.turn}
          from={-45}
          to={45}
          step={0.5}
          wide
          shown={(v) => `${v.toFixed(1)}°`}
          onMove={(turn, again) => change({ turn }, again)}
        />
      </PanelRow>
      <PanelRow label="Place">
        {(['x', 'y'] as const).map((axis) => (
          <label key={axis} className="mr-3 inline-flex items-center gap-1.5 text-[12px] text-soft">
            {axis === 'x' ? 'across' : 'down'}
            <NumberField
              value={Math.round(view[axis] * 1000) / 10}
              from={-200}
              to={300}
              step={0.1}
              atOnce={false}
              onChange={(percent) => change({ [axis]: percent / 100 })}
            />
            %
          </label>
        ))}
      </PanelRow>
      <p className="flex flex-wrap gap-1.5">
        {slots.length === 1 && (
          <Button
            on={drawing}
            hint="Drag the frame on the picture; the wheel makes it smaller"
            onClick={() => useFinishing.setState({ framing: !drawing })}
          >
            Draw the frame
          </Button>
        )}
        <Button disabled={!shot.view} onClick={() => run({ do: 'setView', ids, view: null })}>
          As it was
        </Button>
      </p>
      <PanelRow label="Beside it">
        <Chips
          label="What lies beside the picture"
          value={border}
          options={BORDERS}
          onChoose={(to) => run({ do: 'setBorder', ids, border: to === 'black' ? null : to === 'blurred' ? 'blurred' : '#c9b99a' })}
        />
        {border === 'colour' && (
          <input
            type="color"
            aria-label="Colour beside the picture"
            className="ml-2 h-6 w-8 rounded border border-edge bg-paper"
            value={shot.border}
            onChange={(e) => run({ do: 'setBorder', ids, border: e.target.value })}
          />
        )}
      </PanelRow>
      {shot.framing === 'fill' && (
        <p className="text-[12px] text-soft">A picture that fills the frame never shows its edges. “Show all of it” lets them be seen.</p>
      )}
    </section>
  );
}
