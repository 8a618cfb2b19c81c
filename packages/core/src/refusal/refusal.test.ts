import { describe, expect, test } from '@jest/globals';
import { CommandError } from '../document/command-error.ts';
import { isRefusal, Refusal } from './refusal.ts';

describe('a refusal', () => {
  test('is known by what it is, also where it has a name of its own', () => {
    expect(isRefusal(new Refusal('Choose a beat.'))).toBe(true);
    expect(isRefusal(new CommandError('Choose a beat.'))).toBe(true);
  });

  test.each([new Error('no'), null, undefined, 'no', { message: 'no' }])('%p is none', (thrown) => {
    expect(isRefusal(thrown)).toBe(false);
  });

  test('of another copy of this module is one as well', async () => {
    const path = './refusal.ts?again';
    const again = (await import(path)) as { Refusal: typeof Refusal };
    expect(again.Refusal).not.toBe(Refusal);
    expect(isRefusal(new again.Refusal('Choose a beat.'))).toBe(true);
  });
});
