import { expect, test } from '@jest/globals';
import { shownKeys, viewOf } from './action.ts';

test.each([
  ['space', 'Space'],
  ['comma,left', ','],
  ['mod+shift+z,mod+y', 'Ctrl Shift Z'],
  ['alt+shift+left', 'Alt Shift ←'],
  ['shift+bracketright', 'Shift ]'],
  ['delete,backspace', 'Del'],
  ['?', '?'],
])('%s is shown as %s', (keys, shown) => expect(shownKeys(keys)).toBe(shown));

test('the view that is open is told by the address', () => {
  expect(viewOf('/projects/3f/score')).toBe('score');
  expect(viewOf('/projects/3f')).toBeUndefined();
});
