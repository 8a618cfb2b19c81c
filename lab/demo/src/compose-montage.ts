// Composes the demo montage from the generated material: marks by detection, pegs that vary, slots filled in story order,
// one gap and one slowed shot left to do. Assets are named by their files; the server puts its own ids in their place.
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import {
  ANALYSIS_RATE,
  FILL_DEFAULTS,
  UNDESCRIBED,
  OnsetMeter,
  carryOut,
  detectIn,
  emptyMontage,
  marksByRule,
  scoreOf,
  type Command,
  type FootageItem,
  type Montage,
} from '@bluster/core';
import { probe } from '@bluster/media/probe/probe';
import { hearSound } from '@bluster/media/sound/sound';
import { CLIPS } from './clips.ts';
import { PHOTOS } from './photos.ts';

const media = join(import.meta.dirname, '../../../demo/media');
const SONG = 'gust-on-the-down.ogg';
const STORY = [
  'morning-hill.jpg',
  'cloud-race.mp4',
  'launch-line.mp4',
  'windsock.mp4',
  'kids-run.mp4',
  'marshal.mp4',
  'ribbon-box.jpg',
  'crowd-hill.mp4',
  'red-delta.mp4',
  'drum.mp4',
  'box-kite.mp4',
  'tail-close.mp4',
  'three-deltas.png',
  'reel-hands.mp4',
  'dive.mp4',
  'two-cross.mp4',
  'flag-row.mp4',
  'grandfather.jpg',
  'snap.mp4',
  'lantern-girl.jpg',
  'dusk-wide.mp4',
  'last-light.webp',
];

let selectsMade = 0;

async function footageItem(file: string): Promise<FootageItem> {
  const photo = PHOTOS.find((p) => p.file === file);
  if (photo) {
    const { width, height } = await sharp(join(media, file))
      .rotate()
      .toBuffer({ resolveWithObject: true })
      .then((r) => r.info);
    return {
      assetId: file,
      kind: 'photo',
      name: file,
      width,
      height,
      rate: { num: 1, den: 1 },
      frames: 1,
      hasSound: false,
      ...UNDESCRIBED,
    };
  }
  const { video, sound, length } = await probe(join(media, file), file);
  const clip = CLIPS.find((c) => `${c.name}.mp4` === file)!;
  const { width, height, rate, frames } = video!;
  // The stretch worth using starts a little before the action, which is its hit.
  const on = (seconds: number): number => Math.round(seconds * clip.fps) / clip.fps;
  const from = clip.length > 3 ? Math.max(0, on(clip.actions[0]! - 0.5)) : 0;
  const selects = [{ id: `c${++selectsMade}`, in: from, out: length, hit: on(clip.actions[0]!) }];
  return { assetId: file, kind: 'clip', name: file, width, height, rate, frames, hasSound: sound !== null, ...UNDESCRIBED, selects };
}

const items: FootageItem[] = [];
for (const file of STORY) items.push(await footageItem(file));
const heard = new OnsetMeter(ANALYSIS_RATE);
await hearSound(join(media, SONG), (samples) => heard.push(samples));
const { signal, onsets } = heard.finish();
const detection = detectIn(signal, onsets);

let montage: Montage = { ...emptyMontage(), lastId: selectsMade };
const act = (command: Command): void => void (montage = carryOut(montage, command));
act({ do: 'setSong', assetId: SONG, name: SONG, length: detection.length });
act({ do: 'takeDetection', detection });
act({ do: 'addFootage', items });
act({ do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } });
// Closer cuts where the music is full, a rest where it is not.
const beats = marksByRule(montage, { kind: 'pulse', unit: 'beat', every: 1 });
const bars = beats.filter((m) => m.kind === 'bar');
const beatOf = (bar: number, beat: number): string => beats[beats.findIndex((m) => m.id === bars[bar]!.id) + beat]!.id;
for (const [bar, beat] of [
  [8, 2],
  [9, 2],
  [11, 2],
  [11, 3],
  [13, 2],
  [15, 1],
  [15, 2],
  [15, 3],
  [21, 2],
  [23, 2],
  [25, 2],
  [25, 3],
] as const) {
  const at = bars[0]!.time < 0.25 ? bar : bar - 1; // the first bar is the start itself when it has no peg
  act({ do: 'hangPeg', markId: beatOf(at, beat) });
}
const pegOnBar = (bar: number): string => montage.pegs.find((p) => p.markId === bars[bar]?.id)?.id ?? '';
for (const bar of [1, 3, 17]) if (pegOnBar(bar)) act({ do: 'removePeg', id: pegOnBar(bar) });
act({ do: 'fill', options: FILL_DEFAULTS });
const breakSlot = scoreOf(montage).slots.find((s) => s.start.time > 30 && s.length > 3)!;
act({ do: 'hangShot', startPeg: breakSlot.start.id, assetId: 'snap.mp4' });
const gap = scoreOf(montage).slots.find((s) => s.index > breakSlot.index)!;
if (gap.placed) act({ do: 'takeDownShot', id: gap.placed.shot.id });
const vertical = scoreOf(montage).slots.filter((s) => s.placed && s.placed.item.height > s.placed.item.width);
act({ do: 'setFraming', ids: vertical.slice(1).map((s) => s.placed!.shot.id), framing: 'fit' });
act({ do: 'setFades', fadeIn: 0, fadeOut: 1.5 });

