import { mixDown, peaks, readWavHeader, WAV_CHANNELS, WAV_FULL_SCALE, WAV_HEADER_BYTES, WAV_SAMPLE_BYTES, type Peaks } from '@bluster/core';

/** What the worker tells of a song, in this order: how long it is, its sound stretch by stretch, its outline; or what went wrong. */
export type FromSong =
  | { readonly say: 'begins'; /** samples a channel */ readonly length: number; /** Hz */ readonly rate: number }
  | { readonly say: 'goes on'; readonly at: number; readonly channels: Float32Array<ArrayBuffer>[] }
  | { readonly say: 'outline'; readonly peaks: Peaks }
  | { readonly say: 'problem'; readonly sentence: string };

/** The page takes in so much at a time, seconds, and can be used meanwhile. */
const STRETCH_S = 4;

const tell = (message: FromSong, transfer: Transferable[] = []): void => postMessage(message, { transfer });

/** Bytes of an answer in parts of the sizes that are asked for. */
class Parts {
  private left = new Uint8Array(0);

  constructor(private readonly body: ReadableStreamDefaultReader<Uint8Array<ArrayBuffer>>) {}

  /** The next so many bytes, or fewer at the end. */
  async next(size: number): Promise<Uint8Array<ArrayBuffer>> {
    const part = new Uint8Array(size);
    let filled = 0;
    for (;;) {
      const taken = this.left.subarray(0, size - filled);
      part.set(taken, filled);
      filled += taken.length;
      this.left = this.left.subarray(taken.length);
      if (filled === size) return part;
      const { done, value } = await this.body.read();
      if (done) return part.subarray(0, filled);
      this.left = value;
    }
  }
}

async function read(path: string): Promise<void> {
  const response = await fetch(path);
  if (!response.ok || !response.body) return tell({ say: 'problem', sentence: 'The song is not ready yet' });
  const parts = new Parts(response.body.getReader());
  const header = readWavHeader(await parts.next(WAV_HEADER_BYTES));
  if (!header) return tell({ say: 'problem', sentence: 'What the server has of it is no song' });
  const { rate, length } = header;
  tell({ say: 'begins', length, rate });
  const samples = new Float32Array(length);
  for (let at = 0; at < length;) {
    const wanted = Math.min(STRETCH_S * rate, length - at);
    const part = await parts.next(wanted * WAV_CHANNELS * WAV_SAMPLE_BYTES);
    const count = Math.floor(part.length / (WAV_CHANNELS * WAV_SAMPLE_BYTES));
    if (count < wanted) return tell({ say: 'problem', sentence: 'Its sound was cut off on the way' });
    const interleaved = new Int16Array(part.buffer, 0, count * WAV_CHANNELS);
    const channels = Array.from({ length: WAV_CHANNELS }, () => new Float32Array(count));
    for (const [c, channel] of channels.entries())
      for (let i = 0; i < count; i++) channel[i] = interleaved[i * WAV_CHANNELS + c]! / WAV_FULL_SCALE;
    samples.set(mixDown(channels), at);
    tell(
      { say: 'goes on', at, channels },
      channels.map((c) => c.buffer),
    );
    at += count;
  }
  const outline = peaks({ samples, rate });
  tell({ say: 'outline', peaks: outline }, [
    outline.all.buffer,
    outline.low.buffer,
    outline.mid.buffer,
    outline.high.buffer,
  ] as Transferable[]);
}

onmessage = ({ data }: MessageEvent<string>) => {
  read(data).catch((error: unknown) => tell({ say: 'problem', sentence: (error as Error).message }));
};
