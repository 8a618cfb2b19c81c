import { ConflictException, Injectable, NotFoundException } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { randomUUID } from 'node:crypto';
import { MontageFormatError, readMontage, type Montage } from '@bluster/core';
import type { KeptVersionAnswer, SavedAnswer, SavedMontageAnswer } from '@bluster/wire';
import { In, Repository } from 'typeorm';
import { Config } from '../config.ts';
import { montagesInCopies } from '../keeping/montages-in-copies.ts';
import { KeptVersionEntity } from './kept-version.entity.ts';
import { MontageEntity } from './montage.entity.ts';

/** Versions of a project that are kept, at most. */
const MOST_KEPT = 50;

/** A stored document in today's form. @throws MontageFormatError where it cannot be read, or is of a newer version */
function readStored(document: string): Montage {
  let value: unknown;
  try {
    value = JSON.parse(document);
  } catch {
    throw new MontageFormatError('The montage of this project is damaged: it breaks off, or was changed from outside.');
  }
  return readMontage(value);
}

function readable(document: string): boolean {
  try {
    readStored(document);
    return true;
  } catch {
    return false;
  }
}

/** Keeps montages, each save under a new revision number. */
@Injectable()
export class MontagesService {
  private readonly listeners: ((projectId: string, montage: Montage) => Promise<void>)[] = [];

  constructor(
    @InjectRepository(MontageEntity) private readonly montages: Repository<MontageEntity>,
    @InjectRepository(KeptVersionEntity) private readonly kept: Repository<KeptVersionEntity>,
    private readonly config: Config,
  ) {}

  /** Has something done after each save, before it is answered. */
  afterSave(listener: (projectId: string, montage: Montage) => Promise<void>): void {
    this.listeners.push(listener);
  }

  async create(projectId: string, montage: Montage): Promise<void> {
    await this.montages.insert({ projectId, revision: 1, document: JSON.stringify(montage), savedAt: Date.now() });
  }

  async load(projectId: string): Promise<SavedMontageAnswer> {
    const { revision, savedAt, document } = await this.row(projectId);
    return { revision, savedAt, document: readStored(document) };
  }

  /** Under which number the montage was saved last; null where there is none. */
  async revisionOf(projectId: string): Promise<number | null> {
    const row = await this.montages.findOne({ where: { projectId }, select: { projectId: true, revision: true } });
    return row?.revision ?? null;
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
    if (readable(damaged.document)) throw new ConflictException('The montage of this project can be read. Nothing was changed.');
    const kept = await this.kept.find({ where: { projectId }, order: { savedAt: 'DESC' } });
    const good = [...kept, ...montagesInCopies(this.config, projectId)]
      .sort((a, b) => b.savedAt - a.savedAt)
      .find(({ document }) => readable(document));
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
    const document = JSON.stringify(readMontage(JSON.parse(good.document)));
    await this.montages.update({ projectId }, { revision: damaged.revision + 1, document, savedAt: Date.now() });
    return good.savedAt;
  }

  /**
   * Saves a montage that was made from a revision.
   * @throws ConflictException when another save came in between: nothing is overwritten, what was sent is kept beside
   *   the current version, and both come back with the refusal
   */
  async save(projectId: string, revision: number, document: unknown): Promise<SavedAnswer> {
    const montage = readMontage(document);
    const savedAt = Date.now();
    // One statement, so that two saves at once cannot both win.
    const done = await this.montages.update(
      { projectId, revision },
      { revision: revision + 1, document: JSON.stringify(montage), savedAt },
    );
    if (done.affected === 1) {
      for (const listener of this.listeners) await listener(projectId, montage);
      return { revision: revision + 1, savedAt };
    }
    const current = await this.load(projectId);
    const keptId = await this.keep(projectId, revision, montage, 'Another window had saved in the meantime.');
    throw new ConflictException({
      message: 'This project was changed in another window. Both versions are kept; choose which one to go on with.',
      current,
      keptId,
    });
  }

  /** Sets a version aside and returns its id; the same one again is kept once, and the oldest go when there are too many. */
  async keep(projectId: string, revision: number, montage: Montage, reason: string): Promise<string> {
    const document = JSON.stringify(montage);
    const before = await this.kept.find({ where: { projectId }, order: { savedAt: 'DESC' } });
    const [last] = before;
    if (last?.document === document && last.reason === reason) return last.id;
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

  async loadKept(projectId: string, id: string): Promise<Montage> {
    const row = await this.kept.findOneBy({ projectId, id });
    if (!row) throw new NotFoundException('There is no such version.');
    return readStored(row.document);
  }

  /** Whether the montage or a version that is kept names an asset. */
  async uses(projectId: string, assetId: string): Promise<boolean> {
    const kept = await this.kept.findBy({ projectId });
    // As text, so that what cannot be read counts too.
    return [(await this.row(projectId)).document, ...kept.map((row) => row.document)].some((text) => text.includes(assetId));
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
