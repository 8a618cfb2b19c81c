// Commands on a score of 2,000 slots with 500 clips, in core; and as multiples of one reading of the document from JSON,
// which is work of the same kind on the same machine.
import { there } from '../../scripts/there.mjs';
import { dressedThroughout, dressingCommands } from './dressed-throughout.mjs';
import * as core from '../../packages/core/dist/index.js';

const CLIPS = 500;
const SLOTS = 2000;

/** Time of the middle of some runs, ms. */
function middle(runs, work) {
  const times = Array.from({ length: runs }, () => {
    const from = performance.now();
    work();
    return performance.now() - from;
  });
  return times.sort((a, b) => a - b)[runs >> 1];
}

const clip = (i) => ({
  assetId: `clip-${i}`,
  kind: /** @type {const} */ ('clip'),
  name: `clip-${i}.mp4`,
  width: 1280,
  height: 720,
  rate: { num: 30, den: 1 },
  frames: 300 + ((i * 37) % 400),
  hasSound: i % 3 === 0,
  ...core.UNDESCRIBED,
  selects: i % 2 ? [{ id: `c${i}`, in: 1, out: 7, hit: 3 }] : [],
});

const seconds = SLOTS * 0.5;
let montage = core.carryOut(core.emptyMontage(), { do: 'setSong', assetId: 'song', name: 'song.wav', length: seconds });
montage = core.carryOut(montage, { do: 'takeBeatTimes', times: Array.from({ length: SLOTS }, (_, i) => i * 0.5), metre: 4 });
montage = core.carryOut(montage, { do: 'addFootage', items: Array.from({ length: CLIPS }, (_, i) => clip(i)) });
montage = core.carryOut(montage, { do: 'hangByRule', rule: { kind: 'pulse', unit: 'beat', every: 1 } });
const bare = montage;
montage = core.carryOut(montage, { do: 'fill', options: core.FILL_DEFAULTS });
const slots = core.scoreOf(montage).slots;
const text = JSON.stringify(montage);
const reading = middle(5, () => core.readMontage(JSON.parse(text)));

// A cut that was there before the music: 2,000 free cuts, each a little off a beat.
const laid = core.carryOut(
  { ...bare, pegs: [] },
  {
    do: 'layRun',
    at: 0,
    run: Array.from({ length: SLOTS }, (_, i) => ({ assetId: `clip-${i % CLIPS}`, in: 2, out: 2.5 + 0.05 * Math.sin(i) })),
  },
);
/**
 * Settling them, as planned beforehand.
 * @type {Record<string, import('../../packages/core/dist/index.js').Command>}
 */
