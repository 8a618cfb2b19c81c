import { Column, Entity, Index, PrimaryColumn } from 'typeorm';

/** What a montage was dressed in, kept by name for every project. */
@Entity('dressing')
export class DressingEntity {
  @PrimaryColumn('text') id: string;
  @Index({ unique: true }) @Column('text') name: string;
  /** as JSON */
  @Column('text') dressing: string;
  @Column('integer') savedAt: number;
}
