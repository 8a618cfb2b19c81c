// The songs and scores of the foreign folder as pieces to be marked, with their truth.
import { existsSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { scoreTruth } from './score-truth.mjs';
import { CHECKED, TRAINED, TUNED } from './scores.mjs';

/** Where ../shared/foreign/build.sh puts it, unless it was told otherwise. */
export const FOREIGN = process.env.BLUSTER_FOREIGN ?? join(tmpdir(), 'foreign');
/** As much of a score is played, seconds. */
const SCORE_SECONDS = 150;
const RECORDINGS = ['armygeddon', 'chaos_god', 'internal_degeneration', 'mutilated_mime'];

const times = (path) => readFileSync(path, 'utf8').trim().split(/\s+/).map(Number);

/**
 * @param {(name: string, midi: string, seconds: number) => string} played plays a MIDI file and says where the sound is
 * @returns {{ name: string, group: string, style: string, wav: string, truth: { beats: number[], bars: number[] } }[]} none
 *   where the folder is not there
 */
export function foreignPieces(played) {
  if (!existsSync(join(FOREIGN, 'songs'))) return [];
  const groups = Object.entries({ 'scores checked': CHECKED, 'scores tuned on': TUNED, 'scores trained on': TRAINED });
  const scores = groups.flatMap(([group, names]) =>
    names.map((name) => {
      const path = join(FOREIGN, 'scores', `${name}.mid`);
      const { beats, bars } = scoreTruth(readFileSync(path));
      const heard = (list) => list.filter((t) => t < SCORE_SECONDS - 0.1);
      return { name, group, style: group, wav: played(name, path, SCORE_SECONDS), truth: { beats: heard(beats), bars: heard(bars) } };
    }),
  );
  const songs = RECORDINGS.map((name) => {
    const path = join(FOREIGN, 'songs', name);
    return {
      name,
      group: 'recordings',
      style: 'recording',
      wav: `${path}.wav`,
      truth: { beats: times(`${path}.beats`), bars: times(`${path}.downbeats`) },
    };
  });
  return [...scores, ...songs];
}
