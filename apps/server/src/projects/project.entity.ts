import { Column, Entity, PrimaryColumn } from 'typeorm';

/** A project: a name around one montage. Times are milliseconds since 1970. */
@Entity('project')
export class ProjectEntity {
  @PrimaryColumn('text') id: string;
  @Column('text') name: string;
  @Column('integer') createdAt: number;
  @Column('integer') updatedAt: number;
  /** set when it was deleted; it can be brought back */
  @Column('integer', { nullable: true }) deletedAt: number | null;
  @Column('boolean', { default: false }) demo: boolean;
}
