import { Injectable, Logger, NotFoundException, type BeforeApplicationShutdown, type OnApplicationBootstrap } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { randomUUID } from 'node:crypto';
import { In, Not, Repository, type QueryDeepPartialEntity } from 'typeorm';
import { isRefusal } from '@bluster/core';
import { CancelledError, MediaProgramError } from '@bluster/media/program/run';
import { endedForRoom, isDiskFull, waitsForRoom } from '../http/problem.filter.ts';
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
/** What takes long with clips. */
const LONG: readonly JobKind[] = ['look', 'proxy'];
/** Kinds of jobs that share their places, and how many of them run side by side. */
const LANES: readonly { readonly kinds: readonly JobKind[]; readonly places: number }[] = [
  { kinds: ['prepare'], places: 2 },
  { kinds: LONG, places: 2 },
  { kinds: ['export'], places: 1 },
];
/** Proxies wait until everything that came in has been looked at. */
const TURN: Record<JobKind, number> = { prepare: 0, export: 0, look: 1, proxy: 2 };

/** After so many losses of the server a job is not begun again: it may be what the server is lost by. */
const MOST_LOSSES = 2;
const SET_ASIDE =
  'Bluster was stopped short twice while it worked on this, so it is set aside. Start it again if the computer was switched off; otherwise the details are in the log.';
/** What could not be written down, on a full disk say, is tried again after this. */
const AGAIN_MS = 1000;
/** What found no room on the disk rests for this long before it is tried again. */
const REST_MS = 5000;
/** Stopping waits no longer than this for work that does not end, ms. */
const LONGEST_STOP_MS = 4000;

/** How a job ended, or that it waits again. */
type Ending = Pick<JobEntity, 'state'> & Partial<Pick<JobEntity, 'problem' | 'result' | 'progress'>>;

const withTime = ({ result, ...ending }: Ending): QueryDeepPartialEntity<JobEntity> => ({
  ...ending,
  ...(result === undefined ? {} : { result: result as never }),
  endedAt: ending.state === 'queued' ? null : Date.now(),
});

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
export class JobsService implements OnApplicationBootstrap, BeforeApplicationShutdown {
  private readonly log = new Logger('Jobs');
  private readonly handlers = new Map<JobKind, JobHandler>();
  private readonly failed = new Map<JobKind, (job: JobEntity, problem: string) => Promise<void>>();
  private readonly running = new Map<string, Running>();
  /** how jobs ended, where the database could not be told yet */
  private readonly owed = new Map<string, { readonly job: JobEntity; readonly ending: Ending }>();
  /** jobs that found no room on the disk and are tried again in a while */
  private readonly resting = new Set<string>();
  private readonly timers = new Set<NodeJS.Timeout>();
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

  /** What ran when the server stopped last starts again, unless it was lost by that again and again. */
  async onApplicationBootstrap(): Promise<void> {
    for (const job of await this.jobs.findBy({ state: 'running' })) {
      const losses = job.losses + 1;
      await this.jobs.update(job.id, { state: 'queued', progress: 0, losses });
      if (losses >= MOST_LOSSES) await this.end(job, { state: 'failed', problem: SET_ASIDE });
    }
    this.look();
  }

  /** Stops the programs at once, while the database is still open; what ran waits for the next start, and that was no loss. */
  async beforeApplicationShutdown(): Promise<void> {
    this.closing = true;
    for (const timer of this.timers) clearTimeout(timer);
    const stopped = [...this.running.keys()];
    for (const { stop } of this.running.values()) stop.abort();
    const patience = new AbortController();
    const ended = async (): Promise<void> => {
      await this.looking;
      while (this.running.size > 0 && !patience.signal.aborted) await new Promise((resolve) => setTimeout(resolve, 5));
      for (const [id, { ending }] of this.owed) await this.jobs.update(id, withTime(ending));
      if (stopped.length > 0) await this.jobs.update({ id: In(stopped), state: 'running' }, { state: 'queued', progress: 0 });
    };
    let timer: NodeJS.Timeout | undefined;
    const late = new Promise<void>((resolve) => (timer = setTimeout(resolve, LONGEST_STOP_MS)));
    // A database that cannot be written is no reason to stay: what is not written down is done again.
    await Promise.race([ended().catch((error: unknown) => this.log.error(error)), late]);
    clearTimeout(timer);
    patience.abort();
  }

