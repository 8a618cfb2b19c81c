import type { Ask, Command, CommandName } from '../commands/all.ts';
import { carryOut } from '../commands/carry-out.ts';
import type { Montage } from '../document/montage.ts';
import { FILL_DEFAULTS } from '../fill/fill-options.ts';
import { DRESSINGS } from '../finish/dressings/all.ts';
import { planFill } from '../fill/fill.ts';
import { scoreOf, type Slot } from '../score/score.ts';
import { planSettle, SETTLE_DEFAULTS } from '../settle/settle.ts';
import { sampleClip, sampleMontage, samplePhoto } from './sample-montage.ts';

/** A montage with something of everything in it. */
export function everyThing(): Montage {
  const clips = [sampleClip('a', 4), sampleClip('b', 1.2), sampleClip('c', 9, { rate: { num: 25, den: 1 } }), samplePhoto('p')];
  const commands: ((m: Montage) => Command)[] = [
    () => ({ do: 'addSounds', sounds: [{ assetId: 'bell', name: 'bell.wav', length: 1, hit: 0.4 }] }),
    () => ({ do: 'setSelect', assetId: 'c', selectId: null, in: 1, out: 6 }),
    (m) => ({ do: 'setHit', assetId: 'c', selectId: m.footage[2]!.selects[0]!.id, hit: 3 }),
    () => ({
      do: 'takeMarking',
      marking: {
        marks: [{ kind: 'cue', time: 7, label: 'now' }],
        sections: [
          { from: 0, name: 'A' },
          { from: 8, name: 'B' },
        ],
      },
    }),
    () => ({ do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } }),
    () => ({ do: 'fill', options: FILL_DEFAULTS }),
    (m) => ({ do: 'setRate', id: m.shots.find((s) => s.assetId === 'b')!.id, rate: 1 }),
    (m) => ({ do: 'movePeg', id: m.pegs.at(-1)!.id, to: { time: 18.2 } }),
    (m) => ({ do: 'removeMarks', ids: [m.marks.find((k) => k.time === 14.5)!.id] }),
    () => ({ do: 'hangOver', from: { frame: 100 }, to: { frame: 140 }, assetId: 'a' }),
    () => ({ do: 'addEffect', kind: 'flash', what: 'bar' }),
    () => ({ do: 'addEffect', kind: 'strobe', what: 'bar' }),
    (m) => ({ do: 'addTitle', text: 'kites', at: { markId: m.marks[4]!.id }, beats: 4 }),
    (m) => ({ do: 'addLetterbox', aspect: 2.39, span: { to: { markId: m.marks[8]!.id }, fall: 1 } }),
    (m) => ({ do: 'addFade', colour: '#000000', span: { from: { markId: m.marks[20]!.id }, to: { markId: m.marks[24]!.id }, rise: 1 } }),
    () => ({ do: 'addTable', name: 'evening.cube', colours: 'B'.repeat(19_652) }),
    (m) => ({ do: 'addLook', kind: 'table', strength: 0.5, table: m.tables[0]!.id }),
    (m) => ({ do: 'setMoves', ids: [m.shots[2]!.id], moves: [{ kind: 'drift', strength: 0.4, ease: 'even' }] }),
    (m) => ({ do: 'keepStyle', titleId: m.titles[0]!.id, name: 'loud' }),
    () => ({ do: 'addFaces', faces: [{ assetId: 'quill', name: 'quill.ttf' }] }),
    () => ({ do: 'addLevel', of: 'song', at: { time: 3 }, level: 0.4 }),
    (m) => ({ do: 'tieFrame', id: m.shots[0]!.id, markId: m.marks[2]!.id, source: 1.5 }),
  ];
  return commands.reduce((m, command) => carryOut(m, command(m)), sampleMontage(20, clips));
}

const slot = (m: Montage, n: number): Slot => scoreOf(m).slots[n]!;
const shot = (m: Montage, n: number): string => slot(m, n).placed!.shot.id;
const peg = (m: Montage, n: number): string => slot(m, n).start.id;
const beat = (m: Montage, n: number): string => m.marks.filter((mark) => mark.kind === 'beat')[n]!.id;
const select = (m: Montage): { assetId: string; selectId: string } => ({ assetId: 'c', selectId: m.footage[2]!.selects[0]!.id });

