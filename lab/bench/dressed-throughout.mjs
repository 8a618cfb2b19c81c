// A montage whose every shot, cut and bar wears something.
import * as core from '../../packages/core/dist/index.js';
import { there } from '../../scripts/there.mjs';

/** @typedef {import('../../packages/core/dist/index.js').Command} Command */

/** Dresses a montage throughout: looks, framing and moves on all shots, transitions on all cuts, effects on beats and bars, many titles. */
export function dressedThroughout(montage) {
  const { slots } = core.scoreOf(montage);
  const shots = slots.flatMap(({ placed }) => (placed ? [placed.shot.id] : []));
  const bars = montage.marks.filter(({ kind }) => kind === 'bar');
  const nth = (ids, of, rest) => ids.filter((_, i) => i % of === rest);
  /** @type {Command[]} */
  const commands = [
    {
      do: 'setTransition',
      pegIds: slots.slice(1).map(({ start }) => start.id),
      transition: { kind: 'dissolve', beats: 0.5, place: 'over' },
    },
    {
      do: 'setShotLooks',
      ids: nth(shots, 2, 0),
      looks: [
        { kind: 'warmth', strength: 0.4 },
        { kind: 'blur', strength: 0.2 },
      ],
    },
    { do: 'setShotLooks', ids: nth(shots, 2, 1), looks: [{ kind: 'grey', strength: 0.8 }] },
    { do: 'setView', ids: nth(shots, 3, 0), view: { x: 0.4, y: 0.5, zoom: 1.3, turn: 4 } },
    { do: 'setMoveRule', rule: { what: 'all', kinds: ['closer', 'drift'], strength: 0.3, ease: 'even' } },
    { do: 'addEffect', kind: 'shake', what: 'beat' },
    { do: 'addEffect', kind: 'dip', what: 'bar' },
    { do: 'addLook', kind: 'vignette', strength: 0.4 },
    { do: 'addLook', kind: 'grain', strength: 0.3 },
    { do: 'addLetterbox', aspect: 2.35 },
    ...bars.map((bar, i) => /** @type {Command} */ ({ do: 'addTitle', text: `bar ${i + 1}`, at: { markId: bar.id }, beats: 2 })),
    ...nth(bars, 5, 0).map(
      (bar, i) => /** @type {Command} */ ({ do: 'addLevel', of: 'song', at: { markId: bar.id }, level: i % 2 ? 1 : 0.6 }),
    ),
  ];
  return commands.reduce((dressed, command) => core.carryOut(dressed, command), montage);
}

/** Commands of dressing, and some that move what is dressed, on such a montage. @returns {Record<string, Command>} */
export function dressingCommands(montage) {
  const { slots } = core.scoreOf(montage);
  const shot = (n) => there(slots[n].placed).shot.id;
  const all = slots.flatMap(({ placed }) => (placed ? [placed.shot.id] : []));
  const [title, effect, look] = [there(montage.titles[100]), there(montage.effects[0]), there(montage.looks[0])];
  const beat = (n) => montage.marks[n].id;
  return {
    setTransition: { do: 'setTransition', pegIds: [slots[900].start.id], transition: { kind: 'wipe', beats: 1, place: 'over' } },
    setTransitionOnAll: {
      do: 'setTransition',
      pegIds: slots.slice(1).map(({ start }) => start.id),
      transition: { kind: 'push', beats: 0.5, place: 'over' },
    },
    setShotLook: { do: 'setShotLook', ids: [shot(900)], kind: 'warmth', strength: 0.1 },
    setShotLookOnAll: { do: 'setShotLook', ids: all, kind: 'contrast', strength: 0.2 },
    changeLook: { do: 'changeLook', id: look.id, strength: 0.2 },
    setView: { do: 'setView', ids: [shot(901)], view: { x: 0.4, y: 0.5, zoom: 1.2, turn: 0 } },
    setMoves: { do: 'setMoves', ids: [shot(900)], moves: [{ kind: 'closer', strength: 0.5, ease: 'out' }] },
    setMoveRule: { do: 'setMoveRule', rule: { what: 'photos', kinds: ['wider'], strength: 0.3, ease: 'even' } },
    addEffect: { do: 'addEffect', kind: 'flash', what: 'bar' },
    changeEffects: { do: 'changeEffects', ids: [effect.id], strength: 0.2 },
    thinFlashes: { do: 'thinFlashes' },
    addTitle: { do: 'addTitle', text: 'more', at: { markId: beat(1001) }, beats: 2 },
    changeTitle: { do: 'changeTitle', id: title.id, text: 'wind' },
    keepStyle: { do: 'keepStyle', titleId: title.id, name: 'quiet' },
    addLevel: { do: 'addLevel', of: 'clips', at: { markId: beat(1000) }, level: 0.5 },
    wearDressing: { do: 'wearDressing', dressing: there(core.DRESSINGS[2]) },
    moveMarks: { do: 'moveMarks', ids: [beat(900)], by: 0.02 },
    slipShot: { do: 'slipShot', id: shot(900), by: 0.1 },
    swapShots: { do: 'swapShots', a: shot(10), b: shot(1900) },
    rollCut: { do: 'rollCut', id: slots[900].start.id, to: { frame: slots[900].start.frame + 4 } },
  };
}