const settling = Object.fromEntries(
  /** @type {const} */ (['roll', 'ripple', 'retime']).map((way) => {
    const options = { ...core.SETTLE_DEFAULTS, way, ease: /** @type {const} */ ('eased') };
    return [way, { do: /** @type {const} */ ('takeSettle'), plan: core.planSettle(laid, options), options }];
  }),
);
const at = (n) => slots[n];
const id = (n) => there(at(n).placed).shot.id;
const beats = montage.marks;
/** @type {Record<string, import('../../packages/core/dist/index.js').Command>} */
const commands = {
  hangPeg: { do: 'hangPeg', time: 500.21 },
  removePeg: { do: 'removePeg', id: at(900).start.id },
  rollCut: { do: 'rollCut', id: at(900).start.id, to: { frame: at(900).start.frame + 4 } },
  slideShot: { do: 'slideShot', id: id(900), to: 3 },
  divideSlot: { do: 'divideSlot', startPeg: at(900).start.id, by: 'half' },
  joinSlots: { do: 'joinSlots', startPeg: at(900).start.id },
  endShotAt: { do: 'endShotAt', frame: at(900).start.frame + 5 },
  hangByRule: { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } },
  pattern: { do: 'hangByRule', rule: { kind: 'pattern', bars: 1, steps: [true, false, false, true, false, true, false, false] } },
  hangShot: { do: 'hangShot', startPeg: at(900).start.id, assetId: 'clip-7' },
  slipShot: { do: 'slipShot', id: id(900), by: 0.2 },
  swapShots: { do: 'swapShots', a: id(10), b: id(1900) },
  insertShot: { do: 'insertShot', startPeg: at(10).start.id, assetId: 'clip-7' },
  removeShot: { do: 'removeShot', id: id(10) },
  extendShot: { do: 'extendShot', id: id(10), slots: 3 },
  goOnShot: { do: 'goOnShot', id: id(10), slots: 4, skip: 10 },
  hangOver: { do: 'hangOver', from: { frame: 900 }, to: { frame: 930 }, assetId: 'clip-7' },
  setRate: { do: 'setRate', id: id(900), rate: 0.8 },
  tieFrame: { do: 'tieFrame', id: id(900), markId: beats[900].id, source: 2 },
  faster: { do: 'hangByRule', rule: { kind: 'faster' } },
  even: { do: 'hangByRule', rule: { kind: 'even', frames: 17 } },
  halveBeats: { do: 'halveBeats' },
  doubleBeats: { do: 'doubleBeats' },
  shiftHalfBeat: { do: 'shiftHalfBeat' },
  shiftAllMarks: { do: 'shiftAllMarks', by: 0.01 },
  setSongRange: { do: 'setSongRange', pieces: [{ from: 10, to: 900 }] },
  removeFootage: { do: 'removeFootage', assetIds: ['clip-7'] },
  layRun: { do: 'layRun', at: 100, run: Array.from({ length: 50 }, () => ({ assetId: 'clip-7', in: 0, out: 2 })) },
  moveMarks: { do: 'moveMarks', ids: [beats[900].id], by: 0.02 },
  setCutRule: { do: 'setCutRule', rule: 'never-late', lead: 1 },
  lockShots: { do: 'lockShots', ids: [id(5)], locked: true },
  movePeg: { do: 'movePeg', id: at(900).start.id, to: { time: 450.1 } },
  takeDownShot: { do: 'takeDownShot', id: id(900) },
  replaceAt: { do: 'replaceAt', id: id(900), assetId: 'clip-7', source: 3, frame: at(900).start.frame + 2 },
  copyShot: { do: 'copyShot', id: id(900), startPeg: at(1200).start.id },
  setFraming: { do: 'setFraming', ids: slots.map((s) => there(s.placed).shot.id), framing: 'fit' },
  addMark: { do: 'addMark', kind: 'accent', time: 333.3 },
  setBarOne: { do: 'setBarOne', id: beats[1].id, metre: 3 },
  setMetreFrom: { do: 'setMetreFrom', id: beats[800].id, metre: 3 },
  layGrid: { do: 'layGrid', from: 100, to: 200, beats: 300 },
  loosenCuts: { do: 'loosenCuts', seed: 3, share: 0.4 },
  drawPegs: { do: 'drawPegs', ids: laid.pegs.map((p) => p.id) },
  settleByRolling: settling.roll,
  settleByRippling: settling.ripple,
  settleByRetiming: settling.retime,
};

const accented = core.carryOut(montage, {
  do: 'takeBeatTimes',
  times: Array.from({ length: 2 * SLOTS }, (_, i) => i * 0.25),
  metre: 4,
});
/** What some commands are carried out on, where it is not the filled score. */
const grounds = {
  settleByRolling: laid,
  settleByRippling: laid,
  settleByRetiming: laid,
  loosenCuts: accented,
  drawPegs: laid,
};

const knowledge = {
  energy: Object.fromEntries(slots.map((s, i) => [s.start.id, (i % 97) / 97])),
  looks: Object.fromEntries(
    montage.footage.map((f, i) => [
      core.candidateKey(f.assetId, f.selects[0]?.id ?? core.WHOLE_CLIP),
      {
        movement: (i % 31) / 31,
        brightness: (i % 17) / 17,
        sharpness: 0.5,
        colours: [`#${((i * 7919) % 0xffffff).toString(16).padStart(6, '0')}`],
      },
    ]),
  ),
};