/** A way to ask for each command there is, on `everyThing` or what became of it, and what asking the same again does. */
export const EVERY_COMMAND: {
  readonly [N in CommandName]: { readonly ask: (m: Montage) => Ask<N>; readonly again: 'nothing' | 'more' | 'refused' };
} = {
  setShape: { ask: () => ({ shape: { width: 720, height: 1280, rate: { num: 25, den: 1 } } }), again: 'nothing' },
  setCutRule: { ask: () => ({ rule: 'never-late', lead: 1 }), again: 'nothing' },
  setSong: { ask: () => ({ assetId: 'other', name: 'other.wav', length: 12 }), again: 'nothing' },
  setSongRange: { ask: () => ({ pieces: [{ from: 0, to: 16 }] }), again: 'nothing' },
  setFades: { ask: () => ({ fadeIn: 1, fadeOut: 2 }), again: 'nothing' },
  nameSection: { ask: (m) => ({ id: m.song!.sections[1]!.id, name: 'flight' }), again: 'nothing' },
  setAccentFloor: { ask: () => ({ floor: { low: 0.5, mid: 0.5, high: 0.5, voice: 0.5 } }), again: 'nothing' },

  takeDetection: {
    ask: () => ({
      detection: {
        beats: Array.from({ length: 40 }, (_, i) => ({ time: 0.25 + i / 2, downbeat: i % 3 === 0, confidence: 1 })),
        sections: [{ from: 0.25, name: 'A' }],
        drops: [8.25],
        accents: [{ time: 1, band: 'low', strength: 0.9 }],
        metre: 3,
        tempo: 120,
        length: 20,
      } as unknown as Ask<'takeDetection'>['detection'],
    }),
    again: 'more',
  },
  takeReading: {
    ask: () => ({
      reading: {
        chance: 0.3,
        beats: Array.from({ length: 20 }, (_, i) => ({ time: 0.25 + i, downbeat: i % 4 === 1, confidence: 1 })),
        sections: [{ from: 1.25, name: 'A' }],
        drops: [9.25],
        metre: 4,
        bpm: 60,
        tempo: [],
      },
    }),
    again: 'more',
  },
  takeBeats: { ask: () => ({ from: 2, to: 4, beats: [{ time: 2.5, downbeat: false, confidence: 1 }] }), again: 'more' },
  takeTaps: { ask: () => ({ taps: [{ kind: 'beat', time: 3.25 }], how: 'add' }), again: 'more' },
  takeMarking: { ask: () => ({ marking: { marks: [{ kind: 'drop', time: 8 }], sections: [] } }), again: 'more' },
  takeBeatTimes: { ask: () => ({ times: [1, 2, 3, 4], metre: 2 }), again: 'more' },
  addMark: { ask: () => ({ kind: 'drop', time: 8 }), again: 'nothing' },
  moveMarks: { ask: (m) => ({ ids: [beat(m, 1)], by: 0.01 }), again: 'more' },
  placeMarks: { ask: (m) => ({ places: [{ id: beat(m, 1), time: 1.1 }] }), again: 'nothing' },
  lockMarks: { ask: (m) => ({ ids: [beat(m, 1)], locked: true }), again: 'nothing' },
  setLabel: { ask: (m) => ({ id: m.marks.find((k) => k.kind === 'cue')!.id, label: 'later' }), again: 'nothing' },
  layGrid: { ask: () => ({ from: 2, to: 6, beats: 8 }), again: 'more' },
  fillHoles: { ask: () => ({ from: 0, to: 20 }), again: 'refused' },
  setMetreFrom: { ask: (m) => ({ id: beat(m, 0), metre: 3 }), again: 'nothing' },
  shiftAllMarks: { ask: () => ({ by: 0.01 }), again: 'more' },
  removeMarks: { ask: (m) => ({ ids: [beat(m, 1)] }), again: 'nothing' },
  setMarkKind: { ask: (m) => ({ id: beat(m, 1), kind: 'drop' }), again: 'nothing' },
  setBarOne: { ask: (m) => ({ id: beat(m, 0), metre: 4 }), again: 'nothing' },
  halveBeats: { ask: () => ({}), again: 'more' },
  doubleBeats: { ask: () => ({}), again: 'more' },
  shiftHalfBeat: { ask: () => ({}), again: 'more' },

  addFootage: { ask: () => ({ items: [sampleClip('new', 3)] }), again: 'nothing' },
  removeFootage: { ask: () => ({ assetIds: ['b'] }), again: 'nothing' },
  orderFootage: { ask: () => ({ assetIds: ['p', 'c', 'b', 'a'] }), again: 'nothing' },
  setSelect: { ask: (m) => ({ ...select(m), in: 1, out: 5 }), again: 'nothing' },
  addSelects: { ask: () => ({ assetId: 'a', stretches: [{ in: 0, out: 2 }], how: 'replace' }), again: 'more' },
  removeSelect: { ask: select, again: 'nothing' },
  setHit: { ask: (m) => ({ ...select(m), hit: 2 }), again: 'nothing' },
  takeHits: { ask: (m) => ({ hits: [{ ...select(m), hit: 2.4 }] }), again: 'nothing' },
  describeFootage: { ask: () => ({ assetIds: ['a'], rating: 4, note: 'good', addTags: ['sky'] }), again: 'nothing' },
  setFocus: { ask: () => ({ assetId: 'a', x: 0.2, y: 0.3 }), again: 'nothing' },
  setFootageFraming: { ask: () => ({ assetIds: ['a'], framing: 'fit' }), again: 'nothing' },
  addSounds: { ask: () => ({ sounds: [{ assetId: 'gong', name: 'gong.wav', length: 1, hit: 0 }] }), again: 'nothing' },
  removeSounds: { ask: () => ({ assetIds: ['bell'] }), again: 'nothing' },
  setSoundHit: { ask: () => ({ assetId: 'bell', hit: 0.6 }), again: 'nothing' },

  hangByRule: { ask: () => ({ rule: { kind: 'pulse', unit: 'beat', every: 2 } }), again: 'nothing' },
  hangPeg: { ask: (m) => ({ markId: beat(m, 1) }), again: 'nothing' },
  removePeg: { ask: (m) => ({ id: peg(m, 2) }), again: 'refused' },
  movePeg: { ask: (m) => ({ id: peg(m, 2), to: { time: 3.7 } }), again: 'nothing' },
  divideSlot: { ask: (m) => ({ startPeg: peg(m, 1), by: 'half' }), again: 'more' },
  joinSlots: { ask: (m) => ({ startPeg: peg(m, 1) }), again: 'more' },
  loosenCuts: { ask: () => ({ seed: 1, share: 0.5 }), again: 'more' },
  rollCut: { ask: (m) => ({ id: peg(m, 2), to: { frame: scoreOf(m).slots[2]!.start.frame + 3 } }), again: 'nothing' },
  slideShot: { ask: (m) => ({ id: shot(m, 2), to: 2 }), again: 'more' },
  endShotAt: { ask: () => ({ frame: 83 }), again: 'refused' },
  startNextAt: { ask: () => ({ frame: 83 }), again: 'refused' },
  drawPegs: { ask: (m) => ({ ids: [peg(m, 2)] }), again: 'more' },

  fill: { ask: () => ({ options: { ...FILL_DEFAULTS, order: 'shuffle', seed: 4 } }), again: 'nothing' },
  takeFill: { ask: (m) => ({ plan: planFill(m, { ...FILL_DEFAULTS, order: 'shuffle', seed: 4 }) }), again: 'nothing' },
  hangShot: { ask: (m) => ({ startPeg: peg(m, 1), assetId: 'c' }), again: 'nothing' },
  takeDownShot: { ask: (m) => ({ id: shot(m, 1) }), again: 'nothing' },
  slipShot: { ask: (m) => ({ id: shot(m, 2), by: 0.2 }), again: 'more' },
  replaceShot: { ask: (m) => ({ id: shot(m, 1), assetId: 'p' }), again: 'nothing' },
  replaceAt: { ask: (m) => ({ id: shot(m, 1), assetId: 'c', source: 3, frame: 70 }), again: 'nothing' },
  swapShots: { ask: (m) => ({ a: shot(m, 1), b: shot(m, 2) }), again: 'more' },
  insertShot: { ask: (m) => ({ startPeg: peg(m, 1), assetId: 'p' }), again: 'more' },
  removeShot: { ask: (m) => ({ id: shot(m, 1) }), again: 'refused' },
  extendShot: { ask: (m) => ({ id: shot(m, 1), slots: 2 }), again: 'nothing' },
  copyShot: { ask: (m) => ({ id: shot(m, 1), startPeg: peg(m, 3) }), again: 'nothing' },
  goOnShot: { ask: (m) => ({ id: shot(m, 2), slots: 1, skip: 2 }), again: 'nothing' },
  hangOver: { ask: () => ({ from: { frame: 200 }, to: { frame: 230 }, assetId: 'p' }), again: 'nothing' },
  lockShots: { ask: (m) => ({ ids: [shot(m, 1)], locked: true }), again: 'nothing' },
  remedyGaps: { ask: (m) => ({ startPegs: scoreOf(m).slots.map((s) => s.start.id), remedy: 'hold' }), again: 'refused' },
  layRun: { ask: () => ({ run: [{ assetId: 'c', in: 0, out: 2 }], at: 60 }), again: 'more' },

  setRate: { ask: (m) => ({ id: shot(m, 2), rate: 0.5 }), again: 'nothing' },
  fitShot: { ask: (m) => ({ id: shot(m, 2) }), again: 'nothing' },
  freezeShot: { ask: (m) => ({ id: shot(m, 1), source: 1 }), again: 'nothing' },
  reverseShot: { ask: (m) => ({ id: shot(m, 2) }), again: 'more' },
  tieFrame: { ask: (m) => ({ id: shot(m, 0), markId: beat(m, 1), source: 1 }), again: 'nothing' },
  untieFrame: { ask: (m) => ({ id: shot(m, 0), markId: m.marks[2]!.id }), again: 'nothing' },
  setEase: { ask: (m) => ({ id: shot(m, 0), ease: 'eased' }), again: 'nothing' },
  setSourceOut: { ask: (m) => ({ id: shot(m, 0), sourceOut: 3.5 }), again: 'nothing' },
  setBlend: { ask: (m) => ({ ids: [shot(m, 2)], blend: true }), again: 'nothing' },
  setFraming: { ask: (m) => ({ ids: [shot(m, 2)], framing: 'fit' }), again: 'nothing' },
  setShotSound: { ask: (m) => ({ ids: [shot(m, 2)], level: 0.5 }), again: 'nothing' },
  setWhenShort: { ask: (m) => ({ ids: [shot(m, 2)], whenShort: 'hold' }), again: 'nothing' },

  addEffect: { ask: () => ({ kind: 'shake', what: 'beat' }), again: 'refused' },
  toggleEffect: { ask: (m) => ({ kind: 'dip', markId: beat(m, 3), firing: [] }), again: 'more' },
  changeEffects: { ask: (m) => ({ ids: m.effects.map((e) => e.id), strength: 0.3 }), again: 'nothing' },
  removeEffects: { ask: (m) => ({ ids: m.effects.map((e) => e.id) }), again: 'nothing' },
  setTransition: { ask: (m) => ({ pegIds: [peg(m, 1)], transition: { kind: 'dissolve', beats: 1, place: 'over' } }), again: 'nothing' },
  setPictureFades: { ask: () => ({ in: 1, out: 1 }), again: 'nothing' },
  thinFlashes: { ask: () => ({}), again: 'nothing' },
  addLetterbox: {
    ask: (m) => ({ aspect: 2.35, span: { from: { markId: beat(m, 2) }, to: { markId: beat(m, 6) }, rise: 1 } }),
    again: 'more',
  },
  changeLetterbox: { ask: (m) => ({ id: m.letterboxes[0]!.id, aspect: 2 }), again: 'nothing' },
  removeLetterboxes: { ask: (m) => ({ ids: m.letterboxes.map((l) => l.id) }), again: 'nothing' },
  addFade: {
    ask: (m) => ({ colour: '#102030', span: { from: { markId: beat(m, 2) }, to: { time: 6 }, rise: 1, fall: 1 } }),
    again: 'more',
  },
  changeFade: { ask: (m) => ({ id: m.fades[0]!.id, colour: '#ffffff', span: { rise: 2 } }), again: 'nothing' },
  removeFades: { ask: (m) => ({ ids: m.fades.map((f) => f.id) }), again: 'nothing' },
  setShotLook: { ask: (m) => ({ ids: [shot(m, 1)], kind: 'warmth', strength: 0.4 }), again: 'nothing' },
  setShotLooks: { ask: (m) => ({ ids: [shot(m, 1), shot(m, 2)], looks: [{ kind: 'grey', strength: 1 }] }), again: 'nothing' },
  addLook: { ask: (m) => ({ kind: 'blur', strength: 0.5, span: { from: { markId: beat(m, 2) }, rise: 1 } }), again: 'more' },
  changeLook: { ask: (m) => ({ id: m.looks[0]!.id, strength: 0.2, span: null }), again: 'nothing' },
  removeLooks: { ask: (m) => ({ ids: m.looks.map((l) => l.id) }), again: 'nothing' },
  addTable: { ask: () => ({ name: 'dusk.cube', colours: 'A'.repeat(19_652) }), again: 'nothing' },
  removeTable: { ask: (m) => ({ id: m.tables[0]!.id }), again: 'nothing' },
  setView: { ask: (m) => ({ ids: [shot(m, 1)], view: { x: 0.4, y: 0.5, zoom: 1.3, turn: 4 } }), again: 'nothing' },
  setShapeView: {
    ask: (m) => ({ ids: [shot(m, 1)], shape: '9:16', stands: { framing: 'fill', view: { x: 0.3, y: 0.5, zoom: 1.2, turn: 0 } } }),
    again: 'nothing',
  },
  setBorder: { ask: (m) => ({ ids: [shot(m, 1)], border: 'blurred' }), again: 'nothing' },
  setMoves: {
    ask: (m) => ({ ids: [shot(m, 1)], moves: [{ kind: 'closer', strength: 0.5, ease: 'out', to: { markId: beat(m, 6) } }] }),
    again: 'nothing',
  },
  moveByTurns: {
    ask: (m) => ({
      ids: [shot(m, 1), shot(m, 2)],
      moves: [
        { kind: 'closer', strength: 0.5, ease: 'even' },
        { kind: 'wider', strength: 0.5, ease: 'even' },
      ],
    }),
    again: 'nothing',
  },
  setMoveRule: { ask: () => ({ rule: { what: 'all', kinds: ['drift'], strength: 0.3, ease: 'even' } }), again: 'nothing' },
  addTitle: { ask: (m) => ({ text: 'more', at: { markId: beat(m, 6) }, beats: 2 }), again: 'more' },
  changeTitle: { ask: (m) => ({ id: m.titles[0]!.id, text: 'wind' }), again: 'nothing' },
  removeTitles: { ask: (m) => ({ ids: m.titles.map((t) => t.id) }), again: 'nothing' },

  keepStyle: { ask: (m) => ({ titleId: m.titles[0]!.id, name: 'quiet' }), again: 'refused' },
  wearStyle: { ask: (m) => ({ ids: m.titles.map((t) => t.id), style: null }), again: 'nothing' },
  renameStyle: { ask: (m) => ({ id: m.styles[0]!.id, name: 'windy' }), again: 'nothing' },
  removeStyle: { ask: (m) => ({ id: m.styles[0]!.id }), again: 'nothing' },
  addFaces: { ask: () => ({ faces: [{ assetId: 'reed', name: 'reed.otf' }] }), again: 'nothing' },
  removeFace: { ask: () => ({ assetId: 'quill' }), again: 'nothing' },

  setCutaways: {
    ask: (m) => ({
      ids: m.shots.filter((s) => s.over).map((s) => s.id),
      opacity: 0.5,
      inset: { x: 0.8, y: 0.2, size: 0.3 },
      comes: { kind: 'slide', beats: 1, way: 'left' },
    }),
    again: 'nothing',
  },
  addLevel: { ask: (m) => ({ of: 'clips', at: { markId: beat(m, 4) }, level: 1.5 }), again: 'nothing' },
  moveLevel: { ask: (m) => ({ id: m.levels[0]!.id, at: { time: 4 }, level: 0.2 }), again: 'nothing' },
  removeLevels: { ask: (m) => ({ ids: m.levels.map((l) => l.id) }), again: 'nothing' },
  setDucking: { ask: () => ({ by: 6 }), again: 'nothing' },
  setDucks: { ask: (m) => ({ ids: [shot(m, 1)], ducks: true }), again: 'nothing' },
  wearDressing: { ask: () => ({ dressing: DRESSINGS[2]! }), again: 'more' },

  carryOver: {
    ask: () => ({
      source: carryOut(everyThing(), { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 2 } }),
      wish: { reach: 'all' },
    }),
    again: 'nothing',
  },

  takeSettle: { ask: (m) => ({ plan: planSettle(m, SETTLE_DEFAULTS), options: SETTLE_DEFAULTS }), again: 'nothing' },
};