  async add(projectId: string, kind: JobKind, payload: Record<string, unknown>, id = randomUUID()): Promise<JobEntity> {
    const job = await this.jobs.save({
      id,
      projectId,
      kind,
      state: 'queued',
      progress: 0,
      problem: null,
      payload,
      result: null,
      losses: 0,
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
   * themselves what became of them.
   */
  async list(projectId: string): Promise<JobEntity[]> {
    const [underWay, ended] = await Promise.all([
      this.jobs.findBy({ projectId, state: In(UNDER_WAY) }),
      this.jobs.find({
        where: { projectId, kind: 'export', state: Not(In(UNDER_WAY)) },
        order: { createdAt: 'DESC' },
        take: ENDED_LISTED,
      }),
    ]);
    return [...underWay, ...ended].sort((a, b) => b.createdAt - a.createdAt).map((job) => this.live(job));
  }

  /** Every job of a kind that a project ever had and that is not forgotten. */
  allOf(projectId: string, kind: JobKind): Promise<JobEntity[]> {
    return this.jobs.findBy({ projectId, kind });
  }

  /** Forgets a job that has ended. */
  async forget(id: string): Promise<void> {
    const { projectId } = await this.find(id);
    await this.jobs.delete({ id, state: Not(In(UNDER_WAY)) });
    this.changes.tell('job', projectId, id);
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
    if (job.state === 'queued') {
      await this.jobs.update(id, { state: 'cancelled', problem: CALLED_OFF, endedAt: Date.now() });
      await this.tellFailure(job, CALLED_OFF);
      this.changes.tell('job', job.projectId, id);
    }
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
    const owed = this.owed.get(job.id);
    if (owed) return { ...job, ...owed.ending };
    const running = job.state === 'running' ? this.running.get(job.id) : undefined;
    return running ? { ...job, progress: running.progress } : job;
  }

  private look(): void {
    this.looking = this.looking
      .then(() => this.startNext())
      .catch((error: unknown) => {
        this.log.error(error);
        this.later(() => this.look());
      });
  }

  /** Does something in a while, unless the server stops before. */
  private later(what: () => void, ms = AGAIN_MS): void {
    if (this.closing) return;
    const timer = setTimeout(() => {
      this.timers.delete(timer);
      what();
    }, ms);
    this.timers.add(timer);
  }

  private async startNext(): Promise<void> {
    if (this.closing) return;
    const waiting = (await this.waiting()).filter((job) => !this.resting.has(job.id) && !this.owed.has(job.id));
    // What comes in is glanced at first: all of it can be worked with before any is looked at for long.
    const comingIn = waiting.some((job) => job.kind === 'prepare');
    for (const job of waiting) {
      if (comingIn && LONG.includes(job.kind) && !hurried(job)) continue;
      const lane = LANES.find(({ kinds }) => kinds.includes(job.kind))!;
      const busy = [...this.running.values()].filter((r) => lane.kinds.includes(r.job.kind)).length;
      if (busy >= lane.places || this.running.has(job.id)) continue;
      await this.jobs.update(job.id, { state: 'running', problem: null, startedAt: Date.now() });
      const running: Running = { job, stop: new AbortController(), progress: 0 };
      this.running.set(job.id, running);
      this.changes.tell('job', job.projectId, job.id);
      void this.work(running);
    }
  }

  private async work(running: Running): Promise<void> {
    const { job, stop } = running;
    let ending: Ending;
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
      ending = { state: 'done', progress: 1, result };
    } catch (error) {
      ending = this.describe(error, stop.signal);
      // Nobody waits beside the machine for files to be made ready: that goes on by itself when there is room again.
      if (isDiskFull(error) && job.kind !== 'export' && !stop.signal.aborted)
        ending = { state: 'queued', progress: 0, problem: waitsForRoom(error) };
    }
    if (ending.state === 'queued') this.rest(job.id);
    // Stopped with the server, it is not called off: it starts again next time.
    if (this.closing && ending.state === 'cancelled') this.running.delete(job.id);
    else await this.end(job, ending);
    this.look();
  }

  private rest(id: string): void {
    this.resting.add(id);
    this.later(() => {
      this.resting.delete(id);
      this.look();
    }, REST_MS);
  }

  /** Writes down how a job ended, or that it waits again; its place is free at once, and what cannot be written now is tried again until it can. */
  private async end(job: JobEntity, ending: Ending): Promise<void> {
    this.owed.set(job.id, { job, ending });
    try {
      await this.jobs.update(job.id, withTime(ending));
      if (ending.state === 'failed' || ending.state === 'cancelled') await this.tellFailure(job, ending.problem ?? '');
      this.owed.delete(job.id);
    } catch (error) {
      this.log.error(error);
      this.later(() => void this.end(job, ending));
    } finally {
      this.running.delete(job.id);
      this.changes.tell('job', job.projectId, job.id);
    }
  }

  private async tellFailure(job: JobEntity, problem: string): Promise<void> {
    await this.failed.get(job.kind)?.(job, problem);
  }

  private describe(error: unknown, signal: AbortSignal): Ending {
    if (signal.aborted || error instanceof CancelledError) return { state: 'cancelled', problem: CALLED_OFF };
    if (isDiskFull(error)) return { state: 'failed', problem: endedForRoom(error) };
    if (isRefusal(error)) return { state: 'failed', problem: error.message };
    if (error instanceof MediaProgramError) {
      if (error.said) this.log.warn(`${error.message}: ${error.said}`);
      return { state: 'failed', problem: `The file could not be worked on: ${error.message}. Copy it again, or convert it to MP4.` };
    }
    this.log.error(error instanceof Error ? (error.stack ?? error.message) : String(error));
    return { state: 'failed', problem: 'Something went wrong on the server. Try again; the details are in its log.' };
  }
}
