// Composes and plays the made-up songs into demo/songs. Run by `npm run shipped-songs`; its output is committed. It needs Debian's
// fluidsynth and its General MIDI sound font (fluid-soundfont-gm, MIT), which running Bluster does not.
import { spawnSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { composeForm, perform } from '@bluster/composer';
import { fileName } from '@bluster/core';
import { probe } from '@bluster/media/probe/probe';
import { programPath } from '@bluster/media/program/programs';
import { SHIPPED_SONGS } from './shipped-songs.ts';

const SOUND_FONT = '/usr/share/sounds/sf2/FluidR3_GM.sf2';
const LEAD_S = 0.15;
/** Loudness after EBU R 128, LUFS, and the highest true peak, dBTP. */
const LOUDNESS = -15;
const PEAK = -1.5;
/** Strokes are held back, so that quiet instruments are heard beside them. */
const HELD_BACK = 'acompressor=threshold=-24dB:ratio=3:attack=8:release=180:knee=6,alimiter=limit=0.8:level=false';
const out = join(import.meta.dirname, '../../../demo/songs');
const scratch = mkdtempSync(join(tmpdir(), 'bluster-songs-'));

function run(program: string, args: readonly string[]): string {
  const { status, error, stderr } = spawnSync(program, args, { encoding: 'utf8' });
  if (status !== 0) throw new Error(`${program} ended with ${status ?? error?.message}: ${stderr}`);
  return stderr;
}

mkdirSync(out, { recursive: true });
const listed = [];
for (const { title, mood, wish } of SHIPPED_SONGS) {
  const piece = composeForm({ ...wish, name: title });
  const { midi } = perform(piece, wish.seed, LEAD_S);
  const file = `${fileName(title).toLowerCase().replaceAll(/[^a-z]+/g, '-')}.ogg`;
  const [score, played, wav] = [join(scratch, 'song.mid'), join(scratch, 'played.wav'), join(scratch, 'song.wav')];
  writeFileSync(score, midi);
  run('fluidsynth', ['-ni', '-q', '-g', '0.5', '-r', '48000', '-F', played, SOUND_FONT, score]);
  run(programPath('ffmpeg'), ['-v', 'error', '-y', '-i', played, '-af', HELD_BACK, wav]);
  const loudness = `loudnorm=I=${LOUDNESS}:TP=${PEAK}:LRA=20`;
  const measured = run(programPath('ffmpeg'), ['-hide_banner', '-i', wav, '-af', `${loudness}:print_format=json`, '-f', 'null', '-']);
  const m = JSON.parse(measured.slice(measured.lastIndexOf('{'), measured.lastIndexOf('}') + 1)) as Record<string, string>;
  // In two passes it is one gain throughout: quiet parts stay quiet.
  const gain = `${loudness}:linear=true:measured_I=${m['input_i']}:measured_TP=${m['input_tp']}:measured_LRA=${m['input_lra']}:measured_thresh=${m['input_thresh']}`;
  run(programPath('ffmpeg'), [
    ...['-v', 'error', '-y', '-i', wav, '-af', gain, '-ar', '48000', '-ac', '2', '-c:a', 'libvorbis', '-q:a', '3'],
    ...['-map_metadata', '-1', '-metadata', `title=${title}`, '-fflags', '+bitexact', join(out, file)],
  ]);
  console.log(title);
  const { length } = await probe(join(out, file), file);
  listed.push({ id: file.slice(0, -'.ogg'.length), title, mood, bpm: wish.bpm, metre: wish.metre.beats, length: Math.round(length) });
}
writeFileSync(join(out, 'songs.json'), `${JSON.stringify(listed, null, 2)}\n`);
rmSync(scratch, { recursive: true, force: true });
