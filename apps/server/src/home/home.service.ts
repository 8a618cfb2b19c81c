import { Injectable, Logger, NotFoundException, type OnModuleInit } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { randomUUID } from 'node:crypto';
import { emptyMontage, isRefusal } from '@bluster/core';
import type { DeletedProjectAnswer, ProjectSummaryAnswer } from '@bluster/wire';
import { IsNull, LessThan, Not, Repository } from 'typeorm';
import { AssetsService } from '../assets/assets.service.ts';
import { ExportFiles } from '../exports/export-files.ts';
import { JobsService } from '../jobs/jobs.service.ts';
import { MontagesService } from '../montages/montages.service.ts';
import type { MontageFacts } from '../montages/reading/montage-facts.ts';
import { ProjectEntity } from '../projects/project.entity.ts';
import { ProjectsService } from '../projects/projects.service.ts';

/** Deleted projects can be brought back for this long. */
const KEPT_AFTER_DELETE_MS = 30 * 24 * 3600_000;

type Glance = Pick<ProjectSummaryAnswer, 'coverAssetId' | 'length' | 'slots' | 'filled' | 'problem'>;

const glanceAt = ({ cover, length, slots, filled }: MontageFacts): Glance => ({
  coverAssetId: cover,
  length,
  slots,
  filled,
  problem: null,
});

/** The list of projects: making, copying, deleting and bringing back. */
@Injectable()
export class HomeService implements OnModuleInit {
  private readonly log = new Logger('Home');
  /** what the list shows of each montage, under the number by which it was saved: reading them all takes a while */
  private readonly glances = new Map<string, { readonly revision: number | null; readonly glance: Glance }>();

  constructor(
    @InjectRepository(ProjectEntity) private readonly rows: Repository<ProjectEntity>,
    private readonly projects: ProjectsService,
    private readonly montages: MontagesService,
    private readonly assets: AssetsService,
    private readonly jobs: JobsService,
    private readonly exports: ExportFiles,
  ) {}

  async onModuleInit(): Promise<void> {
    this.montages.afterSave((id, facts, revision) => void this.glances.set(id, { revision, glance: glanceAt(facts) }));
    for (const old of await this.rows.findBy({ deletedAt: LessThan(Date.now() - KEPT_AFTER_DELETE_MS) })) await this.erase(old.id);
  }

  async list(): Promise<ProjectSummaryAnswer[]> {
    const rows = await this.rows.find({ where: { deletedAt: IsNull() }, order: { updatedAt: 'DESC' } });
    // A few questions for all of them: one after the other for each would hold up everybody else.
    const revisions = await this.montages.revisionsOf(rows.map(({ id }) => id));
    const glances = await Promise.all(rows.map(({ id }) => this.glanceOf(id, revisions.get(id) ?? null)));
    const pictures = await this.assets.smallPictures(glances.flatMap(({ coverAssetId }) => coverAssetId ?? []));
    return rows.map(({ id, name, updatedAt, demo }, i) => {
      const { coverAssetId: wanted, ...glance } = glances[i]!;
      const picture = wanted === null ? undefined : pictures.get(wanted);
      const coverAssetId = picture === 'there' ? wanted : null;
      return { id, name, updatedAt, demo, ...glance, coverAssetId, coverComing: picture === 'coming' };
    });
  }

  /** Deleted projects, the last deleted first; each is gone for good at its time. */
  async listDeleted(): Promise<DeletedProjectAnswer[]> {
    const rows = await this.rows.find({ where: { deletedAt: Not(IsNull()) }, order: { deletedAt: 'DESC' } });
    return rows.map(({ id, name, deletedAt }) => ({ id, name, deletedAt: deletedAt!, goneAt: deletedAt! + KEPT_AFTER_DELETE_MS }));
  }

  async create(name: string, demo = false): Promise<ProjectEntity> {
    const now = Date.now();
    const project = await this.rows.save({ id: randomUUID(), name, createdAt: now, updatedAt: now, deletedAt: null, demo });
    await this.montages.create(project.id, emptyMontage());
    return project;
  }

  async duplicate(id: string): Promise<ProjectEntity> {
    const project = await this.projects.find(id);
    const { facts } = await this.montages.load(id);
    const copy = await this.create(`${project.name.slice(0, 110)} copy`);
    const ids = await this.assets.copyAll(id, copy.id);
    await this.montages.save(copy.id, 1, await this.montages.copied(facts.text, ids));
    return copy;
  }

  /** Puts a project out of sight; restore brings it back. */
  async remove(id: string): Promise<void> {
    await this.projects.find(id);
    await this.jobs.cancelAll(id);
    await this.rows.update(id, { deletedAt: Date.now() });
  }

  async restore(id: string): Promise<ProjectEntity> {
    await this.rows.update(id, { deletedAt: null });
    const project = await this.projects.find(id);
    // Work that was called off when it was deleted begins again.
    await this.assets.prepareAgain(id);
    return project;
  }

  /** Removes a deleted project with everything of it. @throws NotFoundException where it is not among the deleted ones */
  async removeForGood(id: string): Promise<void> {
    const deleted = await this.rows.findOneBy({ id, deletedAt: Not(IsNull()) });
    if (!deleted) throw new NotFoundException('There is no such deleted project.');
    await this.erase(id);
  }

  /** Removes a project that came to nothing while it was made. */
  async discard(id: string): Promise<void> {
    await this.erase(id);
  }

  private async erase(id: string): Promise<void> {
    await this.jobs.cancelAll(id);
    await this.exports.removeAll(id);
    await this.assets.removeAll(id);
    await this.montages.removeAll(id);
    await this.jobs.forgetAll(id);
    await this.rows.delete(id);
    this.glances.delete(id);
  }

  /** What the list says of a montage, as it was saved last. */
  private async glanceOf(id: string, revision: number | null): Promise<Glance> {
    const known = this.glances.get(id);
    if (known?.revision === revision) return known.glance;
    const glance = await this.glance(id);
    this.glances.set(id, { revision, glance });
    return glance;
  }

  /** Each project stands alone: one that cannot be read says so, and hides no other. */
  private async glance(id: string): Promise<Glance> {
    try {
      return glanceAt((await this.montages.load(id)).facts);
    } catch (error) {
      if (!isRefusal(error)) this.log.error(error);
      const problem = isRefusal(error) ? error.message : 'The montage of this project cannot be read; the details are in the log.';
      return { coverAssetId: null, length: 0, slots: 0, filled: 0, problem };
    }
  }
}
