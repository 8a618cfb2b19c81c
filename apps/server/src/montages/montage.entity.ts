import { Column, Entity, PrimaryColumn } from 'typeorm';

/** The current document of a project's montage. */
@Entity('montage')
export class MontageEntity {
  @PrimaryColumn('text') projectId: string;
  /** rises by one at each save */
  @Column('integer') revision: number;
  /** the montage as JSON */
  @Column('text') document: string;
  @Column('integer') savedAt: number;
}
