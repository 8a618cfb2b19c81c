import { group } from 'd3-array';
import { Trash2 } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import {
  CURVES,
  CURVE_NAMES,
  EFFECTS,
  EFFECT_KINDS,
  EFFECT_TRIGGERS,
  LONGEST_FADE_S,
  triggerTitle,
  firingsOf,
  sectionStretches,
  shortClock,
  tooManyFlashes,
  WAYS,
  type Curve,
  type Effect,
  type EffectKind,
  type EffectTrigger,
  type Montage,
  type Way,
} from '@bluster/core';
import { Button } from '../interface/button.tsx';
import { Choice } from '../interface/choice.tsx';
import { LiveSlider } from '../interface/live-slider.tsx';
import { NumberField } from '../interface/number-field.tsx';
import { PanelRow } from '../interface/panel-row.tsx';
import { useEditor, useMontage } from '../document/editor.ts';
import { BEAT_LENGTHS, EFFECT_SIGNS } from './effect-signs.tsx';
import { chosenSound, useFinishing } from './finishing.ts';
import { oneStep } from './one-step.ts';
import { player } from '../playback/player.ts';

const FIELD = 'rounded border border-edge bg-paper px-1.5 py-1 text-[12px]';

/** Which effect is laid, on what, and all that are there. */
export function EffectsTab(): React.JSX.Element {
  const montage = useMontage();
  const kind = useFinishing((state) => state.kind);
  return (
    <div className="space-y-3 px-3.5 pb-4">
      <div className="flex flex-wrap gap-1.5" role="group" aria-label="Effect to lay">
        {EFFECT_KINDS.map((one) => {
          const { title, key, says } = EFFECTS[one];
          const { Sign } = EFFECT_SIGNS[one];
          return (
            <Button key={one} on={kind === one} hint={says} hotkey={key.toUpperCase()} onClick={() => useFinishing.setState({ kind: one })}>
              <Sign size={13} /> {title}
            </Button>
          );
        })}
      </div>
      <p className="text-[12px] text-soft">
        {montage.song
          ? `Click under a mark on the right to lay the ${EFFECTS[kind].title} there, or press ${EFFECTS[kind].key.toUpperCase()}, also while it plays.`
          : 'Effects fire on the marks of a song. Choose one first.'}
      </p>
      {kind === 'sound' && <SoundChoice montage={montage} />}
      <LayOnEvery kind={kind} />
      <Flashing montage={montage} />
      <Laid montage={montage} />
    </div>
  );
}

/** Which of the montage's sounds is laid. */
function SoundChoice({ montage }: { montage: Montage }): React.JSX.Element {
  const soundId = useFinishing((state) => state.soundId);
  if (montage.sounds.length === 0)
    return (
      <p className="text-[12.5px] text-gold-text">
        There are no sounds yet. Drop some into{' '}
        <Link className="underline" to="../footage" relative="path">
          Footage
        </Link>
        .
      </p>
    );
  return (
    <label className="flex items-center gap-1.5 text-[12.5px] text-soft">
      sound
      <select
        className={`${FIELD} max-w-72 text-ink`}
        value={montage.sounds.find((s) => s.assetId === soundId)?.assetId ?? montage.sounds[0]!.assetId}
        onChange={(e) => useFinishing.setState({ soundId: e.target.value })}
      >
        {montage.sounds.map((s) => (
          <option key={s.assetId} value={s.assetId}>
            {s.name}
          </option>
        ))}
      </select>
    </label>
  );
}

