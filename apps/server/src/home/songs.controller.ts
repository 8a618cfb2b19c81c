import { Body, Controller, Get, Param, ParseUUIDPipe, Post, Res } from '@nestjs/common';
import type { Response } from 'express';
import { TakeSongRequest, type AssetAnswer, type ShippedSongAnswer } from '@bluster/wire';
import { assetAnswer } from '../assets/asset-answer.ts';
import { ShippedSongs } from './shipped-songs.ts';

@Controller('api')
export class SongsController {
  constructor(private readonly songs: ShippedSongs) {}

  @Get('songs')
  list(): Promise<ShippedSongAnswer[]> {
    return this.songs.list();
  }

  /** One of them as it is heard before it is taken. */
  @Get('songs/:id/sound')
  async sound(@Param('id') id: string, @Res() response: Response): Promise<void> {
    const file = await this.songs.file(id);
    response.type('audio/ogg').sendFile(file, { acceptRanges: true });
  }

  @Post('projects/:id/song')
  async take(@Param('id', ParseUUIDPipe) id: string, @Body() { song }: TakeSongRequest): Promise<AssetAnswer> {
    return assetAnswer(await this.songs.take(id, song));
  }
}
