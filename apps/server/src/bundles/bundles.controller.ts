import {
  BadRequestException,
  Controller,
  Get,
  Param,
  ParseUUIDPipe,
  Post,
  Query,
  Res,
  UploadedFile,
  UseGuards,
  UseInterceptors,
} from '@nestjs/common';
import { FileInterceptor } from '@nestjs/platform-express';
import type { Response } from 'express';
import { pipeline } from 'node:stream/promises';
import { fileName } from '@bluster/core';
import { BundleQuery, type OpenedBundleAnswer } from '@bluster/wire';
import { BundlesService } from './bundles.service.ts';
import { RoomForBundle } from './room-for-bundle.ts';

@Controller('api')
export class BundlesController {
  constructor(private readonly bundles: BundlesService) {}

  /** A project as one file: with its media, or without. */
  @Get('projects/:id/bundle')
  async write(@Param('id', ParseUUIDPipe) id: string, @Query() { media = 'with' }: BundleQuery, @Res() response: Response): Promise<void> {
    const { name, stream } = await this.bundles.write(id, media === 'with');
    response.type('application/zip');
    response.setHeader('Content-Disposition', `attachment; filename*=UTF-8''${encodeURIComponent(`${fileName(name)}.bluster.zip`)}`);
    // Whoever goes away in the middle ends it.
    await pipeline(stream, response).catch(() => stream.destroy());
  }

  /** The cut as OpenTimelineIO with its media (.otioz). */
  @Get('projects/:id/otioz')
  async otioz(@Param('id', ParseUUIDPipe) id: string, @Res() response: Response): Promise<void> {
    const { name, stream } = await this.bundles.writeOtioz(id);
    response.type('application/zip');
    response.setHeader('Content-Disposition', `attachment; filename*=UTF-8''${encodeURIComponent(`${fileName(name)}.otioz`)}`);
    await pipeline(stream, response).catch(() => stream.destroy());
  }

  @Post('bundles')
  @UseGuards(RoomForBundle)
  @UseInterceptors(FileInterceptor('file'))
  async open(@UploadedFile() file?: Express.Multer.File): Promise<OpenedBundleAnswer> {
    if (!file) throw new BadRequestException('No file came with the upload. Send one in the field "file".');
    return this.bundles.open(file.path);
  }
}
