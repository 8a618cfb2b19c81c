import { expect, test } from '@jest/globals';
import { existsSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { scratchFolder } from '../testing/made-media.ts';
import { UNFINISHED, makeWhole } from './whole-file.ts';

test('a file has its name when it is whole, and another one before', async () => {
  const folder = scratchFolder();
  const to = join(folder, 'kite.txt');
  const made = await makeWhole(to, (unfinished) => {
    writeFileSync(unfinished, 'a whole kite');
    expect(existsSync(to)).toBe(false);
    expect(readdirSync(folder).every((name) => UNFINISHED.test(name))).toBe(true);
    return Promise.resolve(12);
  });
  expect([made, readFileSync(to, 'utf8'), readdirSync(folder)]).toEqual([12, 'a whole kite', ['kite.txt']]);
});

test('what fails leaves nothing, and what was there before as it was', async () => {
  const folder = scratchFolder();
  const to = join(folder, 'kite.txt');
  writeFileSync(to, 'before');
  const failing = makeWhole(to, (unfinished) => {
    writeFileSync(unfinished, 'half a ki');
    return Promise.reject(new Error('the wind'));
  });
  await expect(failing).rejects.toThrow('the wind');
  expect([readFileSync(to, 'utf8'), readdirSync(folder)]).toEqual(['before', ['kite.txt']]);
});

test('two who make the same file at once do not write into each other', async () => {
  const folder = scratchFolder();
  const to = join(folder, 'kite.txt');
  const slowly = (text: string) => async (unfinished: string) => {
    for (let i = 1; i <= text.length; i++) {
      writeFileSync(unfinished, text.slice(0, i));
      await Promise.resolve();
    }
  };
  await Promise.all([makeWhole(to, slowly('aaaaaaaa')), makeWhole(to, slowly('bbbbbbbb'))]);
  expect(['aaaaaaaa', 'bbbbbbbb']).toContain(readFileSync(to, 'utf8'));
  expect(readdirSync(folder)).toEqual(['kite.txt']);
});
