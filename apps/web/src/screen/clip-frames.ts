import { ROUTES } from '@bluster/wire/routes';
import { MP4, Input, UrlSource, VideoSampleSink, type VideoSample } from 'mediabunny';
import { decodedOf, letGo, type Decoded } from './decoded.ts';

/** How many decoded frames are held ready. */
const AHEAD = 6;

/** Opens a clip's proxy for decoding; the same one for all that want it. */
export class ClipFile {
  private readonly sink: Promise<VideoSampleSink>;

  constructor(
    readonly assetId: string,
    /** frames a second of the proxy, which counts as the clip does */
    readonly fps: number,
  ) {
    this.sink = this.open();
    this.sink.catch(() => undefined);
  }

  private async open(): Promise<VideoSampleSink> {
    const url = new URL(ROUTES.assetPart(this.assetId, 'proxy'), self.location.origin);
    const input = new Input({ source: new UrlSource(url), formats: [MP4] });
    const track = await input.getPrimaryVideoTrack();
    if (!track) throw new Error('no picture in the proxy');
    return new VideoSampleSink(track);
  }

  /** The very frame with a number, decoded on its own. */
  async frame(number: number): Promise<Decoded | null> {
    const sample = await (await this.sink).getSample((number + 0.5) / this.fps);
    return sample && decodedOf(sample);
  }

  /** Frames from a number on, decoded ahead. */
  stream(from: number): FrameStream {
    return new FrameStream(this.sink, this.fps, from);
  }

  /** Frames from a number back. */
  backwards(from: number): BackwardStream {
    return new BackwardStream(this.sink, this.fps, from);
  }
}

/** Frames one after the other, a few of them decoded before they are asked for. */
export class FrameStream {
  private readonly queue: { number: number; decoded: Decoded }[] = [];
  private iterator: AsyncGenerator<VideoSample, void, unknown> | null = null;
  private filling = false;
  private ended = false;
  private closed = false;

  constructor(
    private readonly sink: Promise<VideoSampleSink>,
    private readonly fps: number,
    private readonly from: number,
  ) {
    void this.fill();
  }

  private async fill(): Promise<void> {
    if (this.filling || this.ended || this.closed) return;
    this.filling = true;
    try {
      this.iterator ??= (await this.sink).samples(Math.max(0, (this.from + 0.25) / this.fps));
      while (!this.closed && this.queue.length < AHEAD) {
        const { value, done } = await this.iterator.next();
        if (done || !value) {
          this.ended = true;
          break;
        }
        const number = Math.round(value.timestamp * this.fps);
        const decoded = await decodedOf(value);
        // It may have been closed meanwhile.
        if (this.closed) letGo(decoded);
        else this.queue.push({ number, decoded });
      }
    } catch {
      this.ended = true;
    } finally {
      this.filling = false;
    }
  }

  /**
   * The frame with a number, or the last one decoded before it while decoding is behind; null while there is none.
   * Earlier frames are let go.
   */
  at(number: number): Decoded | null {
    while (this.queue.length > 1 && this.queue[1]!.number <= number) letGo(this.queue.shift()!.decoded);
    void this.fill();
    const first = this.queue[0];
    return first && first.number <= number ? first.decoded : null;
  }

  /** The frame with a number if it is decoded; nothing is let go. */
  peek(number: number): Decoded | null {
    return this.queue.find((q) => q.number === number)?.decoded ?? null;
  }

  /** Whether the frame with a number is the one that `at` gives, or the clip has none after the last. */
  has(number: number): boolean {
    const first = this.queue[0];
    return first !== undefined && (first.number === number || (this.ended && this.queue.length === 1 && first.number < number));
  }

  close(): void {
    this.closed = true;
    for (const { decoded } of this.queue) letGo(decoded);
    this.queue.length = 0;
    void this.iterator?.return(undefined);
  }
}

/** As many frames are decoded at once, from an earlier one up, to be shown from the last to the first. */
const BACK_CHUNK = 20;

/** Frames one before the other: decoded forwards in chunks, the next chunk while one is shown. */
export class BackwardStream {
  private readonly held = new Map<number, Decoded>();
  private readonly asked = new Set<number>();
  private closed = false;

  constructor(
    private readonly sink: Promise<VideoSampleSink>,
    private readonly fps: number,
    from: number,
  ) {
    void this.load(this.chunkOf(from));
    void this.load(this.chunkOf(from) - 1);
  }

  private chunkOf(number: number): number {
    return Math.floor(number / BACK_CHUNK);
  }

  private async load(chunk: number): Promise<void> {
    if (chunk < 0 || this.asked.has(chunk)) return;
    this.asked.add(chunk);
    const [first, end] = [chunk * BACK_CHUNK, (chunk + 1) * BACK_CHUNK];
    try {
      for await (const sample of (await this.sink).samples(Math.max(0, (first + 0.25) / this.fps), (end - 0.25) / this.fps)) {
        const number = Math.round(sample.timestamp * this.fps);
        const decoded = await decodedOf(sample);
        if (this.closed || number >= end) letGo(decoded);
        else this.held.set(number, decoded);
        if (this.closed) return;
      }
    } catch {
      this.asked.delete(chunk);
    }
  }

  at(number: number): Decoded | null {
    const chunk = this.chunkOf(number);
    void this.load(chunk);
    void this.load(chunk - 1);
    for (const [n, decoded] of this.held)
      if (this.chunkOf(n) > chunk) {
        letGo(decoded);
        this.held.delete(n);
      }
    return this.held.get(number) ?? null;
  }

  peek(number: number): Decoded | null {
    return this.held.get(number) ?? null;
  }

  has(number: number): boolean {
    return this.held.has(number);
  }

  close(): void {
    this.closed = true;
    for (const decoded of this.held.values()) letGo(decoded);
    this.held.clear();
  }
}
