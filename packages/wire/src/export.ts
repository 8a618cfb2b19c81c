import { FILM_PRESETS, type FilmPresetName, type Loudness } from '@bluster/core';
import { IsIn, IsInt, IsNumber, IsObject, IsOptional } from 'class-validator';

/** Asks for a film of the montage as it is saved. */
export class ExportRequest {
  /** how it is written; the usual way where none is named */
  @IsOptional()
  @IsIn(Object.keys(FILM_PRESETS), { message: `A film is written in one of these ways: ${Object.keys(FILM_PRESETS).join(', ')}` })
  readonly preset?: FilmPresetName;
}

/** How loud a montage is, as it was saved under a number. */
export class LoudnessAnswer {
  @IsInt() readonly revision: number;
  @IsObject() readonly loudness: Loudness;
  /** how far its loudest places are turned down, so that nothing is clipped, dB */
  @IsNumber() readonly turnedDown: number;
}