/** Lays the chosen effect on every mark of a kind. */
function LayOnEvery({ kind }: { kind: EffectKind }): React.JSX.Element {
  const montage = useMontage();
  const [what, setWhat] = useState<EffectTrigger>('bar');
  const [section, setSection] = useState('');
  const sections = sectionStretches(montage).flatMap(({ id, ...s }) => (id === null ? [] : [{ id, ...s }]));
  const chosen = sections.find((s) => s.id === section);
  return (
    <div className="flex flex-wrap items-center gap-1.5 text-[12.5px]">
      <span className="text-soft">on every</span>
      <select className={FIELD} aria-label="On every" value={what} onChange={(e) => setWhat(e.target.value as EffectTrigger)}>
        {EFFECT_TRIGGERS.map((trigger) => (
          <option key={trigger} value={trigger}>
            {triggerTitle(trigger)}
          </option>
        ))}
      </select>
      <span className="text-soft">of</span>
      <select className={FIELD} aria-label="Of" value={chosen ? section : ''} onChange={(e) => setSection(e.target.value)}>
        <option value="">all of the song</option>
        {sections.map(({ id, from, name }) => (
          <option key={id} value={id}>
            {name} · {shortClock(from)}
          </option>
        ))}
      </select>
      <Button
        disabled={!montage.song}
        onClick={() =>
          useEditor
            .getState()
            .run({ do: 'addEffect', kind, what, ...(chosen ? { section: chosen.id } : {}), ...chosenSound(montage, kind) })
        }
      >
        Lay
      </Button>
    </div>
  );
}

/** Effects that are listed together: one for every mark of a kind, or all of one kind on single marks. */
interface Row {
  readonly key: string;
  readonly effects: readonly Effect[];
  readonly text: string;
}

/** What an effect is called: a sound by its kind and file. */
const nameOf = ({ kind, assetId }: Effect): string => `${kind} ${assetId ?? ''}`;

function rowsOf(montage: Montage): Row[] {
  const sections = sectionStretches(montage);
  const every = montage.effects.flatMap(({ on, ...effect }): Row[] => {
    if (on.kind !== 'every') return [];
    const section = on.section === undefined ? undefined : sections.find((s) => s.id === on.section);
    const where =
      on.section === undefined ? '' : section ? ` of ${section.name} ${shortClock(section.from)}` : ' of a section that is gone';
    const what = triggerTitle(on.what);
    return [{ key: effect.id, effects: [{ on, ...effect }], text: `every ${what}${where}` }];
  });
  const moments = montage.effects.filter((e) => e.on.kind === 'moment');
  const single = [...group(moments, nameOf).entries()].map(([name, effects]): Row => {
    return { key: name, effects, text: effects.length === 1 ? 'one mark' : 'single marks' };
  });
  return [...every, ...single];
}

function Laid({ montage }: { montage: Montage }): React.JSX.Element {
  const rows = rowsOf(montage);
  const firings = firingsOf(montage);
  if (rows.length === 0) return <p className="text-[12px] text-soft">No effects yet.</p>;
  return (
    <ul className="space-y-2 border-t border-edge pt-3" aria-label="Effects">
      {rows.map(({ key, effects, text }) => {
        const [first] = effects;
        const { Sign, ink } = EFFECT_SIGNS[first!.kind];
        const { title } = EFFECTS[first!.kind];
        const name = montage.sounds.find((sound) => sound.assetId === first!.assetId)?.name ?? title;
        const ids = effects.map((e) => e.id);
        const times = firings.filter((f) => ids.includes(f.effect.id)).length;
        return (
          <li key={key} className="text-[12.5px]" data-testid="effect-row">
            <p className="flex flex-wrap items-center gap-1.5">
              <Sign size={14} style={{ color: `var(--${ink})` }} />
              <b className="max-w-44 truncate font-semibold">{name}</b> on {text}
              <span className="figures text-[11px] text-soft">{times} ×</span>
              <Button
                look="quiet"
                tight
                className="ml-auto"
                aria-label={`Remove the ${name} on ${text}`}
                hint="Remove it"
                onClick={() => useEditor.getState().run({ do: 'removeEffects', ids })}
              >
                <Trash2 size={13} />
              </Button>
            </p>
            <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
              <Strength effects={effects} label={`Strength of the ${name} on ${text}`} />
              {first!.kind === 'sound' && <SoundFades effects={effects} name={name} />}
              {first!.kind !== 'sound' && <Running effects={effects} name={name} />}
              {first!.kind !== 'sound' && (
                <PanelRow label="beats" narrow>
                  <Choice
                    label={`Beats of the ${name} on ${text}`}
                    narrow
                    value={String(first!.beats)}
                    options={BEAT_LENGTHS}
                    onChoose={(beats) => useEditor.getState().run({ do: 'changeEffects', ids, beats: Number(beats) })}
                  />
                </PanelRow>
              )}
            </div>
          </li>
        );
      })}
    </ul>
  );
}

