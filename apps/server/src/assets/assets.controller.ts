import {
  BadRequestException,
  ConflictException,
  Controller,
  Get,
  HttpCode,
  NotFoundException,
  Param,
  ParseEnumPipe,
  ParseIntPipe,
  ParseUUIDPipe,
  Post,
  Query,
  Req,
  Res,
  UploadedFile,
  UseGuards,
  UseInterceptors,
} from '@nestjs/common';
import { Matches } from 'class-validator';
import { FileInterceptor } from '@nestjs/platform-express';
import type { Request, Response } from 'express';
import { MontagesService } from '../montages/montages.service.ts';
import { ProjectsService } from '../projects/projects.service.ts';
import type { AssetAnswer } from '@bluster/wire';
import { assetAnswer } from './asset-answer.ts';
import { PART_NAMES, type AssetPart } from './asset-files.ts';
import { AssetsService } from './assets.service.ts';
import type { AssetRole } from './look-at-file.ts';
import { RoomForUpload } from './room-for-upload.ts';

/** An asset never changes once it is made, so the browser may keep it: a year. */
const CACHED = 'private, max-age=31536000, immutable';
const ROLES = { song: 'song', footage: 'footage' } as const;

const UUID_LENGTH = 36;
const ONE_TILE = '[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}\\.\\d{1,3}';
const MOST_TILES = 64;

export class TilesQuery {
  /** `id.picture`, with commas between */
  @Matches(new RegExp(`^${ONE_TILE}(?:,${ONE_TILE}){0,${MOST_TILES - 1}}$`), {
    message: `Up to ${MOST_TILES} pictures can be asked for at once, each as id.number, with commas between`,
  })
  of: string;
}

@Controller('api')
export class AssetsController {
  constructor(
    private readonly assets: AssetsService,
    private readonly projects: ProjectsService,
    private readonly montages: MontagesService,
  ) {}

  @Get('projects/:id/assets')
  async list(@Param('id', ParseUUIDPipe) id: string): Promise<AssetAnswer[]> {
    await this.projects.find(id);
    return (await this.assets.list(id)).map(assetAnswer);
  }

  @Post('projects/:id/assets')
  @UseGuards(RoomForUpload)
  @UseInterceptors(FileInterceptor('file'))
  async upload(
    @Param('id', ParseUUIDPipe) id: string,
    @Query('role', new ParseEnumPipe(ROLES)) role: AssetRole,
    @UploadedFile() file?: Express.Multer.File,
  ): Promise<AssetAnswer> {
    if (!file) throw new BadRequestException('No file came with the upload. Send one in the field "file".');
    // Browsers send names as UTF-8, which multer reads as Latin-1.
    const name = Buffer.from(file.originalname, 'latin1').toString('utf8');
    return assetAnswer(await this.assets.takeIn(id, file.path, name.includes('\ufffd') ? file.originalname : name, role));
  }

  /** One picture of a clip's filmstrip: a shelf of hundreds of clips cannot hold all their filmstrips. */
  @Get('assets/:id/tiles/:picture')
  async tile(
    @Param('id', ParseUUIDPipe) id: string,
    @Param('picture', ParseIntPipe) picture: number,
    @Res() response: Response,
  ): Promise<void> {
    response
      .set('Cache-Control', CACHED)
      .type('jpeg')
      .send(await this.assets.tile(id, picture));
  }

  /**
   * Small pictures of many clips at once, for screens that show hundreds: each as its length in bytes (unsigned, 32 bits,
   * little-endian; 0 where there is none) and its JPEG.
   */
  @Get('tiles')
  async tiles(@Query() { of }: TilesQuery, @Res() response: Response): Promise<void> {
    const wanted = of.split(',').map((one) => ({ id: one.slice(0, UUID_LENGTH), picture: Number(one.slice(UUID_LENGTH + 1)) }));
    const parts = (await this.assets.tiles(wanted)).flatMap((tile) => {
      const head = Buffer.alloc(4);
      head.writeUInt32LE(tile?.length ?? 0);
      return tile ? [head, tile] : [head];
    });
    response.set('Cache-Control', 'no-store').type('application/octet-stream').send(Buffer.concat(parts));
  }

  /** Someone looks at it: it is made ready before what waits. */
  @Post('assets/:id/hurry')
  @HttpCode(204)
  async hurry(@Param('id', ParseUUIDPipe) id: string): Promise<void> {
    await this.assets.hurry(id);
  }

  /** Gives up a file that is not in the montage: its work is called off and what there is of it removed. */
  @Post('assets/:id/discard')
  @HttpCode(204)
  async discard(@Param('id', ParseUUIDPipe) id: string): Promise<void> {
    const { projectId } = await this.assets.find(id);
    if (await this.montages.uses(projectId, id))
      throw new ConflictException(
        'This file is used in the montage or in a version that is kept. Remove it from the footage instead; that can be undone.',
      );
    await this.assets.discard(id);
  }

  @Get('assets/:id/:part')
  async part(
    @Param('id', ParseUUIDPipe) id: string,
    @Param('part', new ParseEnumPipe(PART_NAMES)) part: AssetPart,
    @Req() _request: Request,
    @Res() response: Response,
  ): Promise<void> {
    const asset = await this.assets.find(id);
    if (part === 'original' && asset.kind !== 'face') throw new NotFoundException('The original is not handed out.');
    const path = this.assets.finishedPart(asset, part);
    if (path === null) throw new NotFoundException('This part of the file is not made yet.');
    response.set('Cache-Control', CACHED);
    // What strangers made is never a page of ours.
    if (part === 'original') response.type('application/octet-stream');
    response.sendFile(path, { cacheControl: false, acceptRanges: true, dotfiles: 'allow' });
  }
}
