import { useVirtualizer } from '@tanstack/react-virtual';
import { useRef } from 'react';
import {
  LONGEST_FADE_S,
  TRANSITIONS,
  TRANSITION_KINDS,
  USUAL_WAY,
  WAYS,
  WAY_NAMES,
  barAndBeat,
  isInSection,
  scoreOf,
  sectionStretches,
  toSongTime,
  transitionsOf,
  type Montage,
  type PlacedPeg,
  type PlacedTransition,
  type Transition,
  type TransitionKind,
} from '@bluster/core';
import { Button } from '../interface/button.tsx';
import { Chips } from '../interface/chips.tsx';
import { Choice } from '../interface/choice.tsx';
import { NumberField } from '../interface/number-field.tsx';
import { PanelRow } from '../interface/panel-row.tsx';
import { player } from '../playback/player.ts';
import { useEditor, useMontage } from '../document/editor.ts';
import { BEAT_LENGTHS } from './effect-signs.tsx';
import { isCut, useFinishing } from './finishing.ts';
import { standingRemedies } from './standing-remedies.ts';

const KINDS: readonly (readonly [TransitionKind | 'plain', string])[] = [
  ['plain', 'plain cut'],
  ...TRANSITION_KINDS.map((kind) => [kind, TRANSITIONS[kind].title] as const),
];
const PLACES = [
  ['before', 'before it'],
  ['over', 'over it'],
  ['after', 'after it'],
] as const;

function placeOf(montage: Montage, time: number): string {
  const at = montage.song ? barAndBeat(montage, toSongTime(montage.song.pieces, time) + 1e-3) : null;
  return at ? `bar ${at.bar} · beat ${at.beat}` : `${time.toFixed(2)} s`;
}

/** What is said where a clip has no more pictures to go on with. */
function stillNote({ still, before, after }: PlacedTransition): string | null {
  const parts = [
    still.before > 0 && `${before.placed!.item.name} has no more pictures: its last one stands for ${still.before} frames`,
    still.after > 0 && `${after.placed!.item.name} starts at its first picture, which stands for ${still.after} frames`,
  ].filter(Boolean);
  return parts.length > 0 ? `${parts.join('; ')}.` : null;
}

/** How pictures go over into each other, and how the montage begins and ends. */
export function CutsTab(): React.JSX.Element {
  const montage = useMontage();
  const pegId = useEditor((state) => state.selection.pegId);
  return (
    <div className="space-y-4 px-3.5 pb-4">
      {scoreOf(montage).slots.length < 2 ? (
        <p className="text-[12.5px] text-soft">There are no cuts yet. Hang pegs in Score first.</p>
      ) : (
        <>
          {isCut(montage, pegId) ? (
            <ChosenCut montage={montage} pegId={pegId} />
          ) : (
            <p className="text-[12.5px] text-soft">
              Choose a cut between two prints on the right. <kbd className="figures">W</kbd> lays a transition on the cut nearest to the
              playhead.
            </p>
          )}
          <Transitions montage={montage} />
        </>
      )}
      <div className="space-y-2 border-t border-edge pt-3">
        {(['in', 'out'] as const).map((which) => (
          <label key={which} className="flex items-center gap-2 text-[12.5px]">
            <span className="w-52 text-soft">{which === 'in' ? 'Starts out of black over' : 'Ends in black over'}</span>
            <NumberField
              value={montage.pictureFades[which]}
              from={0}
              to={LONGEST_FADE_S}
              step={0.1}
              atOnce={false}
              onChange={(seconds) => useEditor.getState().run({ do: 'setPictureFades', ...montage.pictureFades, [which]: seconds })}
            />
            <span className="text-soft">s</span>
          </label>
        ))}
      </div>
    </div>
  );
}

