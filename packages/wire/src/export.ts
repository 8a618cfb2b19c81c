import { FILM_PRESETS, type FilmPresetName } from '@bluster/core';
import { IsIn, IsOptional } from 'class-validator';

/** Asks for a film of the montage as it is saved. */
export class ExportRequest {
  /** how it is written; the usual way where none is named */
  @IsOptional()
  @IsIn(Object.keys(FILM_PRESETS), { message: `A film is written in one of these ways: ${Object.keys(FILM_PRESETS).join(', ')}` })
  readonly preset?: FilmPresetName;
}
