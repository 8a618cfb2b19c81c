import { readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { expect, test } from '@jest/globals';
import * as core from '@bluster/core';
import { sourcesIn } from './sources.ts';
import { everyThing } from '../../packages/core/src/testing/every-command.ts';

const root = resolve(import.meta.dirname, '../..');

/** Examples that say what comes out: `call() // value`, by file. They know what the core exports, and `montage`. */
const examples = sourcesIn(root, ['packages/core/src'])
  .flatMap((file) =>
    readFileSync(resolve(root, file), 'utf8')
      .split('\n')
      .flatMap((line): [string, string, string][] => {
        const example = /^ \* (\w+\(.*\)\S*) \/\/ (.+)$/.exec(line);
        return example ? [[example[1]!, example[2]!, file]] : [];
      }),
  )
  .filter(([, value]) => !value.includes('two beats'));

test('the most used functions have examples', () => expect(examples.length).toBeGreaterThan(20));

test.each(examples)('%s is %s (%s)', (call, value) => {
  const names = ['montage', ...Object.keys(core)];
  const run = (text: string): unknown =>
    // What stands in our own sources, not anything from outside.
    // oxlint-disable-next-line typescript/no-implied-eval
    (new Function(...names, `return (${text});`) as (...values: unknown[]) => unknown)(everyThing(), ...Object.values(core));
  expect(run(call)).toEqual(run(value));
});