/** How strong effects are. One drag is one step to undo. */
function Strength({ effects, label }: { effects: readonly Effect[]; label: string }): React.JSX.Element {
  const ids = effects.map((e) => e.id);
  return (
    <LiveSlider
      label={label}
      value={effects[0]!.strength}
      from={0.05}
      to={1}
      onMove={(strength, again) => oneStep({ do: 'changeEffects', ids, strength }, again)}
    />
  );
}

/** How a sound comes and goes. */
function SoundFades({ effects, name }: { effects: readonly Effect[]; name: string }): React.JSX.Element {
  const ids = effects.map((e) => e.id);
  return (
    <span className="inline-flex items-center gap-1.5 text-[12px] text-soft">
      {(['fadeIn', 'fadeOut'] as const).map((which) => (
        <label key={which} className="inline-flex items-center gap-1">
          {which === 'fadeIn' ? 'comes over' : 'goes over'}
          <NumberField
            label={`The ${name} ${which === 'fadeIn' ? 'comes' : 'goes'} over, seconds`}
            value={effects[0]![which] ?? 0}
            from={0}
            to={LONGEST_FADE_S}
            step={0.05}
            figures={3}
            atOnce={false}
            onChange={(seconds) => useEditor.getState().run({ do: 'changeEffects', ids, [which]: seconds })}
          />
        </label>
      ))}
      s
    </span>
  );
}

/** How effects die away, and which way they go. */
function Running({ effects, name }: { effects: readonly Effect[]; name: string }): React.JSX.Element {
  const { kind, curve, way } = effects[0]!;
  const ids = effects.map((e) => e.id);
  const { run } = useEditor.getState();
  const { ways, shown, curve: usual } = EFFECTS[kind];
  return (
    <>
      {!shown && (
        <select
          className={FIELD}
          aria-label={`How the ${name} runs`}
          value={curve ?? usual}
          onChange={(e) => run({ do: 'changeEffects', ids, curve: e.target.value as Curve })}
        >
          {CURVE_NAMES.map((one) => (
            <option key={one} value={one}>
              {CURVES[one].title}
            </option>
          ))}
        </select>
      )}
      {ways.length > 0 && (
        <select
          className={FIELD}
          aria-label={`Which way the ${name} goes`}
          value={way ?? ways[0]}
          onChange={(e) => run({ do: 'changeEffects', ids, way: e.target.value as Way })}
        >
          {ways.map((one) => (
            <option key={one} value={one}>
              {WAYS[one].title}
            </option>
          ))}
        </select>
      )}
    </>
  );
}

/** Says where it flashes more often than is safe to watch, and thins it out. */
function Flashing({ montage }: { montage: Montage }): React.JSX.Element | null {
  const seconds = tooManyFlashes(montage);
  const [first] = seconds;
  if (!first) return null;
  return (
    <p className="rounded-md border border-gold/60 bg-gold/10 px-2.5 py-1.5 text-[12.5px] text-gold-text" role="status">
      {seconds.length === 1 ? 'In one second' : `In ${seconds.length} seconds`} the picture flashes more than three times, which can make
      people ill: {first.flashes} times from {shortClock(first.from)} on.{' '}
      <span className="mt-1 flex gap-1.5">
        <Button tight onClick={() => player.seek(first.from)}>
          Go there
        </Button>
        <Button tight onClick={() => useEditor.getState().run({ do: 'thinFlashes' })}>
          Thin them out
        </Button>
      </span>
    </p>
  );
}
