import { useParams } from 'react-router';
import { FILL_ORDERS, ORDERS, bestHits } from '@bluster/core';
import { useAssets } from '../../api/use-project.ts';
import { Button } from '../../interface/button.tsx';
import { Choice } from '../../interface/choice.tsx';
import { NumberField } from '../../interface/number-field.tsx';
import { useEditor, useMontage } from '../../document/editor.ts';
import { useFillSettings } from './fill-settings.ts';

/** How slots are filled, to choose from. */
export function FillOptionList(): React.JSX.Element {
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
          options={FILL_ORDERS.map((order) => [order, order === 'picked' ? `picked (${picked.length})` : ORDERS[order].title] as const)}
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
      {options.from.startsWith('hit') || ORDERS[options.order].matches ? <MissingHits /> : null}
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
  const hits = bestHits(useMontage().footage, (id) => assets.get(id)?.info.hits ?? []);
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

function Option({ label, children }: { label: string; children: React.ReactNode }): React.JSX.Element {
  return (
    <div className="flex items-center justify-between gap-2">
      <span className="text-[12px] text-soft">{label}</span>
      {children}
    </div>
  );
}
