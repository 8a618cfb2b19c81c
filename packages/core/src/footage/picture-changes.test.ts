import { describe, expect, test } from '@jest/globals';
import { FilmLooker } from './film-look.ts';
import { SCENE_SIZE, black, editedFilm, paintScene, type Scene } from '../testing/generated-film.ts';
import { findPictureChanges, type PictureChange } from './picture-changes.ts';

function changesOf(pictures: readonly Uint8Array[]): PictureChange[] {
  const looker = new FilmLooker(SCENE_SIZE.width, SCENE_SIZE.height);
  for (const picture of pictures) looker.push(picture);
  return findPictureChanges(looker.finish());
}

describe('picture changes', () => {
  const films = [1, 2, 3, 4].map((seed) => {
    const { pictures, changes } = editedFilm(seed);
    const last = changes.at(-1)!.to;
    return { truth: changes, found: changesOf(pictures).filter((c) => c.from <= last) };
  });

  test('cuts are found to the frame, and flashes, pans and fades are none: F above 0.95', () => {
    let [right, found, there] = [0, 0, 0];
    for (const film of films) {
      const cuts = film.truth.filter((c) => c.kind === 'cut').map((c) => c.from);
      const proposed = film.found.filter((c) => c.kind === 'cut').map((c) => c.from);
      right += proposed.filter((n) => cuts.includes(n)).length;
      found += proposed.length;
      there += cuts.length;
    }
    expect(there).toBeGreaterThan(25);
    expect((2 * right) / (found + there)).toBeGreaterThan(0.95);
  });
  test('most dissolves are found as stretches that overlap the true ones', () => {
    let [right, found, there] = [0, 0, 0];
    for (const film of films) {
      const blends = film.truth.filter((c) => c.kind !== 'cut');
      const proposed = film.found.filter((c) => c.kind !== 'cut');
      right += blends.filter((b) => proposed.some((p) => p.from < b.to && p.to > b.from)).length;
      found += proposed.length;
      there += blends.length;
    }
    expect(there).toBeGreaterThan(12);
    expect(right / there).toBeGreaterThan(0.85);
    expect(found).toBeLessThan(there * 1.8);
  });
  test('a single shot has none', () => {
    const scene: Scene = { seed: 77, ground: [110, 120, 140], pan: (n) => [1.5 * n, 0], noise: 8 };
    expect(changesOf(Array.from({ length: 120 }, (_, n) => paintScene(scene, n)))).toEqual([]);
  });
  test('a film of one frame, or none, has none', () => {
    expect(changesOf([])).toEqual([]);
    expect(changesOf([black()])).toEqual([]);
  });
});
