import { Body, Controller, Delete, Get, HttpCode, Param, ParseUUIDPipe, Post, Res } from '@nestjs/common';
import type { Response } from 'express';
import { fileName } from '@bluster/core';
import { KeepTemplateRequest, ProjectNameRequest, type OpenedBundleAnswer, type TemplateAnswer } from '@bluster/wire';
import { TemplatesService } from './templates.service.ts';

@Controller('api')
export class TemplatesController {
  constructor(private readonly templates: TemplatesService) {}

  @Get('templates')
  list(): Promise<TemplateAnswer[]> {
    return this.templates.list();
  }

  @Post('projects/:id/template')
  keep(@Param('id', ParseUUIDPipe) id: string, @Body() wish: KeepTemplateRequest): Promise<TemplateAnswer> {
    return this.templates.keep(id, wish);
  }

  /** A project of a name from a template, which ships by a short name or was kept by an id. */
  @Post('templates/:id/project')
  begin(@Param('id') id: string, @Body() { name }: ProjectNameRequest): Promise<OpenedBundleAnswer> {
    return this.templates.begin(id, name);
  }

  /** One that was kept as a file, for another computer: it is opened there as bundles are. */
  @Get('templates/:id/file')
  async file(@Param('id', ParseUUIDPipe) id: string, @Res() response: Response): Promise<void> {
    const path = this.templates.file(id);
    const name = (await this.templates.list()).find((t) => t.id === id)?.name ?? 'template';
    response.type('application/zip');
    response.setHeader('Content-Disposition', `attachment; filename*=UTF-8''${encodeURIComponent(`${fileName(name)}.template.zip`)}`);
    response.sendFile(path, { dotfiles: 'allow', cacheControl: false });
  }

  @Delete('templates/:id')
  @HttpCode(204)
  remove(@Param('id', ParseUUIDPipe) id: string): Promise<void> {
    return this.templates.remove(id);
  }

  @Post('templates/:id/restore')
  @HttpCode(204)
  restore(@Param('id', ParseUUIDPipe) id: string): Promise<void> {
    return this.templates.restore(id);
  }
}
