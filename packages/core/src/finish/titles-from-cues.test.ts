import { expect, test } from '@jest/globals';
import type { Montage } from '../document/montage.ts';
import { sampleMontage } from '../testing/sample-montage.ts';
import { placedTitles } from './titles.ts';
import { spokenCues, titlesFromCues } from './titles-from-cues.ts';
import { carryOut } from '../commands/carry-out.ts';
import type { Command } from '../commands/all.ts';

const act = (m: Montage, ...commands: Command[]): Montage => commands.reduce(carryOut, m);
const cues = [
  { kind: 'cue', time: 2, label: 'up' },
  { kind: 'cue', time: 3.5, label: ' and away ' },
  { kind: 'cue', time: 4, label: '' },
  { kind: 'cue', time: 12, label: 'home' },
] as const;
const sung = (): Montage => act(sampleMontage(20), { do: 'takeMarking', marking: { marks: cues, sections: [] } });

test('each cue with a word becomes a title from it on to the next, but not for ever', () => {
  const m = titlesFromCues(sung(), { longest: 8 });
  expect(placedTitles(m).map(({ title, from, to }) => [title.text, from, to])).toEqual([
    ['up', 60, 105],
    ['and away', 105, 225],
    ['home', 360, 480],
  ]);
  expect(spokenCues(m)).toHaveLength(3);
});

test('titles go with their cues when those are moved', () => {
  const m = titlesFromCues(sung(), { longest: 8 });
  const [first] = m.marks.filter((k) => k.kind === 'cue');
  const moved = act(m, { do: 'moveMarks', ids: [first!.id], by: 0.5 });
  expect(placedTitles(moved).map(({ from, to }) => [from, to])[0]).toEqual([75, 105]);
});

test('wear the style that they are to wear, and only the cues that are meant become titles', () => {
  let m = sung();
  m = act(m, { do: 'addTitle', text: 'x', at: { time: 0 }, beats: 1 });
  m = act(m, { do: 'changeTitle', id: m.titles[0]!.id, face: 'hand' }, { do: 'keepStyle', titleId: m.titles[0]!.id, name: 'Note' });
  const { id } = spokenCues(m)[1]!.mark;
  const made = titlesFromCues(m, { ids: [id], longest: 2, style: m.styles[0]!.id });
  expect(made.titles.slice(1)).toMatchObject([{ text: 'and away', face: 'hand', style: m.styles[0]!.id }]);
});

test('without a word there is nothing to be made, which is said', () => {
  expect(() => titlesFromCues(sampleMontage(8), { longest: 8 })).toThrow('No cue has a word');
});
