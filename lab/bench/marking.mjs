// How well beats and bars are found: pieces that lab/composer composes, the pieces of Debian's planetblupi-music-midi and,
// where it was built, the songs and scores of the foreign folder; scores are played by fluidsynth through the General MIDI
// sound font.
// usage: node lab/bench/marking.mjs [--pieces N] [--from SEED] [--free] [--recorded] [--font FILE] [--each] [--others] [--check]
// --others sets two other methods beside ours, in one table;
// --check compares the measures with Debian's python3-mir-eval; another seed makes other pieces, --free ones that mix styles;
// --font plays them with another sound font, of which the beat network heard nothing;
// --recorded hears them through rooms, noise, mastering and codecs, as training/recording.mjs has them
import { there } from '../../scripts/there.mjs';
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { basename, join, resolve } from 'node:path';
import { parseArgs } from 'node:util';
import midi from 'midi-file';
import { foreignPieces } from '../foreign/pieces.mjs';
import { OTHER_METHODS } from './other-methods.mjs';

const root = resolve(import.meta.dirname, '../..');
const out = join(root, 'lab/bench/out/marking');
const SOUND_FONT = '/usr/share/sounds/sf2/FluidR3_GM.sf2';
const PLANET = '/usr/share/planetblupi/music';
const PLANET_SECONDS = 120;
const RECORDING_RATE = 44100;
const PACKAGES = ['fluidsynth', 'fluid-soundfont-gm', 'planetblupi-music-midi'];

function needPrograms() {
  if ([SOUND_FONT, PLANET].every(existsSync) && spawnSync('fluidsynth', ['--version']).status === 0) return;
  if (process.getuid?.() !== 0 || spawnSync('apt-get', ['install', '-qy', ...PACKAGES], { stdio: 'ignore' }).status !== 0)
    throw new Error(`This benchmark needs Debian's packages ${PACKAGES.join(', ')}: install them (after apt-get update).`);
}

/** Plays a MIDI file to sound, once: what is there already is told by what was played. */
function played(piece, midiPath, font, seconds) {
  const name = font === SOUND_FONT ? piece : `${piece}-${basename(font)}`;
  const hash = createHash('sha1').update(readFileSync(midiPath)).digest('hex').slice(0, 12);
  const wav = join(out, `${name}-${hash}.wav`);
  if (existsSync(wav)) return wav;
  const whole = join(out, `${name}.whole.wav`);
  spawnSync('fluidsynth', ['-ni', '-q', '-g', '0.6', '-r', '44100', '-F', whole, font, midiPath], { stdio: 'ignore' });
  spawnSync('ffmpeg', ['-v', 'error', '-y', '-i', whole, ...(seconds ? ['-t', String(seconds)] : []), wav]);
  spawnSync('rm', ['-f', whole]);
  return wav;
}

/** A recording of a played piece, once. */
async function recordingOf(wav, seed) {
  const path = wav.replace(/\.wav$/, '-recorded.wav');
  if (existsSync(path)) return path;
  const { recorded } = await import('../training/recording.mjs');
  const { Chance } = await import('../composer/dist/index.js');
  const raw = ['-f', 'f32le', '-ar', String(RECORDING_RATE), '-ac', '1'];
  const bytes = spawnSync('ffmpeg', ['-v', 'error', '-i', wav, ...raw, '-'], { maxBuffer: 2 ** 30 }).stdout;
  const samples = new Float32Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length));
  const heard = recorded(samples, RECORDING_RATE, new Chance(seed), path);
  spawnSync('ffmpeg', ['-v', 'error', ...raw, '-i', '-', path], { input: Buffer.from(heard.buffer, heard.byteOffset, heard.byteLength) });
  return path;
}

/** Beats of a MIDI file in 4/4 at one tempo. */
function planetTruth(path) {
  const { header, tracks } = midi.parseMidi(readFileSync(path));
  const tempo = there(tracks.flat().find((e) => e.type === 'setTempo')).microsecondsPerBeat / 1e6;
  let end = 0;
  let first = Infinity;
  for (const track of tracks) {
    let at = 0;
    for (const event of track) {
      at += event.deltaTime;
      if (event.type !== 'noteOn') continue;
      end = Math.max(end, (at / there(header.ticksPerBeat)) * tempo);
      first = Math.min(first, (at / there(header.ticksPerBeat)) * tempo);
    }
  }
  const beats = [];
  // Half of these pieces start a tenth of a beat after the file does, and keep that distance.
  for (let t = first < tempo / 4 ? first : 0; t < Math.min(end, PLANET_SECONDS); t += tempo) beats.push(t);
  return { beats, bars: beats.filter((_, i) => i % 4 === 0) };
}

const mean = (list) => list.reduce((a, b) => a + b, 0) / list.length;

/** The pieces that detection was tuned on start with this seed. */
const FIRST_SEED = 500_001;

export async function markingPieces(count, from = FIRST_SEED, free = false, font = SOUND_FONT) {
  needPrograms();
  if (!existsSync(font)) throw new Error(`There is no sound font "${font}".`);
  mkdirSync(out, { recursive: true });
  const { compose, perform, STYLES } = await import('../composer/dist/index.js');
  const pieces = [];
  for (let i = 0; i < count; i++) {
    const seed = from + i;
    const piece = compose({ seed, seconds: 75, ...(free ? { free } : { style: STYLES[i % STYLES.length].name }) });
    const { midi: bytes, truth } = perform(piece, seed, 0.5);
    const path = join(out, `${piece.name}.mid`);
    writeFileSync(path, bytes);
    pieces.push({ name: piece.name, group: 'composed', style: piece.style, wav: played(piece.name, path, font), truth });
  }
  for (let i = 0; i < 10; i++) {
    const path = join(PLANET, `music00${i}.mid`);
    pieces.push({
      name: `planet-${i}`,
      group: 'planetblupi',
      style: 'planet',
      wav: played(`planet-${i}`, path, font, PLANET_SECONDS),
      truth: planetTruth(path),
    });
  }
  return [...pieces, ...foreignPieces((name, path, seconds) => played(name, path, font, seconds))];
}

