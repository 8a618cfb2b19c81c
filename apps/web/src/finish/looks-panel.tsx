import { Trash2 } from 'lucide-react';
import { useState } from 'react';
import { LOOKS, sectionStretches, shortClock, type Look, type Montage } from '@bluster/core';
import { Button } from '../interface/button.tsx';
import { LiveSlider } from '../interface/live-slider.tsx';
import { useEditor } from '../document/editor.ts';
import { LookChips } from './look-chips.tsx';
import { oneStep } from './one-step.ts';
import { SpanFields } from './span-fields.tsx';

/** A section in words. */
function sectionName(montage: Montage, id: string): string {
  const section = sectionStretches(montage).find((s) => s.id === id);
  return section ? `${section.name} ${shortClock(section.from)}` : 'a section that is gone';
}

/** What all pictures are made to look like: throughout, in a section, or from one moment to another. */
export function LooksPanel({ montage }: { montage: Montage }): React.JSX.Element {
  const [section, setSection] = useState('');
  const sections = sectionStretches(montage).flatMap(({ id, ...s }) => (id === null ? [] : [{ id, ...s }]));
  const where = sections.some((s) => s.id === section) ? section : undefined;
  const there = (kind: string, table?: string): Look | undefined =>
    montage.looks.find((l) => l.kind === kind && l.table === table && l.section === where && !l.span);
  const { run } = useEditor.getState();
  return (
    <section className="space-y-2.5" aria-label="Looks of all pictures">
      <p className="flex flex-wrap items-center gap-1.5 text-[12.5px]">
        <span className="text-soft">Look of</span>
        <select
          aria-label="Look of"
          className="rounded border border-edge bg-paper px-1.5 py-1 text-[12px]"
          value={where ?? ''}
          onChange={(e) => setSection(e.target.value)}
        >
          <option value="">all of the montage</option>
          {sections.map(({ id, from, name }) => (
            <option key={id} value={id}>
              {name} · {shortClock(from)}
            </option>
          ))}
        </select>
      </p>
      <LookChips
        montage={montage}
        on={(kind, table) => there(kind, table) !== undefined}
        onLay={(kind, table) => {
          const laid = there(kind, table);
          if (laid) run({ do: 'removeLooks', ids: [laid.id] });
          else
            run({
              do: 'addLook',
              kind,
              strength: LOOKS[kind].usual,
              ...(table === undefined ? {} : { table }),
              ...(where === undefined ? {} : { section: where }),
            });
        }}
      />
      {montage.looks.length > 0 && (
        <ul className="space-y-2" aria-label="Looks that are laid">
          {montage.looks.map((look) => (
            <LaidLook key={look.id} look={look} montage={montage} />
          ))}
        </ul>
      )}
    </section>
  );
}

function LaidLook({ look, montage }: { look: Look; montage: Montage }): React.JSX.Element {
  const name =
    look.table === undefined ? LOOKS[look.kind].title : (montage.tables.find((t) => t.id === look.table)?.name ?? LOOKS.table.title);
  const { run } = useEditor.getState();
  return (
    <li className="text-[12.5px]" data-testid="laid-look">
      <p className="flex flex-wrap items-center gap-2">
        <b className="font-semibold">{name}</b>
        {look.section !== undefined && <span className="text-soft">of {sectionName(montage, look.section)}</span>}
        <LiveSlider
          label={`Strength of ${name}`}
          value={look.strength}
          from={LOOKS[look.kind].least}
          to={1}
          step={0.02}
          onMove={(strength, again) => oneStep({ do: 'changeLook', id: look.id, strength }, again)}
        />
        <Button
          look="quiet"
          tight
          className="ml-auto"
          aria-label={`Remove ${name}`}
          hint="Remove it"
          onClick={() => run({ do: 'removeLooks', ids: [look.id] })}
        >
          <Trash2 size={13} />
        </Button>
      </p>
      {look.section === undefined && (
        <SpanFields name={name} span={look.span} onChange={(span) => run({ do: 'changeLook', id: look.id, span: span })} />
      )}
    </li>
  );
}
