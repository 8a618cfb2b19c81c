import { Type } from 'class-transformer';
import {
  Equals,
  IsArray,
  IsBoolean,
  ArrayMaxSize,
  IsIn,
  IsInt,
  IsNumber,
  IsOptional,
  IsString,
  IsUUID,
  Max,
  MaxLength,
  Min,
  MinLength,
  ValidateIf,
  ValidateNested,
} from 'class-validator';
import { LONGEST_NOTE } from '@bluster/core';
import { ASSET_KINDS, type AssetInfo, type AssetKind } from '@bluster/wire';

/** Names of what lies in a bundle, which is a zip file (APPNOTE 6.3, with its extension for large files). */
export const MANIFEST = 'bundle.json';
export const MONTAGE = 'montage.json';
export const MEDIA = 'media/';

/** So many files at the most, and so large the two documents, bytes. */
export const MOST_MEDIA = 5000;
export const LARGEST_DOCUMENT = 32 * 2 ** 20;
/** Of a version beyond this nothing is known. */
export const BUNDLE_VERSION = 1;

/** Frames a second. */
class BundledRate {
  @IsInt() @Min(1) @Max(240_000) num: number;
  @IsInt() @Min(1) @Max(1001) den: number;
}

/** What is known of a file that is not in a bundle, so that it is known again when it comes: seconds and pixels. */
export class MissingInfo implements Pick<AssetInfo, 'length' | 'width' | 'height' | 'rate' | 'frames' | 'hasSound'> {
  @IsOptional() @IsNumber() @Min(0) @Max(1e6) length?: number;
  @IsOptional() @IsInt() @Min(1) @Max(1e5) width?: number;
  @IsOptional() @IsInt() @Min(1) @Max(1e5) height?: number;
  @IsOptional() @ValidateNested() @Type(() => BundledRate) rate?: BundledRate;
  @IsOptional() @IsInt() @Min(1) @Max(1e9) frames?: number;
  @IsOptional() @IsBoolean() hasSound?: boolean;
}

/** One file of a project. */
export class BundledFile {
  @IsUUID() id: string;
  @IsIn(ASSET_KINDS) kind: AssetKind;
  @IsString() @MinLength(1) @MaxLength(255) name: string;
  @IsInt() @Min(0) @Max(20 * 2 ** 30) size: number;
  /** where it lies in the bundle; null where it was left out */
  @ValidateIf((file: BundledFile) => file.file !== null) @IsString() @MaxLength(300) file: string | null;
  @ValidateNested() @Type(() => MissingInfo) info: MissingInfo;
}

/** What a bundle says of itself. */
export class BundleManifest {
  @Equals('bluster-bundle', { message: 'it is no bundle of a project' }) format: 'bluster-bundle';
  @IsInt() @Min(1) version: number;
  @IsString() @MinLength(1) @MaxLength(120) name: string;
  /** of a template: what it is for */
  @IsOptional() @IsString() @MaxLength(LONGEST_NOTE) template?: string;
  @IsArray() @ArrayMaxSize(MOST_MEDIA) @ValidateNested({ each: true }) @Type(() => BundledFile) files: BundledFile[];
}
