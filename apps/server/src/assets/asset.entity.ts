import type { FrameRate } from '@bluster/core';
import { Column, Entity, Index, PrimaryColumn } from 'typeorm';
import type { Filmstrip } from '../media/clip.ts';

export type AssetKind = 'song' | 'clip' | 'photo';
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
  readonly strip?: Filmstrip;
  /** loudness, 50 values a second, 0 to 1 */
  readonly soundCurve?: readonly number[];
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
  @Column('integer') createdAt: number;
}
