import { describe, expect, test } from '@jest/globals';
import type { Montage } from '../../document/montage.ts';
import { readMontage } from '../../document/read-montage.ts';
import { drawListAt } from '../../picture/draw-list.ts';
import { scoreOf } from '../../score/score.ts';
import { FILL_DEFAULTS } from '../../fill/fill-options.ts';
import { everyThing } from '../../testing/every-command.ts';
import { sampleClip, sampleMontage, samplePhoto } from '../../testing/sample-montage.ts';
import { placedLetterboxes } from '../letterbox.ts';
import { transitionsOf } from '../placed-transitions.ts';
import { DRESSINGS } from './all.ts';
import { readDressing } from './dressing.ts';
import { dressedIn } from './dressed-in.ts';
import { dressingOf } from './dressing-of.ts';
import { carryOut } from '../../commands/carry-out.ts';
import type { Command } from '../../commands/all.ts';

const act = (m: Montage, ...commands: Command[]): Montage => commands.reduce(carryOut, m);

/** A filled montage with two titles and a section, of another song than `everyThing`. */
function plain(): Montage {
  const m = act(
    sampleMontage(24, [sampleClip('x', 20), samplePhoto('y')]),
    {
      do: 'takeMarking',
      marking: {
        marks: [{ kind: 'drop', time: 8 }],
        sections: [
          { from: 0, name: 'A' },
          { from: 12, name: 'C' },
        ],
      } as never,
    },
    { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } },
    { do: 'fill', options: FILL_DEFAULTS },
  );
  return act(
    m,
    { do: 'addTitle', text: 'first', at: { time: 2 }, beats: 4 },
    { do: 'addTitle', text: 'second', at: { time: 10 }, beats: 4 },
    { do: 'toggleEffect', kind: 'punch', markId: m.marks[3]!.id, firing: [] },
  );
}

describe('dressings', () => {
  test('six ship, each with a name of its own, each worn as a montage that can be saved and drawn', () => {
    expect(DRESSINGS).toHaveLength(6);
    expect(new Set(DRESSINGS.map((d) => d.name)).size).toBe(6);
    for (const dressing of DRESSINGS) {
      expect(readDressing(JSON.parse(JSON.stringify(dressing)))).toEqual(dressing);
      const worn = dressedIn(plain(), dressing);
      expect(readMontage(JSON.parse(JSON.stringify(worn)))).toEqual(worn);
      for (let frame = 0; frame < scoreOf(worn).frames; frame += 37) expect(drawListAt(worn, frame).layers.length).toBeGreaterThan(0);
    }
  });
  test.each(DRESSINGS.map((d) => [d.name, d] as const))('%s taken off a montage is what was laid on it', (name, dressing) => {
    const taken = dressingOf(dressedIn(plain(), dressing), name);
    // There are two titles to take it from; those beyond the last are as the last.
    expect({ ...taken, titles: taken.titles.slice(0, 1) }).toEqual({ ...dressing, titles: dressing.titles.slice(0, 1) });
  });
  test('keep the words, the time and what was laid by hand on one mark', () => {
    const m = plain();
    const worn = act(m, { do: 'wearDressing', dressing: DRESSINGS[2]! });
    expect(worn.titles.map((t) => [t.text, t.from, t.beats])).toEqual(m.titles.map((t) => [t.text, t.from, t.beats]));
    expect(worn.effects[0]).toEqual(m.effects[0]);
    expect(worn.shots).toBe(m.shots);
    expect(worn.marks).toBe(m.marks);
  });
  test('one takes the place of another, with nothing of it left', () => {
    const twice = DRESSINGS.slice(0, 4).reduce(dressedIn, plain());
    const once = dressedIn(plain(), DRESSINGS[3]!);
    const bare = (m: Montage): unknown =>
      JSON.parse(
        JSON.stringify([m.effects, m.looks, m.letterboxes, m.moveRule, transitionsOf(m).length], (key, v: unknown) =>
          key === 'id' ? undefined : v,
        ),
      );
    expect(bare(twice)).toEqual(bare(once));
  });
  test('go from one song to another: sections by their names, letterboxes by their beats', () => {
    let m = everyThing();
    m = act(m, { do: 'addEffect', kind: 'shake', what: 'beat', section: m.song!.sections[0]!.id });
    m = act(m, { do: 'addEffect', kind: 'blur', what: 'bar', section: m.song!.sections[1]!.id });
    const worn = dressedIn(plain(), readDressing(JSON.parse(JSON.stringify(dressingOf(m, 'mine')))));
    const a = worn.song!.sections.find((s) => s.name === 'A')!;
    // There is an A here, and no B.
    expect(worn.effects.flatMap((e) => (e.on.kind === 'every' && e.kind === 'shake' ? [e.on.section] : []))).toEqual([a.id]);
    expect(worn.effects.some((e) => e.kind === 'blur')).toBe(false);
    expect(placedLetterboxes(worn)).toHaveLength(placedLetterboxes(m).length);
    expect(worn.tables.map((t) => t.colours)).toEqual(m.tables.map((t) => t.colours));
    expect(readMontage(JSON.parse(JSON.stringify(worn)))).toEqual(worn);
  });
  test('hold no file of a project', () => {
    let m = act(everyThing(), { do: 'addEffect', kind: 'sound', what: 'bar', assetId: 'bell' });
    m = act(m, { do: 'changeTitle', id: m.titles[0]!.id, face: 'quill' });
    const text = JSON.stringify(dressingOf(m, 'mine'));
    expect(text).not.toContain('quill');
    expect(text).not.toContain('bell');
  });
  test('what is none is said in a sentence', () => {
    expect(() => readDressing(null)).toThrow('This is not a Bluster dressing');
    expect(() => readDressing({ ...DRESSINGS[0], version: 9 })).toThrow('This is not a Bluster dressing');
    expect(() => readDressing({ ...DRESSINGS[0], looks: [{ kind: 'table', strength: 1, table: 'gone', section: null }] })).toThrow(
      'a table of colours that is not there',
    );
  });
});
