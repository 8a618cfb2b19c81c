import type { LayerPicture } from './compose-frame.ts';
import { decodersOf, type Decoder } from './decoders.ts';
import type { PictureReader } from './frame-reader.ts';
import type { FilmPicture, FilmPlan, PictureRun } from './picture-runs.ts';
import type { Size } from './frame-planes.ts';
import { RunFrames } from './run-frames.ts';

/** A decoder while the plan is read. */
interface Open {
  readonly decoder: Decoder;
  reader: PictureReader | null;
}

/**
 * The pictures of a plan's frames, one frame after the other. What the next run needs is opened while the one before it is read, and
 * closed when no other run can go on with it.
 */
export class PlannedPictures {
  /** of each run */
  private readonly opened: Open[] = [];
  private readonly reading = new Map<number, RunFrames>();

  /**
   * @param open starts decoding frames of what a run shows
   * @param letGo is told of each picture that is not needed any longer
   */
  constructor(
    private readonly plan: FilmPlan,
    private readonly screen: Size,
    private readonly open: (run: PictureRun, decoder: Decoder) => PictureReader,
    private readonly letGo: (frame: Buffer) => void,
  ) {
    for (const decoder of decodersOf(plan.runs)) {
      const one: Open = { decoder, reader: null };
      for (const run of decoder.runs) this.opened[run] = one;
    }
  }

  async of(layer: readonly FilmPicture[]): Promise<LayerPicture[]> {
    const pictures: LayerPicture[] = [];
    for (const { run, source, placed, opacity, blur } of layer) {
      const picture = await this.framesOf(run).frame(source);
      pictures.push({ picture, size: this.plan.runs[run]!.raster ?? this.screen, placed, opacity, blur });
    }
    return pictures;
  }

  /** Says that a frame of the plan is behind: what was read for it alone is let go. */
  passed(n: number): void {
    for (const [i, frames] of this.reading) {
      const { first, wants } = this.plan.runs[i]!;
      if (first + wants.length - 1 > n) continue;
      this.reading.delete(i);
      frames.close();
      const { decoder, reader } = this.opened[i]!;
      if (decoder.runs.at(-1) === i) reader?.close();
    }
  }

  close(): void {
    for (const { reader } of this.opened) reader?.close();
  }

  private opening(i: number): PictureReader {
    const one = this.opened[i]!;
    return (one.reader ??= this.open(this.plan.runs[i]!, one.decoder));
  }

  private framesOf(i: number): RunFrames {
    let frames = this.reading.get(i);
    if (!frames) {
      const { first } = this.opened[i]!.decoder;
      this.reading.set(i, (frames = new RunFrames(this.opening(i), first, this.plan.runs[i]!.order, this.letGo)));
    }
    if (this.plan.runs[i + 1]) this.opening(i + 1);
    return frames;
  }
}
