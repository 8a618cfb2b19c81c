import { Controller, NotFoundException, Param, ParseUUIDPipe, Sse, type MessageEvent } from '@nestjs/common';
import type { Changes } from '@bluster/wire';
import { bufferTime, concatMap, filter, from, interval, last, map, merge, mergeMap, takeUntil, type Observable } from 'rxjs';
import { assetAnswer } from '../assets/asset-answer.ts';
import { AssetsService } from '../assets/assets.service.ts';
import { jobAnswer } from '../jobs/job-answer.ts';
import { JobsService } from '../jobs/jobs.service.ts';
import { ProjectsService } from '../projects/projects.service.ts';
import { ChangesService, type Change } from '../changes/changes.service.ts';

/** Changes of one thing within this time are told once. */
const TOGETHER_MS = 200;
/** Something is said at least this often, so that a cut connection is noticed. */
const BEAT_MS = 15_000;

function event<N extends keyof Changes>(type: N, data: Changes[N]): MessageEvent {
  return { type, data: data };
}

/** What becomes of a project's files and jobs, as server-sent events. */
@Controller('api')
export class FollowingController {
  constructor(
    private readonly changes: ChangesService,
    private readonly projects: ProjectsService,
    private readonly assets: AssetsService,
    private readonly jobs: JobsService,
  ) {}

  @Sse('projects/:id/changes')
  async follow(@Param('id', ParseUUIDPipe) id: string): Promise<Observable<MessageEvent>> {
    await this.projects.find(id);
    const own = this.changes.all.pipe(
      filter((change) => change.projectId === id),
      bufferTime(TOGETHER_MS),
      mergeMap((several) => [...new Map(several.map((change) => [change.id, change])).values()]),
      concatMap((change) => from(this.read(change))),
    );
    const beats = interval(BEAT_MS).pipe(
      map((): MessageEvent => ({ type: 'beat', data: '' })),
      takeUntil(this.changes.all.pipe(last(null, null))),
    );
    return merge(own, beats);
  }

  private async read({ what, id }: Change): Promise<MessageEvent> {
    try {
      return what === 'job' ? event('job', jobAnswer(await this.jobs.find(id))) : event('asset', assetAnswer(await this.assets.find(id)));
    } catch (error) {
      if (error instanceof NotFoundException) return event('gone', id);
      throw error;
    }
  }
}
