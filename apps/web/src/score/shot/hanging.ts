import { sayProblem } from '../../interface/say-problem.ts';
import { toast } from 'sonner';
import { create } from 'zustand';
import {
  frameAt,
  frameTime,
  marksOfSlot,
  nearestMark,
  overAt,
  planHang,
  scoreOf,
  slotAt,
  slotFrom,
  stretchesOf,
  toSongTime,
  type HangPlan,
  type HangWish,
  type Remedy,
  type Slot,
} from '@bluster/core';
import { player } from '../../playback/player.ts';
import { montageNow, useEditor } from '../../document/editor.ts';

/** A clip that is too short for its slot, waiting for what is to be done about it. */
interface Pending {
  readonly slot: Slot;
  readonly wish: HangWish;
  readonly plan: HangPlan;
  readonly name: string;
}

interface Hanging {
  readonly pending: Pending | null;
  /** the clip that is looked at in Score */
  readonly watched: { readonly assetId: string; readonly selectId: string } | null;
  /** the slot over which a clip from the shelf is held, by its first peg */
  readonly dropOn: string | null;
  /** the slot in which something was hung last, by its first peg: from there one goes on by keys */
  readonly lastHung: string | null;
  /** the moment of it that is on its screen, clip seconds */
  here: () => number;
  watch: (assetId: string, selectId?: string) => void;
  setHere: (here: () => number) => void;
  settle: (remedy: Remedy | null) => void;
}

export const useHanging = create<Hanging>((set, get) => ({
  pending: null,
  watched: null,
  dropOn: null,
  lastHung: null,
  here: () => 0,
  watch: (assetId, selectId) => set({ watched: { assetId, selectId: selectId ?? '' } }),
  setHere: (here) => set({ here }),
  settle: (remedy) => {
    const { pending } = get();
    set({ pending: null });
    if (pending && remedy) hangNow(pending.slot, { ...pending.wish, remedy });
  },
}));

function hangNow(slot: Slot, wish: HangWish): void {
  const { run, select } = useEditor.getState();
  const { assetId, selectId, point, remedy } = wish;
  const done = run({
    do: 'hangShot',
    startPeg: slot.start.id,
    assetId,
    ...(selectId === undefined ? {} : { selectId }),
    ...(point ? { point } : {}),
    ...(remedy ? { remedy } : {}),
  });
  // The slot is not chosen: that would turn to its own panel, away from where the next clip comes from.
  if (!done) return;
  select({ slotStart: null, pegId: null });
  useHanging.setState({ lastHung: slot.start.id });
}

/** Hangs a clip in a slot; where it is too short, asks first what is to be done. */
export function hangCarefully(slot: Slot, wish: HangWish): void {
  const montage = montageNow();
  try {
    if (slot.placed?.shot.locked) throw new Error('A locked shot hangs there and stays. Unlock it first.');
    const plan = planHang(montage, slot, wish);
    const name = montage.footage.find((f) => f.assetId === wish.assetId)?.name ?? '';
    // A clip put in the place of another keeps the timing: speed, framing of its own, level of its sound.
    if (slot.placed && !wish.point && plan.remedies.length === 0)
      useEditor.getState().run({ do: 'replaceShot', id: slot.placed.shot.id, ...selectOf(wish) });
    else if (plan.remedies.length > 0) useHanging.setState({ pending: { slot, wish, plan, name } });
    else hangNow(slot, wish);
  } catch (problem) {
    sayProblem(problem);
  }
}

/** The chosen slot, or the one under the playhead. */
export function slotMeant(): Slot | undefined {
  const montage = montageNow();
  const { slotStart } = useEditor.getState().selection;
  const chosen = slotStart === null ? undefined : slotFrom(montage, slotStart);
  return chosen ?? slotAt(scoreOf(montage), frameAt(player.time(), montage.shape.rate));
}

function watchedWish(): { wish: HangWish; here: number } | null {
  const { watched, here } = useHanging.getState();
  if (!watched) {
    toast('No clip is being watched. Click one on the shelf first.');
    return null;
  }
  return { wish: { assetId: watched.assetId, ...(watched.selectId ? { selectId: watched.selectId } : {}) }, here: here() };
}

