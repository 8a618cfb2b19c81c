import { toast } from 'sonner';
import { doubtfulMarks, nearestAccent, onceFor, pulse, type Mark, type Montage } from '@bluster/core';
import { player } from '../playback/player.ts';
import { montageNow, useEditor } from '../document/editor.ts';

/** How far a mark looks for an onset of its own, seconds. */
export const ONSET_REACH_S = 0.08;
/** Onsets weaker than this draw nothing. */
const ONSET_STRENGTH = 0.2;

const strongAccents = onceFor((marks: Montage['marks']): readonly Mark[] =>
  marks.filter((m) => m.kind === 'accent' && (m.strength ?? 1) >= ONSET_STRENGTH),
);

/** The onsets of the song that are strong enough to land on, in the order of time. */
export function onsetsOf(montage: Montage): readonly Mark[] {
  return strongAccents(montage.marks);
}

/** The onset nearest to a time, within a reach in seconds. */
export function onsetNear(montage: Montage, time: number, reach = ONSET_REACH_S): Mark | null {
  return nearestAccent(onsetsOf(montage), time, reach);
}

/** Draws marks to the onsets nearest to them. */
export function drawToOnsets(ids: readonly string[]): void {
  const montage = montageNow();
  const wanted = new Set(ids);
  const places = montage.marks.flatMap((m) => {
    if (!wanted.has(m.id) || m.kind === 'accent' || m.locked) return [];
    const onset = onsetNear(montage, m.time);
    return onset ? [{ id: m.id, time: onset.time }] : [];
  });
  if (places.length === 0) toast.error(`No onset lies within ${ONSET_REACH_S * 1000} ms of what is chosen.`);
  else useEditor.getState().run({ do: 'placeMarks', places });
}

/** Goes to the next or previous doubtful beat from the playhead, and chooses it. */
export function goToDoubtful(direction: 1 | -1): void {
  const montage = montageNow();
  const doubtful = doubtfulMarks(montage).filter((d) => d.first);
  const now = player.songTime();
  const next =
    direction === 1
      ? (doubtful.find((d) => d.mark.time > now + 0.01) ?? doubtful[0])
      : (doubtful.findLast((d) => d.mark.time < now - 0.01) ?? doubtful.at(-1));
  if (!next) {
    toast('No beat is doubtful.');
    return;
  }
  player.pause();
  player.seekSong(next.mark.time);
  useEditor.getState().select({ markIds: [next.mark.id], range: null });
}

/** Locks what is chosen, or unlocks it where all of it is locked. */
export function toggleLock(): void {
  const montage = montageNow();
  const { selection, run } = useEditor.getState();
  const chosen = montage.marks.filter((m) => selection.markIds.includes(m.id));
  if (chosen.length > 0) run({ do: 'lockMarks', ids: chosen.map((m) => m.id), locked: !chosen.every((m) => m.locked) });
}

/** The distance of two marks in everything it can be told in; beats are counted along the beats between them. */
export function distanceOf(montage: Montage, a: Mark, b: Mark): { ms: number; frames: number; beats: number } {
  const beats = pulse(montage).map((m) => m.time);
  const place = (time: number): number => {
    const i = beats.findLastIndex((t) => t <= time + 1e-6);
    if (i < 0 || i + 1 >= beats.length) {
      const gap = beats.length > 1 ? (i < 0 ? beats[1]! - beats[0]! : beats.at(-1)! - beats.at(-2)!) : 1;
      return i < 0 ? (time - (beats[0] ?? 0)) / gap : i + (time - beats[i]!) / gap;
    }
    return i + (time - beats[i]!) / (beats[i + 1]! - beats[i]!);
  };
  const { num, den } = montage.shape.rate;
  const seconds = Math.abs(b.time - a.time);
  return { ms: seconds * 1000, frames: (seconds * num) / den, beats: beats.length > 1 ? Math.abs(place(b.time) - place(a.time)) : 0 };
}
