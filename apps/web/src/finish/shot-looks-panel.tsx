import { LOOKS, type LookKind, type Montage, type ShotLook } from '@bluster/core';
import { Button } from '../interface/button.tsx';
import { LiveSlider } from '../interface/live-slider.tsx';
import { PanelRow } from '../interface/panel-row.tsx';
import { useEditor } from '../document/editor.ts';
import type { FilledSlot } from './chosen-shots.ts';
import { LookChips } from './look-chips.tsx';
import { MatchColours } from './match-colours.tsx';
import { oneStep } from './one-step.ts';

/** What the chosen shots are made to look like. */
export function ShotLooksPanel({ montage, slots }: { montage: Montage; slots: readonly FilledSlot[] }): React.JSX.Element {
  const ids = slots.map((s) => s.placed.shot.id);
  const looks = slots[0]!.placed.shot.looks ?? [];
  const of = (kind: LookKind, table?: string): ShotLook | undefined => looks.find((l) => l.kind === kind && l.table === table);
  const set = (kind: LookKind, strength: number, table?: string, again = false): void =>
    oneStep({ do: 'setShotLook', ids, kind, strength, ...(table === undefined ? {} : { table }) }, again);
  return (
    <section className="space-y-2.5" aria-label="Look of the chosen shots">
      <LookChips
        montage={montage}
        on={(kind, table) => of(kind, table) !== undefined}
        onLay={(kind, table) => set(kind, of(kind, table) ? 0 : LOOKS[kind].usual, table)}
      />
      {looks.map(({ kind, strength, table }) => {
        const name = table === undefined ? LOOKS[kind].title : (montage.tables.find((t) => t.id === table)?.name ?? LOOKS.table.title);
        return (
          <PanelRow key={`${kind} ${table ?? ''}`} label={name}>
            <LiveSlider
              label={`Strength of ${name}`}
              value={strength}
              from={LOOKS[kind].least}
              to={1}
              step={0.02}
              wide
              onMove={(to, again) => set(kind, to === 0 ? 0.02 : to, table, again)}
            />
          </PanelRow>
        );
      })}
      <p className="flex flex-wrap gap-1.5">
        <MatchColours montage={montage} slots={slots} />
        <Button disabled={looks.length === 0} onClick={() => useEditor.getState().run({ do: 'setShotLooks', ids, looks: [] })}>
          As it was taken
        </Button>
      </p>
    </section>
  );
}
