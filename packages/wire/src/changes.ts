import type { AssetAnswer } from './asset.ts';
import type { JobAnswer } from './job.ts';

/** What the stream of a project's changes says, by the name of the event; `gone` is the id of a file that was given up. */
export interface Changes {
  readonly job: JobAnswer;
  readonly asset: AssetAnswer;
  readonly gone: string;
}
