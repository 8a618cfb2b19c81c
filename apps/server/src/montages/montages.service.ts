import { ConflictException, Injectable, NotFoundException } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { randomUUID } from 'node:crypto';
import { isRefusal, type Montage } from '@bluster/core';
import type { KeptVersionAnswer, SavedAnswer } from '@bluster/wire';
import { In, Like, Repository } from 'typeorm';
import { Config } from '../config.ts';
import { montagesInCopies } from '../keeping/montages-in-copies.ts';
import { KeptVersionEntity } from './kept-version.entity.ts';
import { MontageEntity } from './montage.entity.ts';
import { DocumentReader } from './reading/document-reader.ts';
import type { MontageFacts } from './reading/montage-facts.ts';

/** Versions of a project that are kept, at most. */
const MOST_KEPT = 50;

/** A montage as it is saved. */
export interface StoredMontage {
  readonly revision: number;
  /** ms since 1970 */
  readonly savedAt: number;
  readonly facts: MontageFacts;
}

/** Told of each save, before it is answered: what was saved, and under which number. */
type SaveListener = (projectId: string, facts: MontageFacts, revision: number) => void | Promise<void>;

/** Another save came in between: nothing was overwritten, and what was sent is kept. */
export class SaveConflict extends Error {
  constructor(
    readonly current: StoredMontage,
    readonly keptId: string,
  ) {
    super('This project was changed in another window. Both versions are kept; choose which one to go on with.');
  }
}

/** Keeps montages, each save under a new revision number. */
@Injectable()
export class MontagesService {
  private readonly listeners: SaveListener[] = [];

  constructor(
    @InjectRepository(MontageEntity) private readonly montages: Repository<MontageEntity>,
    @InjectRepository(KeptVersionEntity) private readonly kept: Repository<KeptVersionEntity>,
    private readonly config: Config,
    private readonly reader: DocumentReader,
  ) {}

  /** Has something done after each save, before it is answered. */
  afterSave(listener: SaveListener): void {
    this.listeners.push(listener);
  }

  async create(projectId: string, montage: Montage): Promise<void> {
    await this.montages.insert({ projectId, revision: 1, document: JSON.stringify(montage), savedAt: Date.now() });
  }

  /** @throws MontageFormatError where what is stored cannot be read, or is of a newer version */
  async load(projectId: string): Promise<StoredMontage> {
    const { revision, savedAt, document } = await this.row(projectId);
    return { revision, savedAt, facts: await this.read(document) };
  }

  /** What is in a document that was stored. @throws MontageFormatError */
  async read(text: string): Promise<MontageFacts> {
    return (await this.reader.read({ kind: 'stored', text })).facts;
  }

  private async readable(text: string): Promise<MontageFacts | null> {
    return this.read(text).catch((error: unknown) => {
      if (isRefusal(error)) return null;
      throw error;
    });
  }

  /** Under which number the montage was saved last; null where there is none. */
  async revisionOf(projectId: string): Promise<number | null> {
    const row = await this.montages.findOne({ where: { projectId }, select: { projectId: true, revision: true } });
    return row?.revision ?? null;
  }

  /** Under which number each of these projects' montages was saved last. */
  async revisionsOf(projectIds: readonly string[]): Promise<ReadonlyMap<string, number>> {
    const rows = await this.montages.find({ where: { projectId: In([...projectIds]) }, select: { projectId: true, revision: true } });
    return new Map(rows.map(({ projectId, revision }) => [projectId, revision]));
  }

  /** What is stored as it is, also where it cannot be read. */
  async raw(projectId: string): Promise<string> {
    return (await this.row(projectId)).document;
  }

  private async row(projectId: string): Promise<MontageEntity> {
    const row = await this.montages.findOneBy({ projectId });
    if (!row) throw new NotFoundException('There is no such project.');
    return row;
  }

  /**
   * Puts the newest version that can be read in the place of a montage that cannot: one that was kept, or that of a copy of the
   * database. What cannot be read is kept beside it.
   * @returns when that version was saved, ms since 1970
   * @throws ConflictException where it can be read; NotFoundException where there is no other
   */
  async takeLastGood(projectId: string): Promise<number> {
    const damaged = await this.row(projectId);
    if (await this.readable(damaged.document)) throw new ConflictException('The montage of this project can be read. Nothing was changed.');
    const kept = await this.kept.find({ where: { projectId }, order: { savedAt: 'DESC' } });
    let good: { savedAt: number; facts: MontageFacts } | null = null;
    for (const { document, savedAt } of [...kept, ...montagesInCopies(this.config, projectId)].sort((a, b) => b.savedAt - a.savedAt)) {
      const facts = await this.readable(document);
      if (facts) good = { savedAt, facts };
      if (good) break;
    }
    if (!good)
      throw new NotFoundException(
        'No version of this montage that can be read is left. It can be taken out as a file, and a new project begun.',
      );
    await this.kept.insert({
      id: randomUUID(),
      projectId,
      revision: damaged.revision,
      document: damaged.document,
      savedAt: damaged.savedAt,
      reason: 'It could not be read.',
    });
    const { text: document } = good.facts;
    await this.montages.update({ projectId }, { revision: damaged.revision + 1, document, savedAt: Date.now() });
    return good.savedAt;
  }

