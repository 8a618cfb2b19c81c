import type { ClipSummary, FrameRate, ProposedHit } from '@bluster/core';
import { IsBoolean, IsIn, IsInt, IsObject, IsOptional, IsString, IsUUID, Min } from 'class-validator';

export const ASSET_KINDS = ['song', 'clip', 'photo', 'sound', 'face'] as const;
export type AssetKind = (typeof ASSET_KINDS)[number];
export const ASSET_STATES = ['working', 'ready', 'failed'] as const;
export type AssetState = (typeof ASSET_STATES)[number];

/** Small pictures of a clip, one every so many seconds, in one picture of so many columns. Sizes in pixels. */
export interface Filmstrip {
  readonly pictures: number;
  readonly columns: number;
  readonly width: number;
  readonly height: number;
  readonly every: number;
  /** it shows key frames alone, and another takes its place when the clip has been looked at */
  readonly rough?: boolean;
}

/** What is known of an asset; fields come as they are found. */
export interface AssetInfo {
  /** seconds; photos have none */
  readonly length?: number;
  readonly width?: number;
  readonly height?: number;
  readonly rate?: FrameRate;
  readonly frames?: number;
  readonly hasSound?: boolean;
  readonly codec?: string;
  /** when its camera says it was taken, ms since 1970 */
  readonly takenAt?: number;
  /** of a sound effect: where it strikes, seconds */
  readonly hit?: number;
  /** a clip that has one can be cut */
  readonly strip?: Filmstrip;
  /** whether all its frames were looked at; the proxy may still be on its way */
  readonly looked?: boolean;
  /** some of its pictures are broken: it is used as far as they go */
  readonly damaged?: boolean;
  /** of a photo: where it draws the eye, parts of its width and height */
  readonly focus?: { readonly x: number; readonly y: number };
  /** in which order it was brought in, beside the others of its project */
  readonly place?: number;
  /** 0 to 1 */
  readonly movement?: number;
  readonly brightness?: number;
  readonly sharpness?: number;
  /** #rrggbb */
  readonly colours?: readonly string[];
  /** the best few, best first; all of them lie in its look */
  readonly hits?: readonly ProposedHit[];
  /** how many picture changes it has */
  readonly changes?: number;
  /** of a typeface: how it calls itself */
  readonly family?: string;
  /** it was not in the bundle: a file of this name takes its place */
  readonly missing?: boolean;
  /** by which way of preparing it was made ready */
  readonly preparedAs?: number;
}

/** A file of a project: its song, a clip, a photo, a sound effect or a typeface. */
export class AssetAnswer {
  @IsUUID() readonly id: string;
  @IsIn(ASSET_KINDS) readonly kind: AssetKind;
  @IsString() readonly name: string;
  /** bytes */
  @IsInt() @Min(0) readonly size: number;
  @IsIn(ASSET_STATES) readonly state: AssetState;
  /** a sentence, where it failed */
  @IsOptional() @IsString() readonly problem: string | null;
  /** ms since 1970 */
  @IsInt() readonly createdAt: number;
  /** still to be taken into the montage */
  @IsBoolean() readonly awaits: boolean;
  @IsObject() readonly info: AssetInfo;
}

/** What was seen and heard in a clip. */
export interface ClipLook extends ClipSummary {
  /** loudness, 50 values a second, 0 to 1 */
  readonly soundCurve: readonly number[];
}
