import type { Montage } from '@bluster/core';
import { IsInt, IsObject, IsString, IsUUID, MaxLength, Min } from 'class-validator';

/** Asks for a montage to be saved. */
export class SaveMontageRequest {
  /** the revision that the document was made from */
  @IsInt() @Min(1) readonly revision: number;
  /** a montage; it is checked whole by core's schema */
  @IsObject() readonly document: object;
}

/** Asks for a version to be kept. */
export class KeepVersionRequest extends SaveMontageRequest {
  @IsString() @MaxLength(200) readonly reason: string;
}

/** A montage as it is saved, and when, ms since 1970. */
export class SavedMontageAnswer {
  @IsInt() @Min(1) readonly revision: number;
  @IsInt() readonly savedAt: number;
  @IsObject() readonly document: Montage;
}

/** That a montage was saved. */
export class SavedAnswer {
  @IsInt() @Min(1) readonly revision: number;
  @IsInt() readonly savedAt: number;
}

/** That an earlier version stands in the place of one that could not be read. */
export class LastGoodAnswer {
  /** when that version was saved, ms since 1970 */
  @IsInt() readonly savedAt: number;
}

/** A version of a montage that is kept, without what is in it. */
export class KeptVersionAnswer {
  @IsUUID() readonly id: string;
  @IsInt() readonly revision: number;
  @IsInt() readonly savedAt: number;
  @IsString() readonly reason: string;
}
