import type { PictureReader } from './frame-reader.ts';
import type { PictureRun } from './picture-runs.ts';

/** The frames of a run as they are asked for. Those that are asked for in rising order are let go as they pass. */
export class RunFrames {
  private readonly held = new Map<number, Buffer>();
  private last: Buffer | null = null;

  /**
   * @param first the source frame that the decoder gives first
   * @param letGo is told of each frame that is not needed any longer
   */
  constructor(
    private readonly reader: PictureReader,
    private readonly first: number,
    private readonly order: PictureRun['order'],
    private readonly letGo: (frame: Buffer) => void,
  ) {}

  /** A source frame; where the clip is shorter than it said, its last one. */
  async frame(source: number): Promise<Buffer | null> {
    const { reader, first } = this;
    while (reader.count <= source - first) {
      const number = first + reader.count;
      const read = await reader.next();
      if (!read) break;
      this.held.set(number, read);
      // A mixed frame needs the one before it once more.
      if (this.order === 'rising') this.drop(number - 2);
      this.last = read;
    }
    return this.held.get(source) ?? this.last;
  }

  /** Lets go of all that is held. */
  close(): void {
    for (const number of [...this.held.keys()]) this.drop(number);
  }

  private drop(number: number): void {
    const frame = this.held.get(number);
    this.held.delete(number);
    if (frame) this.letGo(frame);
  }
}
