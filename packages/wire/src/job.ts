import type { Loudness } from '@bluster/core';
import { Type } from 'class-transformer';
import { IsBoolean, IsIn, IsInt, IsNumber, IsObject, IsOptional, IsString, IsUUID, Max, Min, ValidateNested } from 'class-validator';
import { ExportRequest } from './export.ts';

/** Files are made ready in turns: what is needed to work with them, then clips are looked at, then their proxies are made. */
export const JOB_KINDS = ['prepare', 'look', 'proxy', 'export'] as const;
export type JobKind = (typeof JOB_KINDS)[number];
export const JOB_STATES = ['queued', 'running', 'done', 'failed', 'cancelled'] as const;
export type JobState = (typeof JOB_STATES)[number];

/** What a finished film was found to be, in a line. */
export class ProofAnswer {
  @IsBoolean() readonly good: boolean;
  /** a sentence */
  @IsString() readonly verdict: string;
  /** film seconds of the first thing that is wrong */
  @IsOptional() @IsNumber() readonly wrongAt: number | null;
  /** how far the cut that is farthest from its mark is, as measured, ms; null where no cut was found that has one */
  @IsOptional() @IsNumber() readonly worstErrorMs: number | null;
  /** null where the song was heard nowhere by itself */
  @IsOptional() @IsNumber() readonly soundLateMs: number | null;
}

/** What came of an export. */
export class ExportResult {
  @IsInt() readonly frames: number;
  @IsInt() readonly cuts: number;
  /** how far the cut that is farthest off its mark is planned to be, ms */
  @IsNumber() readonly worstErrorMs: number;
  @IsInt() readonly emptySlots: number;
  @IsInt() readonly shortShots: number;
  /** how loud it is; null without sound, and films of earlier versions were not measured */
  @IsOptional() @IsObject() readonly loudness?: Loudness | null;
  /** of the file; not known of films of earlier versions, nor is what follows */
  @IsOptional() @IsInt() readonly bytes?: number;
  @IsOptional() @IsInt() readonly width?: number;
  @IsOptional() @IsInt() readonly height?: number;
  @IsOptional() @IsNumber() readonly seconds?: number;
  /** what was found when it was read back; null of a single picture */
  @IsOptional() @ValidateNested() @Type(() => ProofAnswer) readonly proof?: ProofAnswer | null;
}

/** A piece of long work. Times are ms since 1970. */
export class JobAnswer {
  @IsUUID() readonly id: string;
  @IsIn(JOB_KINDS) readonly kind: JobKind;
  @IsIn(JOB_STATES) readonly state: JobState;
  /** 0 to 1 */
  @IsNumber() @Min(0) @Max(1) readonly progress: number;
  /** a sentence, where it failed or was called off */
  @IsOptional() @IsString() readonly problem: string | null;
  /** the file that is made ready; null of an export */
  @IsOptional() @IsUUID() readonly assetId: string | null;
  @IsOptional() @ValidateNested() @Type(() => ExportResult) readonly result: ExportResult | null;
  /** of an export: what was asked for; null of other jobs and of exports of earlier versions */
  @IsOptional() @ValidateNested() @Type(() => ExportRequest) readonly wish: ExportRequest | null;
  @IsInt() readonly createdAt: number;
  @IsOptional() @IsInt() readonly startedAt: number | null;
  @IsOptional() @IsInt() readonly endedAt: number | null;
}
