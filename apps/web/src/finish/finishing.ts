import { create } from 'zustand';
import { toast } from 'sonner';
import {
  firingsOf,
  frameTime,
  nearestMark,
  placedMark,
  placedTitles,
  scoreOf,
  toSongTime,
  transitionsOf,
  type EffectKind,
  type Montage,
  type Title,
  type Transition,
} from '@bluster/core';
import { player } from '../playback/player.ts';
import { montageNow, useEditor } from '../document/editor.ts';
import { heardMoment } from '../playback/heard-moment.ts';

export type FinishTab = 'effects' | 'cuts' | 'titles' | 'picture' | 'frame' | 'sound' | 'dressing';

interface Finishing {
  readonly tab: FinishTab;
  /** what a click in the lane of effects lays down */
  readonly kind: EffectKind;
  /** how the next transition is laid, and the last one was */
  readonly transition: Transition;
  readonly titleId: string | null;
  /** which sound a sound effect is */
  readonly soundId: string | null;
  /** which move of the chosen shot is worked on */
  readonly move: number;
  /** the montage is seen without what it is dressed in, while a key is held */
  readonly bare: boolean;
  /** what of the chosen shots' pictures is worked on */
  readonly part: 'move' | 'framing' | 'look' | 'over';
  /** whose level is drawn on the lines */
  readonly levelOf: 'song' | 'clips';
  /** the chosen shot is seen whole, with its frame on it */
  readonly framing: boolean;
}

/** What is chosen in Finish; not part of the document. */
export const useFinishing = create<Finishing>(() => ({
  tab: 'effects',
  kind: 'flash',
  transition: { kind: 'dissolve', beats: 1, place: 'over' },
  titleId: null,
  soundId: null,
  move: 0,
  bare: false,
  part: 'move',
  levelOf: 'song',
  framing: false,
}));

/** How far from the playhead a mark may be that is meant, seconds. */
const REACH_S = 0.4;

/** The sound that is laid: the chosen one, or the first; nothing for effects of the picture. */
export function chosenSound(montage: Montage, kind: EffectKind): { readonly assetId?: string } {
  if (kind !== 'sound') return {};
  const { soundId } = useFinishing.getState();
  const sound = montage.sounds.find((s) => s.assetId === soundId) ?? montage.sounds[0];
  return sound ? { assetId: sound.assetId } : {};
}

/** Lays an effect on a mark, or takes away what fires there. */
export function toggleEffectOn(kind: EffectKind, markId: string): void {
  const montage = montageNow();
  const which = chosenSound(montage, kind);
  const frame = placedMark(montage, markId)?.frame;
  const firing = firingsOf(montage)
    .filter((f) => f.effect.kind === kind && f.effect.assetId === which.assetId && f.frame === frame)
    .map((f) => ({ id: f.effect.id, at: f.at }));
  useEditor.getState().run({ do: 'toggleEffect', kind, markId, firing, ...which });
}

/** Lays an effect on the mark at the playhead, or takes it away. */
export function strike(kind: EffectKind, event?: KeyboardEvent): void {
  const montage = montageNow();
  if (!montage.song || event?.repeat) return;
  useFinishing.setState({ kind, tab: 'effects' });
  const mark = nearestMark(montage, toSongTime(montage.song.pieces, heardMoment(event)), REACH_S, (m) => m.kind !== 'accent');
  if (mark) toggleEffectOn(kind, mark.id);
  else toast.error('There is no mark near the playhead to lay an effect on. Mark the beats in Song first.');
}

/** Whether a peg is a cut on the main line that a transition can lie on. */
export function isCut(montage: Montage, pegId: string | null): pegId is string {
  return pegId !== null && scoreOf(montage).slots.some((s, i) => i > 0 && s.start.id === pegId);
}

/** The cut nearest to the playhead gets the transition that was laid last, or a plain cut again. */
export function toggleTransitionHere(event?: KeyboardEvent): void {
  const montage = montageNow();
  if (!montage.song || event?.repeat) return;
  const time = heardMoment(event);
  const cuts = scoreOf(montage).slots.slice(1);
  if (cuts.length === 0) {
    toast.error('There is no cut yet. Hang pegs in Score first.');
    return;
  }
  const { start } = cuts.reduce((a, b) => (Math.abs(b.start.time - time) < Math.abs(a.start.time - time) ? b : a));
  useFinishing.setState({ tab: 'cuts' });
  const { run, select } = useEditor.getState();
  select({ pegId: start.id, markIds: [], range: null });
  run({ do: 'setTransition', pegIds: [start.id], transition: start.peg?.transition ? null : useFinishing.getState().transition });
}

/** Writes a title from the mark at the playhead on, and chooses it. */
export function writeTitle(): void {
  const montage = montageNow();
  const { run } = useEditor.getState();
  if (!montage.song) {
    toast.error('There is no song yet. Choose one in Song first.');
    return;
  }
  const time = toSongTime(montage.song.pieces, player.time());
  const mark = nearestMark(montage, time, REACH_S, (m) => m.kind !== 'accent');
  if (run({ do: 'addTitle', text: 'Title', at: mark ? { markId: mark.id } : { time }, beats: 4 })) chooseTitle(montageNow().titles.at(-1)!);
}

/** Takes away the chosen title, or the transition of the chosen cut. */
export function removeChosen(): void {
  const { run, selection } = useEditor.getState();
  const { titleId } = useFinishing.getState();
  if (titleId !== null && montageNow().titles.some((t) => t.id === titleId)) run({ do: 'removeTitles', ids: [titleId] });
  else if (transitionsOf(montageNow()).some((t) => t.peg.id === selection.pegId))
    run({ do: 'setTransition', pegIds: [selection.pegId!], transition: null });
  useFinishing.setState({ titleId: null });
}

/** Chooses a title, and goes to where it can be read. */
export function chooseTitle({ id }: Title): void {
  useFinishing.setState({ titleId: id, tab: 'titles' });
  const { rate } = montageNow().shape;
  const placed = placedTitles(montageNow()).find((t) => t.title.id === id);
  if (placed && !player.state.playing) player.seek(frameTime((placed.from + placed.to) >> 1, rate) + 1e-4);
}
