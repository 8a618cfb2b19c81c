import {
  comesOver,
  scoreOf,
  TRANSITION_KINDS,
  TRANSITIONS,
  USUAL_WAY,
  WAY_NAMES,
  WAYS,
  type Montage,
  type Passage,
  type Shot,
} from '@bluster/core';
import { Choice } from '../interface/choice.tsx';
import { Chips } from '../interface/chips.tsx';
import { LiveSlider } from '../interface/live-slider.tsx';
import { PanelRow } from '../interface/panel-row.tsx';
import { useEditor } from '../document/editor.ts';
import type { FilledSlot } from './chosen-shots.ts';
import { BEAT_LENGTHS } from './effect-signs.tsx';
import { oneStep } from './one-step.ts';

const KINDS = [
  ['plain', 'at once'] as const,
  ...TRANSITION_KINDS.filter(comesOver).map((kind) => [kind, TRANSITIONS[kind].title] as const),
];
/** Where a picture in the picture stands first, and how wide it is. */
const USUAL_INSET = { x: 0.78, y: 0.26, size: 0.36 };

/** How chosen cutaways lie over what hangs below: how much of them is seen, where, and how they come and go. */
export function OverPanel({ montage, slots }: { montage: Montage; slots: readonly FilledSlot[] }): React.JSX.Element {
  const over = slots.filter((s) => s.placed.shot.over);
  const { run } = useEditor.getState();
  if (over.length === 0)
    return (
      <p className="text-[12px] text-soft">
        {scoreOf(montage).over.length === 0
          ? 'No cutaway hangs yet. In Score, B lays the clip you watch over the line; over one that is there it goes on a second line.'
          : 'Choose a cutaway: the strips that lie over the prints.'}
      </p>
    );
  const ids = over.map((s) => s.placed.shot.id);
  const { shot } = over[0]!.placed;
  const inset = shot.inset ?? null;
  return (
    <section aria-label="Over what hangs below" className="space-y-2.5">
      <PanelRow label="Line">
        <span className="text-[12px] text-soft">{shot.upper ? 'the second, over the first' : 'the first'}</span>
      </PanelRow>
      <PanelRow label="Seen">
        <LiveSlider
          label="How much of the cutaway is seen"
          value={shot.opacity ?? 1}
          from={0.05}
          to={1}
          step={0.01}
          wide
          onMove={(opacity, again) => oneStep({ do: 'setCutaways', ids, opacity: opacity === 1 ? null : opacity }, again)}
        />
      </PanelRow>
      <PanelRow label="Size">
        <Choice
          label="Size of the cutaway"
          value={inset ? 'inset' : 'whole'}
          options={[
            ['whole', 'covers the frame'],
            ['inset', 'a picture in the picture'],
          ]}
          onChoose={(to) => run({ do: 'setCutaways', ids, inset: to === 'whole' ? null : USUAL_INSET })}
        />
      </PanelRow>
      {inset && (
        <>
          <PanelRow label="">
            <LiveSlider
              label="Width of the picture in the picture"
              value={inset.size}
              from={0.08}
              to={1}
              step={0.01}
              wide
              onMove={(size, again) => oneStep({ do: 'setCutaways', ids, inset: { ...inset, size } }, again)}
            />
          </PanelRow>
          <p className="text-[12px] text-soft">
            Drag it on the picture; its corner makes it larger. Arrows move it, plus and minus size it.
          </p>
        </>
      )}
      <PassageFields name="Comes" shot={shot} which="comes" ids={ids} />
      <PassageFields name="Goes" shot={shot} which="goes" ids={ids} />
    </section>
  );
}

interface PassageFieldsProps {
  readonly name: string;
  readonly shot: Shot;
  readonly which: 'comes' | 'goes';
  readonly ids: readonly string[];
}

/** How cutaways come, or go. */
function PassageFields({ name, shot, which, ids }: PassageFieldsProps): React.JSX.Element {
  const passage = shot[which];
  const { run } = useEditor.getState();
  const set = (to: Passage | null): void => void run({ do: 'setCutaways', ids, [which]: to });
  return (
    <>
      <PanelRow label={name}>
        <Chips
          label={`How the cutaway ${name.toLowerCase()}`}
          value={passage?.kind ?? 'plain'}
          options={KINDS}
          onChoose={(kind) => set(kind === 'plain' ? null : { beats: passage?.beats ?? 0.5, ...passage, kind })}
        />
      </PanelRow>
      {passage && (
        <PanelRow label="beats">
          <Choice
            label={`Beats in which it ${name.toLowerCase()}`}
            narrow
            value={String(passage.beats)}
            options={BEAT_LENGTHS}
            onChoose={(beats) => set({ ...passage, beats: Number(beats) })}
          />
          {TRANSITIONS[passage.kind].directed && (
            <select
              aria-label={`Which way it ${name.toLowerCase()}`}
              className="ml-2 rounded border border-edge bg-paper px-1.5 py-1 text-[12px]"
              value={passage.way ?? USUAL_WAY}
              onChange={(e) => set({ ...passage, way: e.target.value as Passage['way'] })}
            >
              {WAY_NAMES.map((way) => (
                <option key={way} value={way}>
                  {WAYS[way].title}
                </option>
              ))}
            </select>
          )}
        </PanelRow>
      )}
    </>
  );
}
