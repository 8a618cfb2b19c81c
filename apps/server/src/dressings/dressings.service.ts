import { BadRequestException, Injectable, NotFoundException } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { randomUUID } from 'node:crypto';
import { DRESSINGS, readDressing } from '@bluster/core';
import type { DressingAnswer } from '@bluster/wire';
import { Repository } from 'typeorm';
import { DressingEntity } from './dressing.entity.ts';

/** Dressings that are kept, at most. */
const MOST_KEPT = 200;

const answerOf = ({ id, savedAt, dressing }: DressingEntity): DressingAnswer => ({
  id,
  savedAt,
  dressing: readDressing(JSON.parse(dressing)),
});

/** Keeps dressings by their names. */
@Injectable()
export class DressingsService {
  constructor(@InjectRepository(DressingEntity) private readonly dressings: Repository<DressingEntity>) {}

  async list(): Promise<DressingAnswer[]> {
    return (await this.dressings.find({ order: { name: 'ASC' } })).map(answerOf);
  }

  /** One of the same name makes room. @throws DressingError, BadRequestException */
  async keep(sent: object): Promise<DressingAnswer> {
    const dressing = readDressing(sent);
    const { name } = dressing;
    if (DRESSINGS.some((d) => d.name === name))
      throw new BadRequestException(`"${name}" ships with Bluster and stays as it is. Choose another name.`);
    const same = await this.dressings.findOneBy({ name });
    if (!same && (await this.dressings.count()) >= MOST_KEPT)
      throw new BadRequestException(`${MOST_KEPT} dressings are kept already. Remove one first.`);
    const row = { id: same?.id ?? randomUUID(), name, dressing: JSON.stringify(dressing), savedAt: Date.now() };
    return answerOf(await this.dressings.save(row));
  }

  async remove(id: string): Promise<void> {
    const { affected } = await this.dressings.delete(id);
    if (!affected) throw new NotFoundException('That dressing is no longer kept.');
  }
}
