// Plays the scores that may be trained on, each in several ways, and writes what the beat network will hear of them.
// usage: node lab/training/hear-scores.mjs FOREIGN FOLDER [WAYS]     FOREIGN as ../shared/foreign/build.sh makes it
import { existsSync, mkdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import midi from 'midi-file';
import { Chance } from '../composer/dist/index.js';
import { TRAINED } from '../foreign/scores.mjs';
import { scoreTruth } from '../foreign/score-truth.mjs';
import { play, RATE, writeHeard } from './heard.mjs';
import { amplified, GUITARS, recorded, together } from './recording.mjs';

/** Names of these pieces begin here; those that listen.mjs composes are below. */
const FIRST = 800_001;
const SECONDS = 110;
const DRUMS = 9;

const [foreign, folder, ways = '8'] = process.argv.slice(2);
mkdirSync(folder, { recursive: true });

/** Another band's way with a score: faster or slower, higher or lower, other instruments of a kind, someone missing. */
function otherwise(bytes, chance) {
  const { header, tracks } = midi.parseMidi(bytes);
  const pace = Math.exp(chance.between(-0.18, 0.22));
  const higher = chance.whole(-4, 4);
  const channels = [...new Set(tracks.flat().flatMap((e) => ('channel' in e && e.type === 'noteOn' ? [e.channel] : [])))];
  const silent = new Set(channels.filter((c) => channels.length > 3 && chance.is(c === DRUMS ? 0.12 : 0.15)));
  const swaps = new Map(channels.map((c) => [c, chance.is(0.4) ? chance.whole(0, 7) : null]));
  const even = chance.is(0.2) ? chance.whole(80, 115) : 0;
  const programs = new Map();
  const other = tracks.map((track) =>
    track.map((e) => {
      if (e.type === 'setTempo') return { ...e, microsecondsPerBeat: Math.round(e.microsecondsPerBeat / pace) };
      if (e.type === 'programChange') {
        const swap = swaps.get(e.channel);
        const program = e.channel === DRUMS || swap == null ? e.programNumber : 8 * (e.programNumber >> 3) + swap;
        programs.set(e.channel, program);
        return { ...e, programNumber: program };
      }
      if (e.type !== 'noteOn' && e.type !== 'noteOff') return e;
      const noteNumber = e.channel === DRUMS ? e.noteNumber : Math.max(0, Math.min(127, e.noteNumber + higher));
      if (e.type === 'noteOff') return { ...e, noteNumber };
      const velocity = e.velocity === 0 || silent.has(e.channel) ? 0 : even || e.velocity;
      return { ...e, noteNumber, velocity };
    }),
  );
  if (!tracks.flat().some((e) => e.type === 'setTempo'))
    other[0]?.unshift({ deltaTime: 0, type: 'setTempo', microsecondsPerBeat: Math.round(500_000 / pace) });
  const guitars = new Set(channels.filter((c) => GUITARS.includes(programs.get(c)) && c !== DRUMS));
  const only = (keep) =>
    Uint8Array.from(
      midi.writeMidi({
        header,
        tracks: other.map((t) => t.map((e) => (e.type === 'noteOn' && !keep(e.channel) ? { ...e, velocity: 0 } : e))),
      }),
    );
  return { whole: only(() => true), guitars: only((c) => guitars.has(c)), others: only((c) => !guitars.has(c)), loud: guitars.size > 0 };
}

for (let way = 0; way < Number(ways); way++)
  for (const [i, name] of TRAINED.entries()) {
    const seed = FIRST + way * 100 + i;
    const path = join(folder, `f${seed}`);
    if (existsSync(`${path}.json`)) continue;
    const chance = new Chance(seed);
    const played = otherwise(readFileSync(join(foreign, 'scores', `${name}.mid`)), chance);
    const { beats, bars } = scoreTruth(played.whole);
    const samples =
      played.loud && chance.is(0.5)
        ? together(
            play(path, played.others, chance, { seconds: SECONDS }),
            amplified(play(path, played.guitars, chance, { seconds: SECONDS }), RATE, chance),
          )
        : play(path, played.whole, chance, { seconds: SECONDS });
    const heard = (times) => times.filter((t) => t < samples.length / RATE - 0.1);
    for (const to of [path, `${path}r`])
      writeHeard(to, recorded(samples, RATE, chance, path), { style: name, beats: heard(beats), bars: heard(bars) });
  }