function ChosenCut({ montage, pegId }: { montage: Montage; pegId: string }): React.JSX.Element {
  const last = useFinishing((state) => state.transition);
  const slots = scoreOf(montage).slots;
  const index = slots.findIndex((s) => s.start.id === pegId);
  const { start } = slots[index]!;
  const transition = start.peg?.transition ?? null;
  const placed = transitionsOf(montage).find((t) => t.peg.id === pegId);
  const note = placed && stillNote(placed);
  const { run } = useEditor.getState();
  const set = (to: Transition | null, pegIds: readonly string[] = [pegId]): void => {
    if (to) useFinishing.setState({ transition: to });
    run({ do: 'setTransition', pegIds, transition: to });
  };
  const change = (to: Partial<Transition>): void => set({ ...(transition ?? last), ...to });
  const likewise = (pegs: readonly PlacedPeg[]): void =>
    set(
      transition,
      pegs.map((p) => p.id),
    );
  const cuts = slots.slice(1).map((s) => s.start);
  const starts = sectionStretches(montage).map((s) => s.from);
  const atSections = cuts.filter(({ mark }) => mark && starts.some((from) => Math.abs(from - mark.time) < 0.05));
  const pieces = montage.song?.pieces ?? [];
  const section = sectionStretches(montage).find((s) => isInSection(s, toSongTime(pieces, start.time)));
  const inSection = section && section.id !== null ? cuts.filter((cut) => isInSection(section, toSongTime(pieces, cut.time))) : [];
  return (
    <section className="space-y-2" aria-label="Chosen cut">
      <p className="text-[12.5px]">
        <b className="font-semibold">Cut {index}</b>{' '}
        <span className="text-soft">
          · {placeOf(montage, start.time)} · into {slots[index]!.placed?.item.name ?? 'an empty slot'}
        </span>
      </p>
      <Chips
        label="Transition"
        value={transition?.kind ?? 'plain'}
        options={KINDS}
        onChoose={(kind) => (kind === 'plain' ? set(null) : change({ kind }))}
      />
      {transition && (
        <>
          <PanelRow label="Lasts, beats">
            <Choice
              label="Beats of the transition"
              narrow
              value={String(transition.beats)}
              options={BEAT_LENGTHS}
              onChoose={(beats) => change({ beats: Number(beats) })}
            />
          </PanelRow>
          <PanelRow label="Lies">
            <Choice label="Place of the transition" value={transition.place} options={PLACES} onChoose={(place) => change({ place })} />
          </PanelRow>
          {TRANSITIONS[transition.kind].directed && (
            <PanelRow label="Goes">
              <Chips
                label="Which way the transition goes"
                value={transition.way ?? USUAL_WAY}
                options={WAY_NAMES.map((way) => [way, WAYS[way].title] as const)}
                onChoose={(way) => change({ way })}
              />
            </PanelRow>
          )}
          {note && (
            <div className="space-y-1 text-[12px]" data-testid="standing">
              <p className="text-gold-text">{note}</p>
              <p className="flex flex-wrap gap-1">
                {standingRemedies(montage, placed).map(({ title, command }) => (
                  <Button key={title} tight onClick={() => run(command)}>
                    {title}
                  </Button>
                ))}
              </p>
            </div>
          )}
        </>
      )}
      <p className="flex flex-wrap gap-1.5">
        <Button onClick={() => likewise(cuts)}>Same on all cuts</Button>
        {inSection.length > 1 && <Button onClick={() => likewise(inSection)}>Same on every cut of this section</Button>}
        {atSections.length > 0 && <Button onClick={() => likewise(atSections)}>Same where sections start</Button>}
      </p>
    </section>
  );
}

/** Height of a transition's row, pixels. */
const ROW_PX = 27;

function Transitions({ montage }: { montage: Montage }): React.JSX.Element {
  const all = transitionsOf(montage);
  const pegId = useEditor((state) => state.selection.pegId);
  const { run, select } = useEditor.getState();
  const scroller = useRef<HTMLDivElement>(null);
  // There may be one on each of thousands of cuts.
  const rows = useVirtualizer({ count: all.length, getScrollElement: () => scroller.current, estimateSize: () => ROW_PX, overscan: 4 });
  if (all.length === 0) return <p className="text-[12px] text-soft">All cuts are plain.</p>;
  return (
    <section className="border-t border-edge pt-3">
      <p className="mb-1 flex items-center text-[12.5px] text-soft">
        {all.length} {all.length === 1 ? 'transition' : 'transitions'}
        <Button
          look="quiet"
          className="ml-auto"
          onClick={() => run({ do: 'setTransition', pegIds: all.map((t) => t.peg.id), transition: null })}
        >
          All plain again
        </Button>
      </p>
      <div ref={scroller} className="max-h-56 overflow-y-auto">
        <ul aria-label="Transitions" className="relative" style={{ height: rows.getTotalSize() }}>
          {rows.getVirtualItems().map((row) => {
            const t = all[row.index]!;
            return (
              <li key={t.peg.id} className="absolute inset-x-0" style={{ top: row.start, height: ROW_PX }}>
                <button
                  className={`flex w-full items-center gap-2 rounded px-1.5 py-1 text-left text-[12.5px] hover:bg-cloth-2 ${t.peg.id === pegId ? 'bg-cloth-2' : ''}`}
                  onClick={() => {
                    select({ pegId: t.peg.id, markIds: [], range: null });
                    player.seek(t.peg.time);
                  }}
                >
                  <span className="figures w-28 text-[11.5px] text-soft">{placeOf(montage, t.peg.time)}</span>
                  {TRANSITIONS[t.transition.kind].title}
                  <span className="figures text-[11px] text-soft">{t.to - t.from} frames</span>
                  {stillNote(t) && <span className="ml-auto text-[11px] text-gold-text">stands</span>}
                </button>
              </li>
            );
          })}
        </ul>
      </div>
    </section>
  );
}