/** The watched clip into the slot that is meant: from its frame on the screen, up to it, or with that frame on the slot's weightiest mark. */
export function hangWatched(how: 'in' | 'out' | 'hit'): void {
  const found = watchedWish();
  const slot = slotMeant();
  if (!found || !slot) return;
  const item = montageNow().footage.find((f) => f.assetId === found.wish.assetId);
  const frame = item ? item.rate.den / item.rate.num : 0;
  if (how !== 'hit') {
    hangCarefully(slot, { ...found.wish, point: { kind: how, at: how === 'out' ? found.here + frame : found.here } });
    return;
  }
  const montage = montageNow();
  // A mark chosen in the loupe, or one at the playhead inside the slot, is the one that is meant; else the weightiest.
  const { markIds } = useEditor.getState().selection;
  const near = nearestMark(montage, toSongTime(montage.song!.pieces, player.time()), 0.1);
  const marks = marksOfSlot(montage, slot);
  const mark = marks.find((m) => markIds.includes(m.mark.id)) ?? marks.find((m) => m.mark.id === near?.id && m.into > 0) ?? marks[0];
  hangCarefully(slot, { ...found.wish, point: { kind: 'hit', at: found.here, ...(mark ? { markId: mark.mark.id } : {}) } });
}

/** The watched clip put in here, and the rest moved on by one slot. */
export function insertWatched(): void {
  const found = watchedWish();
  const slot = slotMeant();
  if (found && slot)
    useEditor.getState().run({ do: 'insertShot', startPeg: slot.start.id, ...selectOf(found.wish), point: { kind: 'in', at: found.here } });
}

/** The shot at the playhead replaced by the watched clip, so that its frame on the screen meets the playhead. */
export function replaceAtPlayhead(): void {
  const found = watchedWish();
  if (!found) return;
  const montage = montageNow();
  const frame = frameAt(player.time(), montage.shape.rate);
  const score = scoreOf(montage);
  const shot = (overAt(score, frame) ?? slotAt(score, frame))?.placed?.shot;
  if (!shot) toast('There is no shot at the playhead to replace.');
  else useEditor.getState().run({ do: 'replaceAt', id: shot.id, assetId: found.wish.assetId, source: found.here, frame });
}

const selectOf = ({ assetId, selectId }: HangWish): { assetId: string; selectId?: string } =>
  selectId === undefined ? { assetId } : { assetId, selectId };

/** A cutaway with the watched clip: from the mark at the playhead, or the playhead's frame, as long as its select, to a mark where one is near. */
export function hangOverPlayhead(): void {
  const found = watchedWish();
  const montage = montageNow();
  const item = montage.footage.find((f) => f.assetId === found?.wish.assetId);
  if (!found || !item || !montage.song) return;
  const { rate } = montage.shape;
  const { pieces } = montage.song;
  const select = stretchesOf(item).find((s) => s.id === found.wish.selectId) ?? stretchesOf(item)[0]!;
  const length = item.kind === 'photo' ? 2 : Math.min(2, Math.max(frameTime(2, rate), select.out - select.in));
  const onMark = (seconds: number, reach: number): { markId: string } | { frame: number } => {
    const mark = nearestMark(montage, toSongTime(pieces, seconds), reach, (m) => m.kind !== 'accent');
    return mark ? { markId: mark.id } : { frame: frameAt(seconds, rate) };
  };
  const from = player.time();
  const until = Math.min(from + length, frameTime(scoreOf(montage).frames, rate));
  if (until - from < frameTime(1, rate)) {
    toast('The song ends here, so there is nothing to lay a cutaway over. Move the playhead back first.');
    return;
  }
  // Where one hangs already, the second line is free.
  const [first, last] = [frameAt(from, rate), frameAt(until, rate)];
  const inTheWay = scoreOf(montage).over.some((s) => !s.placed?.shot.upper && s.start.frame < last && s.end.frame > first);
  const line = inTheWay ? { upper: true } : {};
  if (useEditor.getState().run({ do: 'hangOver', from: onMark(from, 0.1), to: onMark(until, 0.26), ...selectOf(found.wish), ...line }))
    useEditor
      .getState()
      .select({ slotStart: scoreOf(montageNow()).over.find((s) => s.placed?.shot.id === montageNow().shots.at(-1)?.id)?.start.id ?? null });
}
