import type { LayerPicture } from './compose-frame.ts';
import type { FilmPicture, FilmPlan, PictureRun } from './picture-runs.ts';
import type { Size } from './frame-planes.ts';
import { RunFrames, type OpenRun } from './run-frames.ts';

/** The pictures of a plan's frames, one frame after the other. A run is opened while the one before it is read, and closed after its last frame. */
export class PlannedPictures {
  private readonly opened = new Map<number, OpenRun>();
  private readonly reading = new Map<number, RunFrames>();

  /** @param open starts decoding what a run needs */
  constructor(
    private readonly plan: FilmPlan,
    private readonly screen: Size,
    private readonly open: (run: PictureRun) => OpenRun,
  ) {}

  async of(layer: readonly FilmPicture[]): Promise<LayerPicture[]> {
    const pictures: LayerPicture[] = [];
    for (const { run, source, placed, opacity, blur } of layer) {
      const picture = await this.framesOf(run).frame(source);
      pictures.push({ picture, size: this.plan.runs[run]!.raster ?? this.screen, placed, opacity, blur });
    }
    return pictures;
  }

  /** Says that a frame of the plan is behind: what was read for it alone is closed. */
  passed(n: number): void {
    for (const i of this.reading.keys()) {
      const { first, wants } = this.plan.runs[i]!;
      if (first + wants.length - 1 > n) continue;
      this.reading.delete(i);
      this.opened.get(i)!.reader.close();
    }
  }

  close(): void {
    for (const { reader } of this.opened.values()) reader.close();
  }

  private opening(i: number): OpenRun {
    let run = this.opened.get(i);
    if (!run) this.opened.set(i, (run = this.open(this.plan.runs[i]!)));
    return run;
  }

  private framesOf(i: number): RunFrames {
    let frames = this.reading.get(i);
    if (!frames) this.reading.set(i, (frames = new RunFrames(this.opening(i), this.plan.runs[i]!.order)));
    if (this.plan.runs[i + 1]) this.opening(i + 1);
    return frames;
  }
}
