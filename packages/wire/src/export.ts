import {
  FILM_PRESETS,
  LOUDNESS_TARGETS,
  QUALITIES,
  type FilmPresetName,
  type FilmWish,
  type FrameRate,
  type Loudness,
  type Quality,
} from '@bluster/core';
import { Transform, Type } from 'class-transformer';
import { IsDivisibleBy, IsIn, IsInt, IsNumber, IsObject, IsOptional, IsString, Length, Max, Min, ValidateNested } from 'class-validator';

const PRESETS = Object.keys(FILM_PRESETS) as FilmPresetName[];

export class FilmSize {
  @IsInt() @Min(16) @Max(8192) @IsDivisibleBy(2, { message: 'A film is an even number of pixels wide.' }) readonly width: number;
  @IsInt() @Min(16) @Max(8192) @IsDivisibleBy(2, { message: 'A film is an even number of pixels high.' }) readonly height: number;
}

export class FilmRate implements FrameRate {
  @IsInt() @Min(1) @Max(240_000) readonly num: number;
  @IsInt() @Min(1) @Max(1001) readonly den: number;
}

/** Montage seconds. */
export class FilmStretch {
  @IsNumber() @Min(0) @Max(21_600) readonly from: number;
  @IsNumber() @Min(0) @Max(21_600) readonly to: number;
}

/** Asks for a film of the montage as it is saved; what is left out is as the montage has it, and written in the usual way. */
export class ExportRequest implements Partial<FilmWish> {
  @IsOptional()
  @IsIn(PRESETS, { message: `A film is written in one of these ways: ${PRESETS.join(', ')}` })
  readonly preset?: FilmPresetName;
  @IsOptional() @IsIn(QUALITIES) readonly quality?: Quality;
  @IsOptional() @ValidateNested() @Type(() => FilmSize) readonly size?: FilmSize;
  @IsOptional() @ValidateNested() @Type(() => FilmRate) readonly rate?: FilmRate;
  @IsOptional() @ValidateNested() @Type(() => FilmStretch) readonly stretch?: FilmStretch;
  @IsOptional() @IsNumber() @Min(LOUDNESS_TARGETS.quietest) @Max(LOUDNESS_TARGETS.loudest) readonly loudness?: number;
  /** what it is called; as the project where nothing is said */
  @IsOptional()
  @Transform(({ value }: { value: unknown }) => (typeof value === 'string' ? value.trim() : value))
  @IsString()
  @Length(1, 120, { message: 'The name of a film has 1 to 120 characters' })
  readonly name?: string;
}

/** How a report is handed out. */
export const REPORT_FORMS = ['json', 'csv', 'html'] as const;
export type ReportForm = (typeof REPORT_FORMS)[number];

export class ReportQuery {
  @IsOptional()
  @IsIn(REPORT_FORMS, { message: `A report is handed out as one of these: ${REPORT_FORMS.join(', ')}` })
  readonly as?: ReportForm;
}

/** How loud a montage is, as it was saved under a number. */
export class LoudnessAnswer {
  @IsInt() readonly revision: number;
  @IsObject() readonly loudness: Loudness;
  /** how far its loudest places are turned down, so that nothing is clipped, dB */
  @IsNumber() readonly turnedDown: number;
}
