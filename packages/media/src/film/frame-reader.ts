import type { Readable } from 'node:stream';
import type { Program } from '../program/starter.ts';
import type { SharedFrames } from './shared-frames.ts';

/** Gives frames one after the other. */
export type PictureReader = Pick<FrameReader, 'count' | 'next' | 'close'>;

/** Cuts the raw output of a decoder into frames. The decoder waits while nobody reads. */
export class FrameReader {
  private readonly chunks: AsyncIterator<Buffer>;
  private rest: Buffer = Buffer.alloc(0);
  private read = 0;
  /** the first chunk; a stream that nobody reads from is emptied when its program has ended */
  private first: Promise<IteratorResult<Buffer>> | null;

  constructor(
    readonly child: Program,
    private readonly frameBytes: number,
    /** where its frames come from; whoever takes one gives it back */
    private readonly frames: SharedFrames,
  ) {
    this.chunks = (child.stdout as Readable)[Symbol.asyncIterator]() as AsyncIterator<Buffer>;
    this.first = this.chunks.next();
    // Whoever asks for the frame hears of it.
    this.first.catch(() => undefined);
    child.stderr?.resume();
  }

  /** How many frames were read so far. */
  get count(): number {
    return this.read;
  }

  /** The next frame, or null after the last. */
  async next(): Promise<Buffer | null> {
    // Shared, so that the thread that puts frames together reads it where it lies.
    const frame = this.frames.lend(this.frameBytes);
    let filled = this.rest.copy(frame, 0, 0, this.frameBytes);
    this.rest = this.rest.subarray(filled);
    while (filled < this.frameBytes) {
      const step = await (this.first ?? this.chunks.next());
      this.first = null;
      if (step.done) {
        this.frames.giveBack(frame);
        return null;
      }
      const value = step.value;
      const used = value.copy(frame, filled);
      filled += used;
      if (used < value.length) this.rest = value.subarray(used);
    }
    this.read++;
    return frame;
  }

  close(): void {
    this.child.stdout?.destroy();
    this.child.kill('SIGKILL');
  }
}
