import type { FrameRate, ProposedHit } from '@bluster/core';
import { Column, Entity, Index, PrimaryColumn } from 'typeorm';
import type { Filmstrip } from '@bluster/media/clip/filmstrip';

export type AssetKind = 'song' | 'clip' | 'photo' | 'sound';
export type AssetState = 'working' | 'ready' | 'failed';

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
  readonly strip?: Filmstrip;
  /** whether its frames were counted and looked at; the proxy may still be on its way */
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
}

/** A file of a project: its song, a clip or a photo. The file itself lies in a folder named after its id. */
@Entity('asset')
export class AssetEntity {
  @PrimaryColumn('text') id: string;
  @Index() @Column('text') projectId: string;
  @Column('text') kind: AssetKind;
  @Column('text') name: string;
  @Column('integer') size: number;
  @Column('text') state: AssetState;
  @Column('text', { nullable: true }) problem: string | null;
  @Column('simple-json') info: AssetInfo;
  /** SHA-256 of the file; null for files brought in before it was kept */
  @Column('text', { nullable: true }) hash: string | null;
  /** brought in and not taken into the montage yet: whichever page is open does that */
  @Column('boolean', { default: false }) awaits: boolean;
  @Column('integer') createdAt: number;
}