/** Pieces are told by where they come from, in this order. */
const GROUPS = ['composed', 'planetblupi', 'scores checked', 'scores tuned on', 'scores trained on', 'recordings'];

/** @param {{ pieces?: number, from?: number, free?: boolean, recorded?: boolean, font?: string, check?: boolean, others?: boolean }} [options] */
export async function benchMarking({
  pieces: count = 48,
  from = FIRST_SEED,
  free = false,
  recorded = false,
  font,
  check = false,
  others = false,
} = {}) {
  const pieces = await markingPieces(count, from, free, font);
  const { beatMeasures, fMeasure } = await import('../composer/dist/index.js');
  const { findBeats } = await import('../../apps/cli/dist/beats.js');
  const rows = [];
  for (const [i, piece] of pieces.entries()) {
    const wav = recorded ? await recordingOf(piece.wav, from + i) : piece.wav;
    const found = await findBeats(wav).catch((error) => ({ beats: [], verdict: error.message }));
    const beats = found.beats.map((b) => b.time);
    const bars = found.beats.filter((b) => b.downbeat).map((b) => b.time);
    rows.push({
      ...piece,
      ...beatMeasures(beats, piece.truth.beats),
      barF: fMeasure(bars, piece.truth.bars),
      beats,
      verdict: found.verdict,
      others: {},
    });
    if (others)
      for (const [method, find] of Object.entries(OTHER_METHODS))
        rows.at(-1).others[method] = beatMeasures(await find(wav), piece.truth.beats);
  }
  if (check) checkMeasures(rows);
  return rows;
}

/** The same measures by Debian's python3-mir-eval; a difference is an error. */
function checkMeasures(rows) {
  const file = join(out, 'check.json');
  writeFileSync(
    file,
    JSON.stringify(rows.map(({ name, beats, truth, f, cmlt, amlt }) => ({ name, beats, truth: truth.beats, f, cmlt, amlt }))),
  );
  const script = `
import json, numpy as np, mir_eval.beat as b
for r in json.load(open('${file}')):
    t, e = b.trim_beats(np.array(r['truth'])), b.trim_beats(np.array(r['beats'], dtype=float))
    _, cmlt, _, amlt = b.continuity(t, e)
    for mine, other in ((r['f'], b.f_measure(t, e)), (r['cmlt'], cmlt), (r['amlt'], amlt)):
        assert abs(mine - other) < 0.002, (r['name'], mine, other)
`;
  const { status, stderr } = spawnSync('/usr/bin/python3', ['-c', script]);
  if (status !== 0) throw new Error(`Our measures differ from mir_eval's: ${String(stderr)}`);
  process.stdout.write('measures agree with mir_eval\n');
}

/** For each group of pieces: F, CMLt and AMLt of the beats, F of the bars, and how far beats are off in the middle. */
export async function marking() {
  const rows = await benchMarking();
  return GROUPS.flatMap((group) => {
    const own = rows.filter((r) => r.group === group);
    if (own.length === 0) return [];
    const of = (measure) => mean(own.map(measure));
    return [
      { what: `${group}: beats F at 70 ms`, value: of((r) => r.f), unit: '' },
      { what: `${group}: beats CMLt`, value: of((r) => r.cmlt), unit: '' },
      { what: `${group}: beats AMLt`, value: of((r) => r.amlt), unit: '' },
      { what: `${group}: bars F at 70 ms`, value: of((r) => r.barF), unit: '' },
      {
        what: `${group}: median offset`,
        value: 1000 * mean(own.filter((r) => !Number.isNaN(r.offset)).map((r) => Math.abs(r.offset))),
        unit: ' ms',
      },
    ];
  });
}

if (process.argv[1] === import.meta.filename) {
  const { values } = parseArgs({
    options: {
      pieces: { type: 'string' },
      from: { type: 'string' },
      free: { type: 'boolean' },
      recorded: { type: 'boolean' },
      font: { type: 'string' },
      each: { type: 'boolean' },
      others: { type: 'boolean' },
      check: { type: 'boolean' },
    },
  });
  const number = (text) => (text === undefined ? undefined : Number(text));
  const { pieces, from, ...how } = values;
  const rows = await benchMarking({ pieces: number(pieces), from: number(from), ...how });
  const say = (label, list, bars) => {
    const of = (measure) => mean(list.map(measure)).toFixed(3);
    const off = list.map((r) => (Number.isNaN(r.offset) ? 0 : 1000 * r.offset));
    const offset = `${mean(off.map(Math.abs)).toFixed(1)} ms (signed ${mean(off).toFixed(1)})`;
    const beats = `F ${of((r) => r.f)}  CMLt ${of((r) => r.cmlt)}  AMLt ${of((r) => r.amlt)}`;
    process.stdout.write(`${label.padEnd(24)} ${beats}  bars F ${bars ? of((r) => r.barF) : ' none'}  offset ${offset}\n`);
  };
  if (values.each) for (const row of rows) say(row.name, [row], true);
  for (const group of GROUPS) {
    const own = rows.filter((r) => r.group === group);
    if (own.length === 0) continue;
    say(`${group}, ${own.length}`, own, true);
    if (values.others)
      for (const method of Object.keys(OTHER_METHODS))
        say(
          `  ${method}`,
          own.map((r) => r.others[method]),
          false,
        );
  }
}