/** The slowest command, filling, and the report; also as multiples of one reading of the document. */
export function benchScore() {
  // Once through everything, so that no command bears the compiling of what all of them use.
  const work = Object.entries(commands).map(([name, command]) => ({ name, command, on: grounds[name] ?? montage }));
  for (const { command, on } of work) for (let i = 0; i < 3; i++) core.scoreOf(core.carryOut(on, command));
  const spent = work.map(({ name, command, on }) => ({ name, ms: middle(9, () => core.carryOut(on, command)) }));
  // With the score after it, which the page needs at once.
  const withScore = work.map(({ name, command, on }) => ({ name, ms: middle(9, () => core.scoreOf(core.carryOut(on, command))) }));
  if (process.env.BLUSTER_EACH) for (const { name, ms } of spent) console.error(`${name} ${ms.toFixed(2)} ms`);
  const slowestOf = (all) => all.reduce((a, b) => (b.ms > a.ms ? b : a));
  const [slowest, slowestScored] = [slowestOf(spent), slowestOf(withScore)];
  const mean = (all) => all.reduce((sum, { ms }) => sum + ms, 0) / all.length;
  const story = middle(5, () => core.takePlan(bare, core.planFill({ ...bare }, core.FILL_DEFAULTS)));
  /** @type {import('../../packages/core/dist/index.js').Command} */
  const gaps = { do: 'remedyGaps', startPegs: slots.map((s) => s.start.id), remedy: 'fill' };
  const closed = middle(5, () => core.carryOut({ ...bare }, gaps));
  const match = middle(3, () => core.planFill({ ...bare }, { ...core.FILL_DEFAULTS, order: 'match' }, knowledge));
  const report = middle(3, () => core.syncReport({ ...montage }));
  const dressed = dressedThroughout(montage);
  const worn = Object.entries(dressingCommands(dressed));
  for (const [, command] of worn) for (let i = 0; i < 3; i++) core.carryOut(dressed, command);
  const dressing = worn.map(([name, command]) => ({ name, ms: middle(9, () => core.carryOut(dressed, command)) }));
  if (process.env.BLUSTER_EACH) for (const { name, ms } of dressing) console.error(`dressed: ${name} ${ms.toFixed(2)} ms`);
  const slowestWorn = slowestOf(dressing);
  let frame = 0;
  core.drawListAt(dressed, 0);
  const list = middle(99, () => core.drawListAt(dressed, (frame += 307)));
  // What an edit costs the preview: all that is remembered of the montage is worked out anew.
  const listAnew = middle(5, () => core.drawListAt({ ...dressed }, 15_000));
  return [
    { what: `slowest of ${spent.length} commands, 2,000 slots: ${slowest.name}`, value: slowest.ms, unit: ' ms', limit: 16 },
    { what: 'mean of them', value: mean(spent), unit: ' ms' },
    { what: `slowest with the score after it: ${slowestScored.name}`, value: slowestScored.ms, unit: ' ms' },
    { what: 'mean of them', value: mean(withScore), unit: ' ms' },
    { what: 'slowest command, in readings of the document', value: slowest.ms / reading, unit: 'x' },
    { what: 'fill 2,000 slots from 500 clips in story order', value: story, unit: ' ms', limit: 100 },
    { what: 'the same from the list of gaps', value: closed, unit: ' ms', limit: 100 },
    { what: 'the same by best match', value: match, unit: ' ms', limit: 2000 },
    { what: 'sync report of it', value: report, unit: ' ms' },
    { what: `dressed throughout, slowest of ${worn.length} commands: ${slowestWorn.name}`, value: slowestWorn.ms, unit: ' ms', limit: 16 },
    { what: 'mean of them', value: mean(dressing), unit: ' ms' },
    { what: 'what one frame of it shows, the middle one', value: list, unit: ' ms' },
    { what: 'the same after an edit', value: listAnew, unit: ' ms' },
  ];
}
