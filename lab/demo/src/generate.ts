// Draws and composes the demo material into demo/media. Run by `npm run demo-media`; its output is committed.
import { createCanvas } from '@napi-rs/canvas';
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { writeBeatText } from '@bluster/core';
import { programPath } from '@bluster/media/program/programs';
import { clipSound } from './action-sounds.ts';
import type { ClipScript } from './clip-script.ts';
import { CLIPS } from './clips.ts';
import type { View } from './landscape.ts';
import { lightAt } from './palette.ts';
import { PHOTOS } from './photos.ts';
import { composeGust, composeLanterns } from './songs.ts';
import { RATE } from './synth.ts';

const out = join(import.meta.dirname, '../media');
const scratch = join(import.meta.dirname, '../dist/scratch');
const only = process.argv.slice(2);

async function ffmpeg(args: readonly string[], feed?: (write: (chunk: Buffer) => Promise<void>) => Promise<void>): Promise<void> {
  const child = spawn(programPath('ffmpeg'), ['-v', 'error', '-y', ...args], { stdio: ['pipe', 'inherit', 'inherit'] });
  const done = once(child, 'close');
  if (feed) await feed(async (chunk) => void (child.stdin.write(chunk) || (await once(child.stdin, 'drain'))));
  child.stdin.end();
  const [code] = (await done) as [number];
  if (code !== 0) throw new Error(`ffmpeg ended with ${code}: ${args.join(' ')}`);
}

async function soundFile(name: string, pcm: Buffer, file: string, codec: readonly string[]): Promise<void> {
  const raw = join(scratch, `${name}.pcm`);
  writeFileSync(raw, pcm);
  await ffmpeg(['-f', 's16le', '-ar', String(RATE), '-ac', '2', '-i', raw, ...codec, '-fflags', '+bitexact', join(out, file)]);
}

async function clipFile(clip: ClipScript): Promise<void> {
  const { width, height, fps, length } = clip;
  const canvas = createCanvas(width, height);
  const c = canvas.getContext('2d');
  const sound: string[] = [];
  if (clip.sound) {
    const raw = join(scratch, `${clip.name}.pcm`);
    writeFileSync(raw, clipSound(clip).toPcm());
    sound.push('-f', 's16le', '-ar', String(RATE), '-ac', '2', '-i', raw, '-c:a', 'aac', '-b:a', '96k');
  }
  const frames = Math.round(length * fps);
  await ffmpeg(
    [
      '-f',
      'rawvideo',
      '-pix_fmt',
      'rgba',
      '-s',
      `${width}x${height}`,
      '-r',
      String(fps),
      '-i',
      'pipe:0',
      ...sound,
      '-c:v',
      'libx264',
      '-preset',
      'slow',
      '-crf',
      '23',
      '-pix_fmt',
      'yuv420p',
      '-colorspace',
      'bt709',
      '-color_primaries',
      'bt709',
      '-color_trc',
      'bt709',
      '-vf',
      'scale=out_color_matrix=bt709',
      '-movflags',
      '+faststart',
      '-fflags',
      '+bitexact',
      '-t',
      String(length),
      join(out, `${clip.name}.mp4`),
    ],
    async (write) => {
      for (let n = 0; n < frames; n++) {
        const time = n / fps;
        const view = (part: Partial<View>): View => ({
          width,
          height,
          light: lightAt(0.3),
          pan: 0,
          horizon: 0.6,
          seed: 1,
          time,
          wind: 1,
          ...part,
        });
        c.globalAlpha = 1;
        clip.paint(c, time, view);
        await write(canvas.data());
      }
    },
  );
}

async function photoFile(photo: (typeof PHOTOS)[number]): Promise<void> {
  const canvas = createCanvas(photo.width, photo.height);
  const view = (part: Partial<View>): View => ({
    width: photo.width,
    height: photo.height,
    light: lightAt(0.3),
    pan: 0,
    horizon: 0.6,
    seed: 1,
    time: 2,
    wind: 1,
    ...part,
  });
  photo.paint(canvas.getContext('2d'), view);
  let image = sharp(canvas.data(), { raw: { width: photo.width, height: photo.height, channels: 4 } }).removeAlpha();
  // EXIF orientation 6: the picture must be turned a quarter clockwise to stand upright.
  if (photo.turned) image = sharp(await image.rotate(270).png().toBuffer()).withMetadata({ orientation: 6 });
  if (photo.file.endsWith('.jpg')) image = image.jpeg({ quality: 86 });
  await image.toFile(join(out, photo.file));
}

mkdirSync(out, { recursive: true });
mkdirSync(scratch, { recursive: true });
const wanted = (name: string): boolean => only.length === 0 || only.includes(name);
if (wanted('songs')) {
  const gust = composeGust();
  const lanterns = composeLanterns();
  await soundFile(gust.name, gust.tape.toPcm(), `${gust.name}.ogg`, ['-c:a', 'libvorbis', '-q:a', '6']);
  await soundFile(lanterns.name, lanterns.tape.toPcm(), `${lanterns.name}.mp3`, ['-c:a', 'libmp3lame', '-b:a', '192k']);
  for (const song of [gust, lanterns]) {
    writeFileSync(join(out, `${song.name}.beats.txt`), writeBeatText(song.beats));
    writeFileSync(join(out, `${song.name}.bars.txt`), writeBeatText(song.bars));
  }
}
for (const photo of PHOTOS) if (wanted('photos') || wanted(photo.file)) await photoFile(photo);
for (const clip of CLIPS)
  if (wanted('clips') || wanted(clip.name)) {
    await clipFile(clip);
    console.log(clip.name);
  }
rmSync(scratch, { recursive: true, force: true });
