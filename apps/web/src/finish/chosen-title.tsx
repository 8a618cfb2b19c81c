import { Trash2 } from 'lucide-react';
import { toast } from 'sonner';
import {
  copyTitle,
  EFFECT_TRIGGERS,
  ENTRANCES,
  ENTRANCE_KINDS,
  hasWeights,
  placedMarks,
  placedTitles,
  TITLE_COLOURS,
  titleColour,
  triggerTitle,
  USUAL_FACE,
  type Command,
  type EffectTrigger,
  type Montage,
  type Title,
} from '@bluster/core';
import { Button } from '../interface/button.tsx';
import { Chips } from '../interface/chips.tsx';
import { Choice } from '../interface/choice.tsx';
import { LiveSlider } from '../interface/live-slider.tsx';
import { NumberField } from '../interface/number-field.tsx';
import { PanelRow } from '../interface/panel-row.tsx';
import { montageNow, useEditor } from '../document/editor.ts';
import { ColourField } from './colour-field.tsx';
import { chooseTitle } from './finishing.ts';
import { MomentField } from './moment-field.tsx';
import { atPlayhead, momentWords } from './moment-at-playhead.ts';
import { oneStep } from './one-step.ts';
import { PictureColours } from './picture-colours.tsx';
import { Readability } from './readability.tsx';
import { TitleStyles } from './title-styles.tsx';
import { TitleWords } from './title-words.tsx';
import { TypefaceChoice } from './typeface-choice.tsx';

const PLACES = [
  ['top', 'top'],
  ['middle', 'middle'],
  ['bottom', 'bottom'],
] as const;
const WEIGHTS = [
  ['light', 'light'],
  ['bold', 'bold'],
] as const;
const ENTERS = ENTRANCE_KINDS.map((kind) => [kind, ENTRANCES[kind].title, ENTRANCES[kind].says] as const);
const NAMED = Object.keys(TITLE_COLOURS) as (keyof typeof TITLE_COLOURS)[];

