import type { FileHandle } from 'node:fs/promises';
import { open } from 'node:fs/promises';
import { WAV_CHANNELS, WAV_FULL_SCALE, WAV_HEADER_BYTES, WAV_SAMPLE_BYTES } from '@bluster/core/formats/wav';
import { HalfRate } from '@bluster/core/music/half-rate';
import { ANALYSIS_RATE, SONG_RATE } from '@bluster/core/music/signal';
import { HOSTILE_INPUT, PROGRESS_ARGS, run, type RunOptions } from '../program/run.ts';

/** The longest song taken, seconds. */
export const LONGEST_SONG_S = 30 * 60;

/** How many channels the first sound of a file has; 0 where it does not say. */
async function channelsOf(path: string, signal?: AbortSignal): Promise<number> {
  const args = [...HOSTILE_INPUT, '-v', 'error', '-select_streams', 'a:0', '-show_entries', 'stream=channels', '-of', 'csv=p=0', path];
  return Number((await run('ffprobe', args, { signal, timeLimit: 30_000 })).toString().trim()) || 0;
}

/**
 * Decodes the sound of a file to the form that the page plays and the exporter mixes: WAV, 16 bit, stereo, 44,100 Hz.
 * Both then agree on every sample, whatever delay a codec adds.
 * @param advance seconds cut from the start, or silence put there when negative, so that it runs with the picture
 * @param channels how many it has, where that is known; else the file is asked
 */
export async function soundToWav(
  from: string,
  to: string,
  options: RunOptions & { advance?: number; limit?: number; channels?: number | undefined } = {},
): Promise<void> {
  const advance = options.advance ?? 0;
  const filters = [
    // One channel goes to both at its own level; ffmpeg by itself would take 3 dB off.
    ...((options.channels ?? (await channelsOf(from, options.signal))) === 1 ? ['pan=stereo|c0=c0|c1=c0'] : []),
    `aresample=${SONG_RATE}`,
    ...(advance > 0.0005 ? [`atrim=start=${advance.toFixed(6)}`, 'asetpts=PTS-STARTPTS'] : []),
    ...(advance < -0.0005 ? [`adelay=${Math.round(-advance * 1000)}|${Math.round(-advance * 1000)}`] : []),
  ];
  await run(
    'ffmpeg',
    [
      ...HOSTILE_INPUT,
      '-v',
      'error',
      '-y',
      ...PROGRESS_ARGS,
      '-i',
      from,
      '-map',
      '0:a:0',
      '-vn',
      '-sn',
      '-dn',
      '-ac',
      String(WAV_CHANNELS),
      '-af',
      filters.join(','),
      '-ar',
      String(SONG_RATE),
      ...(options.limit ? ['-t', String(options.limit)] : []),
      '-c:a',
      'pcm_s16le',
      '-map_metadata',
      '-1',
      '-fflags',
      '+bitexact',
      '-flags:a',
      '+bitexact',
      '-f',
      'wav',
      to,
    ],
    options,
  );
}

/**
 * Decodes a file's sound to one channel at the analysis rate, handed over piece by piece while the rest is decoded. It is
 * brought to that rate here: most songs have twice as many samples, and halving takes less time than resampling.
 */
export async function hearSound(
  from: string,
  onSamples: (samples: Float32Array) => void,
  { seconds = LONGEST_SONG_S, ...options }: RunOptions & { seconds?: number } = {},
): Promise<void> {
  let rest: Buffer = Buffer.alloc(0);
  const half = new HalfRate();
  await run(
    'ffmpeg',
    [
      ...HOSTILE_INPUT,
      '-v',
      'error',
      '-i',
      from,
      '-map',
      '0:a:0',
      '-vn',
      '-ac',
      '1',
      '-ar',
      String(2 * ANALYSIS_RATE),
      '-t',
      String(seconds),
      '-f',
      's16le',
      'pipe:1',
    ],
    {
      outputLimit: 2 ** 30,
      onOutput: (chunk) => {
        const bytes = rest.length > 0 ? Buffer.concat([rest, chunk]) : chunk;
        const whole = bytes.length - (bytes.length % WAV_SAMPLE_BYTES);
        rest = Buffer.from(bytes.subarray(whole));
        const aligned = bytes.byteOffset % WAV_SAMPLE_BYTES === 0 ? bytes : Buffer.from(bytes);
        onSamples(half.push(new Int16Array(aligned.buffer, aligned.byteOffset, whole / WAV_SAMPLE_BYTES)));
      },
      ...options,
    },
  );
  onSamples(half.finish());
}

/** The same, all of it at once. */
export async function hearAll(from: string, options: RunOptions & { seconds?: number } = {}): Promise<Float32Array> {
  const chunks: Float32Array[] = [];
  await hearSound(from, (samples) => chunks.push(samples), options);
  const all = new Float32Array(chunks.reduce((sum, c) => sum + c.length, 0));
  let at = 0;
  for (const chunk of chunks) {
    all.set(chunk, at);
    at += chunk.length;
  }
  return all;
}

/** A WAV file as soundToWav writes it, read piece by piece. */
export class WavFile {
  private constructor(
    private readonly file: FileHandle,
    /** samples a channel */
    readonly length: number,
  ) {}

  static async open(path: string): Promise<WavFile> {
    const file = await open(path, 'r');
    const { size } = await file.stat();
    return new WavFile(file, Math.max(0, Math.floor((size - WAV_HEADER_BYTES) / (WAV_CHANNELS * WAV_SAMPLE_BYTES))));
  }

  /** Interleaved stereo samples, -1 to 1; silence beyond the ends. */
  async read(from: number, count: number): Promise<Float32Array> {
    const out = new Float32Array(count * WAV_CHANNELS);
    const first = Math.max(0, from);
    const last = Math.min(this.length, from + count);
    if (last <= first) return out;
    const bytes = Buffer.alloc((last - first) * WAV_CHANNELS * WAV_SAMPLE_BYTES);
    await this.file.read(bytes, 0, bytes.length, WAV_HEADER_BYTES + first * WAV_CHANNELS * WAV_SAMPLE_BYTES);
    const at = (first - from) * WAV_CHANNELS;
    for (let i = 0; i < bytes.length / WAV_SAMPLE_BYTES; i++) out[at + i] = bytes.readInt16LE(i * WAV_SAMPLE_BYTES) / WAV_FULL_SCALE;
    return out;
  }

  async close(): Promise<void> {
    await this.file.close();
  }
}
