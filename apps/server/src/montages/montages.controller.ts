import { Body, Controller, Delete, Get, HttpCode, Param, ParseUUIDPipe, Post, Put, Res } from '@nestjs/common';
import { readMontage, type Montage } from '@bluster/core';
import type { Response } from 'express';
import { KeepVersionRequest, LastGoodAnswer, KeptVersionAnswer, SavedAnswer, SavedMontageAnswer, SaveMontageRequest } from '@bluster/wire';
import { MontagesService } from './montages.service.ts';

@Controller('api/projects/:id')
export class MontagesController {
  constructor(private readonly montages: MontagesService) {}

  @Get('montage')
  load(@Param('id', ParseUUIDPipe) id: string): Promise<SavedMontageAnswer> {
    return this.montages.load(id);
  }

  @Put('montage')
  save(@Param('id', ParseUUIDPipe) id: string, @Body() body: SaveMontageRequest): Promise<SavedAnswer> {
    return this.montages.save(id, body.revision, body.document);
  }

  /** What is stored, as a file: also where it cannot be read, so that it can be looked into. */
  @Get('montage/file')
  async file(@Param('id', ParseUUIDPipe) id: string, @Res() response: Response): Promise<void> {
    response
      .attachment(`montage-${id}.json`)
      .type('json')
      .send(await this.montages.raw(id));
  }

  /** Goes back to the newest version that can be read, where the one that is stored cannot. */
  @Post('montage/last-good')
  @HttpCode(200)
  async lastGood(@Param('id', ParseUUIDPipe) id: string): Promise<LastGoodAnswer> {
    return { savedAt: await this.montages.takeLastGood(id) };
  }

  @Get('versions')
  versions(@Param('id', ParseUUIDPipe) id: string): Promise<KeptVersionAnswer[]> {
    return this.montages.listKept(id);
  }

  @Post('versions')
  @HttpCode(201)
  async keep(@Param('id', ParseUUIDPipe) id: string, @Body() body: KeepVersionRequest): Promise<{ id: string }> {
    await this.montages.load(id);
    return { id: await this.montages.keep(id, body.revision, readMontage(body.document), body.reason) };
  }

  @Get('versions/:version')
  version(@Param('id', ParseUUIDPipe) id: string, @Param('version', ParseUUIDPipe) version: string): Promise<Montage> {
    return this.montages.loadKept(id, version);
  }

  @Delete('versions/:version')
  @HttpCode(204)
  drop(@Param('id', ParseUUIDPipe) id: string, @Param('version', ParseUUIDPipe) version: string): Promise<void> {
    return this.montages.dropKept(id, version);
  }
}
