import { Injectable, Logger, NotFoundException, type OnApplicationBootstrap, type OnApplicationShutdown } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { randomUUID } from 'node:crypto';
import { In, Not, Repository } from 'typeorm';
import { isRefusal } from '@bluster/core';
import { CancelledError, MediaProgramError } from '@bluster/media/program/run';
import { DISK_FULL, isDiskFull } from '../http/problem.filter.ts';
import type { JobKind, JobState } from '@bluster/wire';
import { ChangesService } from '../changes/changes.service.ts';
import { JobEntity } from './job.entity.ts';

/** What a job is given while it runs. */
export interface JobContext {
  readonly job: JobEntity;
  readonly signal: AbortSignal;
  /** the part done, 0 to 1 */
  readonly progress: (part: number) => void;
}
export type JobHandler = (context: JobContext) => Promise<Record<string, unknown> | null>;

interface Running {
  readonly job: JobEntity;
  readonly stop: AbortController;
  progress: number;
}

const UNDER_WAY: JobState[] = ['queued', 'running'];
const ENDED_LISTED = 50;
const WITHOUT_PAYLOAD = {
  id: true,
  projectId: true,
  kind: true,
  state: true,
  progress: true,
  problem: true,
  result: true,
  createdAt: true,
  startedAt: true,
  endedAt: true,
} as const;
/** Kinds of jobs that share their places, and how many of them run side by side. */
const LANES: readonly { readonly kinds: readonly JobKind[]; readonly places: number }[] = [
  { kinds: ['prepare', 'proxy'], places: 2 },
  { kinds: ['export'], places: 1 },
];
/** Proxies wait until everything that came in can be worked with. */
const TURN: Record<JobKind, number> = { prepare: 0, export: 0, proxy: 1 };

/** Why a job that was called off has not been done. */
export const CALLED_OFF = 'Cancelled.';

const hurried = (job: JobEntity): number => Number(job.payload['hurried'] ?? 0);
const slow = (job: JobEntity): number => (job.payload['slow'] === true ? 1 : 0);
/**
 * Which of two waiting jobs is begun first: what somebody looks at, then the kind whose turn it is, then what takes a moment before
 * what takes long, then what came first.
 */
const byTurn = (a: JobEntity, b: JobEntity): number =>
  hurried(b) - hurried(a) || TURN[a.kind] - TURN[b.kind] || slow(a) - slow(b) || a.createdAt - b.createdAt;

/** Runs long work, each kind in its turn and in the order it came, and remembers it in the database. */
@Injectable()
export class JobsService implements OnApplicationBootstrap, OnApplicationShutdown {
  private readonly log = new Logger('Jobs');
  private readonly handlers = new Map<JobKind, JobHandler>();
  private readonly failed = new Map<JobKind, (job: JobEntity, problem: string) => Promise<void>>();
  private readonly running = new Map<string, Running>();
  private closing = false;
  private looking = Promise.resolve();

  constructor(
    @InjectRepository(JobEntity) private readonly jobs: Repository<JobEntity>,
    private readonly changes: ChangesService,
  ) {}

  /** Says what to do for jobs of a kind, and what to do when one fails or is cancelled. */
  handle(
    kind: JobKind,
    handler: JobHandler,
    onFailure: (job: JobEntity, problem: string) => Promise<void> = () => Promise.resolve(),
  ): void {
    this.handlers.set(kind, handler);
    this.failed.set(kind, onFailure);
  }

  /** What ran when the server stopped last starts again. */
  async onApplicationBootstrap(): Promise<void> {
    await this.jobs.update({ state: 'running' }, { state: 'queued', progress: 0 });
    this.look();
  }

  /** Stops the programs at once; their rows stay "running", so that they start again next time. */
  async onApplicationShutdown(): Promise<void> {
    this.closing = true;
    for (const { stop } of this.running.values()) stop.abort();
    await this.looking;
    while (this.running.size > 0) await new Promise((resolve) => setImmediate(resolve));
  }

  async add(projectId: string, kind: JobKind, payload: Record<string, unknown>): Promise<JobEntity> {
    const job = await this.jobs.save({
      id: randomUUID(),
      projectId,
      kind,
      state: 'queued',
      progress: 0,
      problem: null,
      payload,
      result: null,
      createdAt: Date.now(),
      startedAt: null,
      endedAt: null,
    });
    this.changes.tell('job', projectId, job.id);
    this.look();
    return job;
  }

  /**
   * A project's jobs, newest first, with live progress: all that are under way, and the last exports that ended. Files say
   * themselves what became of them, and an export's document is left where it is.
   */
  async list(projectId: string): Promise<JobEntity[]> {
    const [underWay, ended] = await Promise.all([
      this.jobs.findBy({ projectId, state: In(UNDER_WAY) }),
      this.jobs.find({
        where: { projectId, kind: 'export', state: Not(In(UNDER_WAY)) },
        order: { createdAt: 'DESC' },
        take: ENDED_LISTED,
        select: WITHOUT_PAYLOAD,
      }),
    ]);
    return [...underWay, ...ended].sort((a, b) => b.createdAt - a.createdAt).map((job) => this.live(job));
  }

