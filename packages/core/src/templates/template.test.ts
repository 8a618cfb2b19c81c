import { expect, test } from '@jest/globals';
import { carryOut } from '../commands/carry-out.ts';
import { FILL_DEFAULTS } from '../fill/fill-options.ts';
import { scoreOf } from '../score/score.ts';
import { everyThing } from '../testing/every-command.ts';
import { readTemplate, templateOf, writeTemplate } from './template.ts';

test('a template keeps slots, titles and dress, and no picture', () => {
  const m = everyThing();
  const template = templateOf(m);
  expect([template.footage, template.shots]).toEqual([[], []]);
  for (const part of ['song', 'marks', 'titles', 'effects', 'looks', 'styles', 'pegRule', 'sounds', 'faces', 'moveRule'] as const)
    expect(template[part]).toEqual(m[part]);
  expect(scoreOf(template).slots.map((s) => [s.start.frame, s.frames])).toEqual(scoreOf(m).slots.map((s) => [s.start.frame, s.frames]));
  expect(scoreOf(template).over).toEqual([]);
});

test('slots under one shot are one, and are filled again as such', () => {
  let m = everyThing();
  const [first, second] = scoreOf(m).slots;
  m = carryOut(m, { do: 'extendShot', id: first!.placed!.shot.id, slots: 2 });
  expect(scoreOf(m).slots[0]!.frames).toBe(first!.frames + second!.frames);
  const template = { ...templateOf(m), footage: m.footage };
  expect(scoreOf(template).slots.map((s) => s.frames)).toEqual(scoreOf(m).slots.map((s) => s.frames));
  const filled = carryOut(template, { do: 'fill', options: FILL_DEFAULTS });
  expect(scoreOf(filled).slots[0]!.placed).not.toBeNull();
});

test('it goes out and in; what is none is refused in a sentence', () => {
  const template = { name: 'Hill morning', note: 'slow and wide', montage: templateOf(everyThing()) };
  const written: unknown = JSON.parse(writeTemplate(template));
  expect(readTemplate(written)).toEqual(template);
  expect(() => readTemplate({ ...(written as object), format: 'other' })).toThrow('This is not a Bluster template');
  expect(() => readTemplate({ ...(written as object), montage: everyThing() })).toThrow('it holds shots');
  expect(() => readTemplate({ ...(written as object), montage: { ...template.montage, version: 99 } })).toThrow(/newer|version/);
});