/** The chosen title: its words, when it is seen, and how it looks. */
export function ChosenTitle({ title, montage }: { title: Title; montage: Montage }): React.JSX.Element {
  const { run } = useEditor.getState();
  type Change = Omit<Extract<Command, { do: 'changeTitle' }>, 'do' | 'id'>;
  const change = (to: Change, again = false): void => oneStep({ do: 'changeTitle', id: title.id, ...to }, again);
  const { until } = title;
  const ends = until === undefined ? 'beats' : until === 'cut' ? 'cut' : 'mark';
  return (
    <section className="space-y-2 border-t border-edge pt-3" aria-label="Chosen title">
      <TitleWords title={title} onChange={(text) => change({ text })} />
      <PanelRow label="From">
        <MomentField label="" moment={title.from} none="start" onChange={(at) => at && change({ at })} lasting />
      </PanelRow>
      <PanelRow label="Stays">
        <span className="flex flex-wrap items-center gap-x-2 gap-y-1">
          <Chips
            label="How long the title stays"
            value={ends}
            options={[
              ['beats', 'so many beats'],
              ['cut', 'to the next cut'],
              ['mark', 'to the playhead'],
            ]}
            onChoose={(to) => {
              const at = to === 'mark' ? atPlayhead() : null;
              change({ until: to === 'beats' ? null : to === 'cut' ? 'cut' : at });
            }}
          />
          {ends === 'beats' && (
            <NumberField
              label="Beats of the title"
              value={title.beats}
              from={0.25}
              to={256}
              step={0.25}
              atOnce={false}
              figures={3}
              onChange={(beats) => change({ beats })}
            />
          )}
          {until !== undefined && until !== 'cut' && <span className="figures text-[12px]">{momentWords(montage, until)}</span>}
        </span>
      </PanelRow>
      <TitleStyles title={title} montage={montage} />
      <PanelRow label="Typeface">
        <TypefaceChoice
          value={title.face ?? USUAL_FACE}
          montage={montage}
          onChoose={(face) => change({ face: face === USUAL_FACE ? null : face })}
        />
      </PanelRow>
      <PanelRow label="Place">
        <Choice label="Place of the title" value={title.at ? '' : title.place} options={PLACES} onChoose={(place) => change({ place })} />
        <span className="ml-2 text-[12px] text-soft">{title.at ? 'where you dragged it' : 'or drag it on the picture'}</span>
      </PanelRow>
      <PanelRow label="Size">
        <LiveSlider
          label="Size of the title"
          value={title.size}
          from={0.02}
          to={0.4}
          step={0.01}
          onMove={(size, again) => change({ size }, again)}
        />
        <span className="w-2" />
        {hasWeights(title.face ?? USUAL_FACE) && (
          <Choice label="Weight of the title" value={title.weight} options={WEIGHTS} onChoose={(weight) => change({ weight })} />
        )}
      </PanelRow>
      <PanelRow label="Spacing">
        <span className="mr-1.5 text-[12px] text-soft">letters</span>
        <LiveSlider
          label="From letter to letter"
          value={title.spacing ?? 0}
          from={-0.1}
          to={0.6}
          step={0.01}
          onMove={(spacing, again) => change({ spacing: spacing === 0 ? null : spacing }, again)}
        />
        {title.text.includes('\n') && <span className="mr-1.5 text-[12px] text-soft">lines</span>}
        {title.text.includes('\n') && (
          <LiveSlider
            label="From line to line"
            value={title.leading ?? 0}
            from={-0.3}
            to={0.6}
            step={0.01}
            onMove={(leading, again) => change({ leading: leading === 0 ? null : leading }, again)}
          />
        )}
      </PanelRow>
      <PanelRow label="Colour">
        <div role="radiogroup" aria-label="Colour of the title" className="flex flex-wrap items-center gap-1.5">
          {NAMED.map((colour) => (
            <button
              key={colour}
              role="radio"
              aria-checked={title.colour === colour}
              aria-label={colour}
              title={colour}
              className={`size-6 rounded-full border border-edge ${title.colour === colour ? 'ring-2 ring-spruce ring-offset-1' : ''}`}
              style={{ background: TITLE_COLOURS[colour] }}
              onClick={() => change({ colour })}
            />
          ))}
          <ColourField label="Any colour of the title" value={titleColour(title)} onChange={(colour) => change({ colour })} />
          <PictureColours title={title} onChoose={(colour) => change({ colour })} />
        </div>
      </PanelRow>
      <PanelRow label="Around">
        <span className="flex flex-wrap items-center gap-x-3 gap-y-1 text-[12px]">
          <label className="inline-flex items-center gap-1.5">
            <input type="checkbox" checked={title.shadow ?? true} onChange={(e) => change({ shadow: e.target.checked ? null : false })} />
            shadow
          </label>
          <Coloured
            name="outline"
            colour={title.outline?.colour}
            onChange={(colour) => change({ outline: colour === null ? null : { width: title.outline?.width ?? 0.04, colour } })}
          />
          <Coloured
            name="plate"
            colour={title.plate?.colour}
            onChange={(colour) => change({ plate: colour === null ? null : { opacity: title.plate?.opacity ?? 0.7, colour } })}
          />
        </span>
      </PanelRow>
      <Readability title={title} montage={montage} onPlate={() => change({ plate: { colour: TITLE_COLOURS.ink, opacity: 0.7 } })} />
      <PanelRow label="Comes">
        <Chips label="How the title comes" value={title.enter} options={ENTERS} onChoose={(enter) => change({ enter, enterBeats: null })} />
      </PanelRow>
      <PanelRow label="">
        {ENTRANCES[title.enter].order === 'on marks' && (
          <label className="mr-2 inline-flex items-center gap-1.5 text-[12px] text-soft">
            on every
            <select
              aria-label="The marks on which its words come"
              className="rounded border border-edge bg-paper px-1.5 py-1 text-[12px] text-ink"
              value={title.wordsOn ?? 'beat'}
              onChange={(e) => change({ wordsOn: e.target.value as EffectTrigger })}
            >
              {EFFECT_TRIGGERS.map((trigger) => (
                <option key={trigger} value={trigger}>
                  {triggerTitle(trigger)}
                </option>
              ))}
            </select>
          </label>
        )}
        {ENTRANCES[title.enter].beats > 0 && (
          <label className="inline-flex items-center gap-1.5 text-[12px] text-soft">
            over
            <NumberField
              label="Beats in which the title comes"
              value={title.enterBeats ?? ENTRANCES[title.enter].beats}
              from={0}
              to={64}
              step={0.25}
              atOnce={false}
              figures={3}
              onChange={(enterBeats) => change({ enterBeats })}
            />
            beats
          </label>
        )}
        <span className="ml-auto flex gap-1.5">
          <Button hint="One like it, from the bar after its end on" onClick={() => copyOn(title, montage)}>
            Copy on
          </Button>
          <Button
            look="danger"
            tight
            aria-label="Take the title away"
            hint="Remove it"
            hotkey="Del"
            onClick={() => run({ do: 'removeTitles', ids: [title.id] })}
          >
            <Trash2 size={13} />
          </Button>
        </span>
      </PanelRow>
    </section>
  );
}

/** Something around the letters that has a colour of its own, or is not there. */
function Coloured({
  name,
  colour,
  onChange,
}: {
  name: string;
  colour: string | undefined;
  onChange: (colour: string | null) => void;
}): React.JSX.Element {
  return (
    <>
      <label className="inline-flex items-center gap-1.5">
        <input type="checkbox" checked={colour !== undefined} onChange={(e) => onChange(e.target.checked ? TITLE_COLOURS.ink : null)} />
        {name}
      </label>
      {colour !== undefined && <ColourField label={`Colour of the ${name}`} value={colour} onChange={onChange} />}
    </>
  );
}

/** One like a title, from the first bar at its end or after it. */
function copyOn(title: Title, montage: Montage): void {
  const placed = placedTitles(montage).find((t) => t.title.id === title.id);
  const bar = placed && placedMarks(montage).find((m) => m.mark.kind === 'bar' && m.frame >= placed.to);
  if (!bar) {
    toast.error('There is no bar after this title for another one to start on.');
    return;
  }
  useEditor.getState().runAll('Copy a title', (m) => copyTitle(m, title.id, bar.mark.id));
  chooseTitle(montageNow().titles.at(-1)!);
}
