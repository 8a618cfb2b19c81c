import { ConflictException, Injectable, NotFoundException } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { randomUUID } from 'node:crypto';
import { readMontage, upgradeMontage, type Montage } from '@bluster/core';
import type { KeptVersionAnswer, SavedAnswer, SavedMontageAnswer } from '@bluster/wire';
import { Repository } from 'typeorm';
import { KeptVersionEntity } from './kept-version.entity.ts';
import { MontageEntity } from './montage.entity.ts';

/** Keeps montages, each save under a new revision number. */
@Injectable()
export class MontagesService {
  private readonly listeners: ((projectId: string, montage: Montage) => Promise<void>)[] = [];

  constructor(
    @InjectRepository(MontageEntity) private readonly montages: Repository<MontageEntity>,
    @InjectRepository(KeptVersionEntity) private readonly kept: Repository<KeptVersionEntity>,
  ) {}

  /** Has something done after each save, before it is answered. */
  afterSave(listener: (projectId: string, montage: Montage) => Promise<void>): void {
    this.listeners.push(listener);
  }

  async create(projectId: string, montage: Montage): Promise<void> {
    await this.montages.insert({ projectId, revision: 1, document: JSON.stringify(montage), savedAt: Date.now() });
  }

  async load(projectId: string): Promise<SavedMontageAnswer> {
    const row = await this.montages.findOneBy({ projectId });
    if (!row) throw new NotFoundException('There is no such project.');
    return { revision: row.revision, savedAt: row.savedAt, document: upgradeMontage(JSON.parse(row.document)) as Montage };
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

  /** Sets a version aside and returns its id. */
  async keep(projectId: string, revision: number, montage: Montage, reason: string): Promise<string> {
    const id = randomUUID();
    await this.kept.insert({ id, projectId, revision, document: JSON.stringify(montage), savedAt: Date.now(), reason });
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
    return upgradeMontage(JSON.parse(row.document)) as Montage;
  }

  /** Whether the montage or a version that is kept names an asset. */
  async uses(projectId: string, assetId: string): Promise<boolean> {
    const kept = await this.kept.findBy({ projectId });
    const documents = [(await this.load(projectId)).document, ...kept.map((row) => JSON.parse(row.document) as Montage)];
    return documents.some(({ song, footage, sounds }) => [song, ...footage, ...(sounds ?? [])].some((item) => item?.assetId === assetId));
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