  /** Every job of a kind that a project ever had and that is not forgotten. */
  allOf(projectId: string, kind: JobKind): Promise<JobEntity[]> {
    return this.jobs.findBy({ projectId, kind });
  }

  /** Forgets a project's jobs; none of them may be under way. */
  async forgetAll(projectId: string): Promise<void> {
    await this.jobs.delete({ projectId, state: Not(In(UNDER_WAY)) });
  }

  async find(id: string): Promise<JobEntity> {
    const job = await this.jobs.findOneBy({ id });
    if (!job) throw new NotFoundException('There is no such job.');
    return this.live(job);
  }

  /** Calls a job off; one that has ended stays as it ended. */
  async cancel(id: string): Promise<JobEntity> {
    const job = await this.find(id);
    if (job.state === 'queued') await this.end(job, { state: 'cancelled', problem: CALLED_OFF });
    this.running.get(id)?.stop.abort();
    while (this.running.has(id)) await new Promise((resolve) => setTimeout(resolve, 5));
    return this.find(id);
  }

  /** Calls off everything a project has under way. */
  async cancelAll(projectId: string): Promise<void> {
    for (const job of await this.jobs.findBy({ projectId, state: In(UNDER_WAY) })) await this.cancel(job.id);
  }

  /** Puts waiting jobs before all others: someone looks at what they make. */
  async hurry(is: (job: JobEntity) => boolean): Promise<void> {
    for (const job of await this.waiting())
      if (is(job)) await this.jobs.update(job.id, { payload: { ...job.payload, hurried: Date.now() } });
  }

  /** Jobs that wait, in the order in which they will be begun. */
  private async waiting(): Promise<JobEntity[]> {
    return (await this.jobs.find({ where: { state: 'queued' } })).sort(byTurn);
  }

  /** Whether such a job waits or runs. */
  async isUnderWay(kind: JobKind, is: (job: JobEntity) => boolean): Promise<boolean> {
    return (await this.jobs.find({ where: { kind, state: In(UNDER_WAY) } })).some(is);
  }

  private live(job: JobEntity): JobEntity {
    const running = job.state === 'running' ? this.running.get(job.id) : undefined;
    return running ? { ...job, progress: running.progress } : job;
  }

  private look(): void {
    this.looking = this.looking.then(() => this.startNext()).catch((error: unknown) => this.log.error(error));
  }

  private async startNext(): Promise<void> {
    if (this.closing) return;
    for (const job of await this.waiting()) {
      const lane = LANES.find(({ kinds }) => kinds.includes(job.kind))!;
      const busy = [...this.running.values()].filter((r) => lane.kinds.includes(r.job.kind)).length;
      if (busy >= lane.places || this.running.has(job.id)) continue;
      const running: Running = { job, stop: new AbortController(), progress: 0 };
      this.running.set(job.id, running);
      await this.jobs.update(job.id, { state: 'running', startedAt: Date.now() });
      this.changes.tell('job', job.projectId, job.id);
      void this.work(running);
    }
  }

  private async work(running: Running): Promise<void> {
    const { job, stop } = running;
    try {
      const handler = this.handlers.get(job.kind);
      if (!handler) throw new Error(`no handler for ${job.kind}`);
      const result = await handler({
        job,
        signal: stop.signal,
        progress: (part) => {
          running.progress = Math.min(1, Math.max(running.progress, part));
          this.changes.tell('job', job.projectId, job.id);
        },
      });
      await this.jobs.update(job.id, { state: 'done', progress: 1, result: result as never, endedAt: Date.now() });
      this.changes.tell('job', job.projectId, job.id);
    } catch (error) {
      if (!this.closing) await this.end(job, this.describe(error, stop.signal)).catch((e: unknown) => this.log.error(e));
    } finally {
      this.running.delete(job.id);
      this.look();
    }
  }

  private async end(job: JobEntity, how: { state: 'failed' | 'cancelled'; problem: string }): Promise<void> {
    await this.jobs.update(job.id, { ...how, endedAt: Date.now() });
    await this.failed.get(job.kind)?.(job, how.problem);
    this.changes.tell('job', job.projectId, job.id);
  }

  private describe(error: unknown, signal: AbortSignal): { state: 'failed' | 'cancelled'; problem: string } {
    if (signal.aborted || error instanceof CancelledError) return { state: 'cancelled', problem: CALLED_OFF };
    if (isDiskFull(error)) return { state: 'failed', problem: DISK_FULL };
    if (isRefusal(error)) return { state: 'failed', problem: error.message };
    if (error instanceof MediaProgramError) return { state: 'failed', problem: `The file could not be worked on: ${error.message}.` };
    this.log.error(error instanceof Error ? (error.stack ?? error.message) : String(error));
    return { state: 'failed', problem: 'Something went wrong on the server. Try again; the details are in its log.' };
  }
}
