import { heardSongMoment } from '../playback/heard-moment.ts';
import { create } from 'zustand';
import { carryOut, drawnToOnsets, pulse, steadyLateness, type Montage, type MarkKind, type MarkTap, type Tapping } from '@bluster/core';
import { player } from '../playback/player.ts';
import { montageNow, useEditor } from '../document/editor.ts';
import { useListening } from '../marking/listening.ts';
import { useTapSettings } from '../playback/tap-settings.ts';
import { takeLessonTap, useTapLesson } from './tap-lesson.ts';

/** Taps of one run of playing. */
interface TapPass {
  readonly taps: readonly MarkTap[];
  /** the last tap: what it was, and where it ended up */
  readonly last: { readonly kind: MarkKind; readonly at: number; readonly drawn: number } | null;
  /** a steady lateness that was noticed when the pass ended */
  readonly noticed: Tapping | null;
  /** the one bar that was tapped, where bars are counted otherwise: all of them may be meant to be counted from it */
  readonly lone: LoneBar | null;
}

/** A lone tap on the start of a bar: the montage before and after it, and the beat that was meant. */
interface LoneBar {
  readonly before: Montage;
  readonly after: Montage;
  readonly beatId: string;
  readonly time: number;
}

const NO_PASS: TapPass = { taps: [], last: null, noticed: null, lone: null };
export const useTapPass = create<TapPass>(() => NO_PASS);

/** The marks that this pass made. */
let made: ReadonlySet<string> = new Set();
/** Those it had made when more taps began to go on from a base. */
let madeBefore: ReadonlySet<string> = new Set();

const madeBetween = (before: Montage, after: Montage): string[] => {
  const old = new Set(before.marks.map((m) => m.id));
  return after.marks.flatMap((m) => (old.has(m.id) ? [] : [m.id]));
};

/** The montage before the pass and the one its taps made of it, so that more taps go on from there as one step. */
let base: { before: Montage; after: Montage } | null = null;

const STRONG = 0.45;
const strongOnsets = (montage: Montage): { time: number; strength: number }[] =>
  montage.marks.flatMap((m) => (m.kind === 'accent' && (m.strength ?? 0) >= STRONG ? [{ time: m.time, strength: m.strength! }] : []));

/**
 * Takes one tap at the song time that was heard when its event happened, less this computer's lateness.
 * @param eventMs the event's time stamp
 * @returns where it was taken, song seconds, or null while nothing plays
 */
export function takeTap(kind: MarkKind, eventMs: number): number | null {
  if (!player.state.playing) return null;
  const { way, window, place } = useTapSettings.getState();
  const montage = montageNow();
  const time = heardSongMoment(eventMs);
  if (useTapLesson.getState().on) {
    takeLessonTap(montage, kind, time);
    return time;
  }
  const raw: MarkTap = { time, kind };
  const tap = way === 'onset' && kind !== 'cue' ? drawnToOnsets([raw], strongOnsets(montage), window)[0]! : raw;
  const { taps } = useTapPass.getState();
  const pass = [...taps, raw];
  useTapPass.setState({ taps: pass, last: { kind, at: time, drawn: tap.time - time }, noticed: null, lone: null });
  // Taps that teach change nothing until there are enough of them.
  if (way === 'teach' && (kind === 'beat' || kind === 'bar')) return time;
  const goingOn = base !== null && base.after === montage;
  const before = goingOn ? base!.before : montage;
  const all =
    way === 'onset' ? drawnToOnsets(pass, strongOnsets(before), window).map((t, i) => (pass[i]!.kind === 'cue' ? pass[i]! : t)) : pass;
  const marking = goingOn || taps.length === 0 ? all.filter((t) => way !== 'teach' || (t.kind !== 'beat' && t.kind !== 'bar')) : [tap];
  const ask = { do: 'takeTaps', taps: marking, how: place } as const;
  const editor = useEditor.getState();
  if (goingOn) editor.amend((now) => (now === base?.after ? carryOut(before, ask) : now));
  else editor.run(ask);
  if (!goingOn) madeBefore = made;
  base = { before, after: montageNow() };
  made = new Set([...madeBefore, ...madeBetween(before, base.after)]);
  return time;
}

/** How far from a beat a tap still means it: of the beats' spacing there. */
const MEANT = 0.3;

/** The beat that a lone tap on a bar meant, where bars are not counted from there yet. */
function loneBar(taps: readonly MarkTap[], pass: { before: Montage; after: Montage } | null): LoneBar | null {
  const [tap] = taps;
  if (taps.length !== 1 || tap?.kind !== 'bar' || !pass) return null;
  const beats = pulse(pass.before);
  const at = beats.reduce((best, b, i) => (Math.abs(b.time - tap.time) < Math.abs(beats[best]!.time - tap.time) ? i : best), 0);
  const [beat, next] = [beats[at], beats[at + 1] ?? beats[at - 1]];
  if (!beat || !next || beat.kind === 'bar' || Math.abs(beat.time - tap.time) > MEANT * Math.abs(next.time - beat.time)) return null;
  return { ...pass, beatId: beat.id, time: tap.time };
}

/** Counts all bars from the one that was tapped: the tap's step becomes this one. */
export function countFromLoneBar(): void {
  const { lone } = useTapPass.getState();
  if (!lone) return;
  useTapPass.setState({ lone: null });
  const { metre } = lone.before.song!;
  const ask = { do: 'setBarOne', id: lone.beatId, metre } as const;
  useEditor.getState().amend((now) => (now === lone.after ? carryOut(lone.before, ask) : carryOut(now, ask)));
}

/** Ends the pass when playing stops: teaches, or looks whether the taps came late throughout. */
export async function endPass(): Promise<void> {
  const { taps } = useTapPass.getState();
  const lone = loneBar(taps, base);
  base = null;
  const counting = taps.filter((t) => t.kind === 'beat' || t.kind === 'bar');
  const { song } = montageNow();
  if (counting.length === 0 || !song) {
    useTapPass.setState({ taps: [] });
    return;
  }
  const onsets = strongOnsets(montageNow()).map((o) => o.time);
  const noticed = steadyLateness(
    counting.map((t) => t.time),
    onsets,
  );
  const { way } = useTapSettings.getState();
  useTapPass.setState({ taps: way === 'teach' ? taps : [], noticed: way === 'tapped' ? noticed : null, lone });
  if (way === 'teach' && (await useListening.getState().teach(song.assetId, taps))) useTapPass.setState({ taps: [] });
}

/** Throws away taps that were gathered for teaching. */
export function forgetPass(): void {
  base = null;
  useTapPass.setState(NO_PASS);
}

/** Moves the marks of the pass that was judged by the lateness that was noticed in it. */
export function takeOffLateness(always: boolean): void {
  const { noticed } = useTapPass.getState();
  if (!noticed) return;
  const tapped = montageNow().marks.filter((m) => m.origin === 'tapped' && !m.locked && made.has(m.id));
  useEditor.getState().run({ do: 'moveMarks', ids: tapped.map((m) => m.id), by: -noticed.lateness });
  if (always) useTapSettings.setState((s) => ({ lateness: (s.lateness ?? 0) + noticed.lateness, spread: noticed.spread }));
  useTapPass.setState({ noticed: null });
}

player.setClickLevel(useTapSettings.getState().clickLevel);
let wasPlaying = false;
player.subscribe(() => {
  const { playing } = player.state;
  if (wasPlaying && !playing) void endPass();
  if (!wasPlaying && playing) made = new Set();
  if (!wasPlaying && playing && useTapSettings.getState().way !== 'teach') useTapPass.setState(NO_PASS);
  wasPlaying = playing;
});
