import { expect, test } from '@jest/globals';
import { readFileSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';

const packages = resolve(import.meta.dirname, '../../..');

/** What a built module takes of the core, itself and by all that it imports. */
function takenOfCore(module: string, seen = new Set<string>()): string[] {
  if (seen.has(module)) return [];
  seen.add(module);
  const imported = [...readFileSync(module, 'utf8').matchAll(/\b(?:from|import)\s*['"]([^'"]+)['"]/g)].map(([, name]) => name!);
  return imported.flatMap((name) => {
    if (name.startsWith('@bluster/core')) return [name.slice('@bluster/'.length)];
    if (name.startsWith('@bluster/')) return takenOfCore(join(packages, name.slice('@bluster/'.length), 'dist/index.js'), seen);
    return name.startsWith('.') ? takenOfCore(resolve(dirname(module), name), seen) : [];
  });
}

/** The one file of the core, of which they would load a megabyte. */
const WHOLE = /\/all\.js["']/;

test.each(['film/frame-composer.worker', 'clip/film-look.worker'])('%s begins with a small part of the core', (thread) => {
  const taken = takenOfCore(join(packages, 'media/dist', `${thread}.js`));
  expect(taken.length).toBeGreaterThan(2);
  const bundled = (name: string): string => join(packages, 'core/dist/bundle', `${name.replace(/^core\/?/, '') || 'index'}.js`);
  expect(taken.filter((name) => WHOLE.test(readFileSync(bundled(name), 'utf8')))).toEqual([]);
});