// What detection calls by letters has names here.
for (const [i, name] of ['intro', 'build', 'drop', 'break', 'drop', 'outro'].entries()) {
  const heard = montage.song!.sections[i];
  if (heard) act({ do: 'nameSection', id: heard.id, name });
}
// Dressed lightly: a title at the start and one near the end, softer cuts into quiet sections, blows on the full ones.
const { sections } = montage.song!;
const section = (name: string, nth = 0): (typeof sections)[number] => sections.filter((s) => s.name === name)[nth]!;
const sectionStart = (name: string): number => section(name).from;
const barAt = (time: number): string => bars.reduce((a, b) => (Math.abs(b.time - time) < Math.abs(a.time - time) ? b : a)).id;
const pegAt = (time: number): string[] => montage.pegs.flatMap((p) => (p.markId === barAt(time) ? [p.id] : []));
const titles = [
  { text: 'KITE DAY\non the Down', time: 0, beats: 6, look: { enter: 'middle', size: 0.13, face: 'round' } },
  { text: 'until next autumn', time: sectionStart('outro'), beats: 6, look: { enter: 'fade', size: 0.1, face: 'hand', weight: 'bold' } },
] as const;
for (const { text, time, beats: long, look } of titles) {
  act({ do: 'addTitle', text, at: { markId: barAt(time) }, beats: long });
  act({ do: 'changeTitle', id: montage.titles.at(-1)!.id, ...look });
}
// Before the wind comes back, a word on each beat.
const second = beats.findIndex((m) => m.id === barAt(section('drop', 1).from));
act({ do: 'addTitle', text: 'hold on tight', at: { markId: beats[second - 4]!.id }, beats: 4 });
act({ do: 'changeTitle', id: montage.titles.at(-1)!.id, enter: 'marks', wordsOn: 'beat', enterBeats: 0.25, size: 0.15, face: 'shop', colour: 'gold' });
for (const [i, name] of ['Festival sign', 'Last words', 'Called out'].entries())
  act({ do: 'keepStyle', titleId: montage.titles[i]!.id, name });
const soft = [...pegAt(sectionStart('build')), ...pegAt(sectionStart('break')), ...pegAt(sectionStart('outro'))];
act({ do: 'setTransition', pegIds: soft, transition: { kind: 'dissolve', beats: 2, place: 'over' } });
act({ do: 'addEffect', kind: 'flash', what: 'drop' });
act({ do: 'addEffect', kind: 'shake', what: 'drop' });
act({ do: 'addEffect', kind: 'punch', what: 'bar', section: section('drop').id });
act({ do: 'addEffect', kind: 'punch', what: 'bar', section: section('drop', 1).id });
act({ do: 'setPictureFades', in: 0, out: 1.5 });
// Bars that open as the wind comes up, photos that the frame goes over by turns, a paler break and a warmer end, soft focus under the
// last words; upright pictures stand before themselves.
const from = (name: string): { markId: string } => ({ markId: barAt(sectionStart(name)) });
act({ do: 'addLetterbox', aspect: 2.39, span: { to: from('build'), fall: 4 } });
act({ do: 'setMoveRule', rule: { what: 'photos', kinds: ['closer', 'left', 'wider', 'right'], strength: 0.3, ease: 'in-and-out' } });
act({ do: 'setBorder', ids: vertical.slice(1).map((s) => s.placed!.shot.id), border: 'blurred' });
act({ do: 'addLook', kind: 'vignette', strength: 0.35 });
act({ do: 'addLook', kind: 'saturation', strength: -0.35, section: section('break').id });
act({ do: 'addLook', kind: 'warmth', strength: 0.3, section: section('outro').id });
const lastWords = beats.findIndex((m) => m.id === barAt(sectionStart('outro')));
const afterWords = { markId: beats[lastWords + 6]!.id };
act({ do: 'addLook', kind: 'blur', strength: 0.35, span: { from: from('outro'), to: afterWords, rise: 1, fall: 1 } });
act({ do: 'addEffect', kind: 'surge', what: 'drop' });
// While somebody waits for wind, the hands at the reel in a corner.
const waiting = scoreOf(montage).slots.find((s) => s.start.time > sectionStart('build') && s.placed)!;
act({ do: 'hangOver', from: { markId: waiting.start.peg!.markId! }, to: { markId: waiting.end.peg!.markId! }, assetId: 'reel-hands.mp4' });
act({
  do: 'setCutaways',
  ids: montage.shots.filter((s) => s.over).map((s) => s.id),
  inset: { x: 0.8, y: 0.25, size: 0.34 },
  comes: { kind: 'slide', beats: 0.5, way: 'left' },
  goes: { kind: 'dissolve', beats: 0.5 },
});
const opening = scoreOf(montage).slots.find((s) => s.start.time < 5 && s.placed && s.frames > 80)!;
act({ do: 'setMoves', ids: [opening.placed!.shot.id], moves: [{ kind: 'drift', strength: 0.6, ease: 'even' }] });

writeFileSync(join(media, 'kite-day.montage.json'), `${JSON.stringify(montage)}\n`);
const score = scoreOf(montage);
console.log(
  `${score.slots.length} slots, ${score.slots.filter((s) => s.placed).length} filled, slowed: ${score.slots
    .filter((s) => (s.placed?.speed ?? 1) < 1)
    .map((s) => s.placed!.item.name)
    .join(', ')}`,
);
