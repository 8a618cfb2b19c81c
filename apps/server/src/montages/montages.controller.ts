import { BadRequestException, Body, Controller, Delete, Get, HttpCode, Param, ParseUUIDPipe, Post, Put, Res } from '@nestjs/common';
import type { Response } from 'express';
import { KeptVersionAnswer, LastGoodAnswer, SavedAnswer } from '@bluster/wire';
import { MontagesService, SaveConflict, type StoredMontage } from './montages.service.ts';

/** Requests that bring a document come as text; see server.ts. */
function sentText(body: unknown): string {
  if (typeof body === 'string') return body;
  throw new BadRequestException('The request is not valid JSON.');
}

const asText = ({ revision, savedAt, facts }: StoredMontage): string =>
  `{"revision":${revision},"savedAt":${savedAt},"document":${facts.text}}`;

@Controller('api/projects/:id')
export class MontagesController {
  constructor(private readonly montages: MontagesService) {}

  /** Documents go over the wire as the text that they are kept as: nobody here has to know what is in them. */
  @Get('montage')
  async load(@Param('id', ParseUUIDPipe) id: string, @Res() response: Response): Promise<void> {
    response.type('json').send(asText(await this.montages.load(id)));
  }

  @Put('montage')
  async save(
    @Param('id', ParseUUIDPipe) id: string,
    @Body() body: unknown,
    @Res({ passthrough: true }) response: Response,
  ): Promise<SavedAnswer | string> {
    try {
      return await this.montages.saveSent(id, sentText(body));
    } catch (error) {
      if (!(error instanceof SaveConflict)) throw error;
      const { message, keptId, current } = error;
      response.status(409).type('json');
      return `${JSON.stringify({ statusCode: 409, message, keptId }).slice(0, -1)},"current":${asText(current)}}`;
    }
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
  async keep(@Param('id', ParseUUIDPipe) id: string, @Body() body: unknown): Promise<{ id: string }> {
    return { id: await this.montages.keepSent(id, sentText(body)) };
  }

  @Get('versions/:version')
  async version(
    @Param('id', ParseUUIDPipe) id: string,
    @Param('version', ParseUUIDPipe) version: string,
    @Res() response: Response,
  ): Promise<void> {
    response.type('json').send(await this.montages.loadKept(id, version));
  }

  @Delete('versions/:version')
  @HttpCode(204)
  drop(@Param('id', ParseUUIDPipe) id: string, @Param('version', ParseUUIDPipe) version: string): Promise<void> {
    return this.montages.dropKept(id, version);
  }
}