  /** Saves a montage that a request brings. @throws as save, and BadRequestException where the request is not what it should be */
  async saveSent(projectId: string, request: string): Promise<SavedAnswer> {
    const { revision, facts } = await this.reader.read({ kind: 'save', text: request });
    return this.save(projectId, revision, facts);
  }

  /** Keeps the version that a request brings. @returns its id */
  async keepSent(projectId: string, request: string): Promise<string> {
    const { revision, facts, reason } = await this.reader.read({ kind: 'keep', text: request });
    if ((await this.revisionOf(projectId)) === null) throw new NotFoundException('There is no such project.');
    return this.keep(projectId, revision, facts.text, reason);
  }

  /** The cut of a montage as OpenTimelineIO. @param places of its files, by their ids */
  async asOtio(text: string, name: string, places: ReadonlyMap<string, string>): Promise<string> {
    return (await this.reader.read({ kind: 'otio', text, name, places })).written!;
  }

  /** A montage as a template keeps it. */
  async withoutPictures(text: string): Promise<MontageFacts> {
    return (await this.reader.read({ kind: 'template', text })).facts;
  }

  /** A montage in which files get other ids; one without a new id keeps its own. */
  async copied(text: string, ids: ReadonlyMap<string, string>): Promise<MontageFacts> {
    return (await this.reader.read({ kind: 'copy', text, ids })).facts;
  }

  /**
   * Saves a montage that was made from a revision.
   * @throws SaveConflict when another save came in between: nothing is overwritten, what was sent is kept beside
   *   the current version
   */
  async save(projectId: string, revision: number, facts: MontageFacts): Promise<SavedAnswer> {
    const savedAt = Date.now();
    // One statement, so that two saves at once cannot both win.
    const done = await this.montages.update({ projectId, revision }, { revision: revision + 1, document: facts.text, savedAt });
    if (done.affected === 1) {
      for (const listener of this.listeners) await listener(projectId, facts, revision + 1);
      return { revision: revision + 1, savedAt };
    }
    const current = await this.load(projectId);
    throw new SaveConflict(current, await this.keep(projectId, revision, facts.text, 'Another window had saved in the meantime.'));
  }

  /** Sets a version aside and returns its id; the same one again is kept once, and the oldest go when there are too many. */
  private async keep(projectId: string, revision: number, document: string, reason: string): Promise<string> {
    const last = await this.kept.findOne({ where: { projectId }, order: { savedAt: 'DESC' } });
    if (last?.document === document && last.reason === reason) return last.id;
    const before = await this.listKept(projectId);
    const old = before.slice(MOST_KEPT - 1).map((row) => row.id);
    if (old.length > 0) await this.kept.delete({ id: In(old) });
    const id = randomUUID();
    await this.kept.insert({ id, projectId, revision, document, savedAt: Date.now(), reason });
    return id;
  }

  /** The versions set aside, newest first, without their documents. */
  async listKept(projectId: string): Promise<KeptVersionAnswer[]> {
    return this.kept.find({
      where: { projectId },
      order: { savedAt: 'DESC' },
      select: { id: true, revision: true, savedAt: true, reason: true },
    });
  }

  /** The text of a version that was kept. */
  async loadKept(projectId: string, id: string): Promise<string> {
    const row = await this.kept.findOneBy({ projectId, id });
    if (!row) throw new NotFoundException('There is no such version.');
    return (await this.read(row.document)).text;
  }

  /** Whether the montage or a version that is kept names an asset. */
  async uses(projectId: string, assetId: string): Promise<boolean> {
    // As text, so that what cannot be read counts too.
    const named = { projectId, document: Like(`%${assetId}%`) };
    return (await this.montages.existsBy(named)) || (await this.kept.existsBy(named));
  }

  /** Removes a project's montage and its kept versions for good. */
  async removeAll(projectId: string): Promise<void> {
    await this.kept.delete({ projectId });
    await this.montages.delete({ projectId });
  }

  async dropKept(projectId: string, id: string): Promise<void> {
    const { affected } = await this.kept.delete({ projectId, id });
    if (affected !== 1) throw new NotFoundException('There is no such version.');
  }
}
