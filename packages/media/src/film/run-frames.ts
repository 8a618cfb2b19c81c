import type { FrameReader } from './frame-reader.ts';
import type { PictureRun } from './picture-runs.ts';

/** A run whose decoder is open. */
export interface OpenRun {
  readonly reader: FrameReader;
  /** the source frame that is read first */
  readonly first: number;
}

/** The frames of a run as they are asked for. Those that are asked for in rising order are let go as they pass. */
export class RunFrames {
  private readonly held = new Map<number, Buffer>();
  private last: Buffer | null = null;

  constructor(
    private readonly open: OpenRun,
    private readonly order: PictureRun['order'],
  ) {}

  /** A source frame; where the clip is shorter than it said, its last one. */
  async frame(source: number): Promise<Buffer | null> {
    const { reader, first } = this.open;
    while (reader.count <= source - first) {
      const number = first + reader.count;
      const read = await reader.next();
      if (!read) break;
      this.held.set(number, read);
      // A mixed frame needs the one before it once more.
      if (this.order === 'rising') this.held.delete(number - 2);
      this.last = read;
    }
    return this.held.get(source) ?? this.last;
  }
}
