import type { AssetInfo, AssetKind, AssetState } from '@bluster/wire';
import { Column, Entity, Index, PrimaryColumn } from 'typeorm';

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
