import { Column, Entity, Index, PrimaryColumn } from 'typeorm';

/** A version of a montage that was set aside instead of being overwritten. */
@Entity('kept_version')
export class KeptVersionEntity {
  @PrimaryColumn('text') id: string;
  @Index() @Column('text') projectId: string;
  /** the revision it was made from */
  @Column('integer') revision: number;
  @Column('text') document: string;
  @Column('integer') savedAt: number;
  @Column('text') reason: string;
}
