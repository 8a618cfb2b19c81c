import { Body, Controller, Delete, Get, HttpCode, Param, ParseUUIDPipe, Post } from '@nestjs/common';
import { KeepDressingRequest, type DressingAnswer } from '@bluster/wire';
import { DressingsService } from './dressings.service.ts';

@Controller('api/dressings')
export class DressingsController {
  constructor(private readonly dressings: DressingsService) {}

  @Get()
  list(): Promise<DressingAnswer[]> {
    return this.dressings.list();
  }

  @Post()
  keep(@Body() { dressing }: KeepDressingRequest): Promise<DressingAnswer> {
    return this.dressings.keep(dressing);
  }

  @Delete(':id')
  @HttpCode(204)
  remove(@Param('id', ParseUUIDPipe) id: string): Promise<void> {
    return this.dressings.remove(id);
  }
}
