// Two other ways to find beats, to be held against ours: the agents of Dixon (2001) as in the package music-tempo, and
// Debian's aubiotrack. Neither is part of the application.
import { spawnSync } from 'node:child_process';
import { there } from '../../scripts/there.mjs';

const RATE = 44100;

/** @returns {Promise<number[]>} seconds; none where the method finds nothing */
async function agents(wav) {
  const { default: MusicTempo } = await import('music-tempo');
  const decode = ['-v', 'error', '-i', wav, '-ac', '1', '-ar', String(RATE), '-f', 'f32le', '-'];
  const { stdout } = spawnSync('ffmpeg', decode, { maxBuffer: 2 ** 30 });
  try {
    return new MusicTempo(new Float32Array(stdout.buffer.slice(stdout.byteOffset, stdout.byteOffset + stdout.length))).beats;
  } catch {
    return []; // it gives up on music without enough onsets
  }
}

/** @returns {Promise<number[]>} seconds */
async function aubiotrack(wav) {
  const { status, stdout, error } = spawnSync('aubiotrack', ['-i', wav], { encoding: 'utf8' });
  if (error || status !== 0) throw new Error("aubiotrack is needed: install Debian's package aubio-tools.");
  return there(stdout).split('\n').filter(Boolean).map(Number);
}

/** @type {Record<string, (wav: string) => Promise<number[]>>} */
export const OTHER_METHODS = { 'music-tempo': agents, aubiotrack };
