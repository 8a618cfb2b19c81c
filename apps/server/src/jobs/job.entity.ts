import type { JobKind, JobState } from '@bluster/wire';
import { Column, Entity, Index, PrimaryColumn } from 'typeorm';

/** A piece of long work. Rows outlive the server: what ran when it stopped starts again with it. */
@Entity('job')
export class JobEntity {
  @PrimaryColumn('text') id: string;
  @Index() @Column('text') projectId: string;
  @Column('text') kind: JobKind;
  @Column('text') state: JobState;
  /** 0 to 1 */
  @Column('real') progress: number;
  @Column('text', { nullable: true }) problem: string | null;
  @Column('simple-json') payload: Record<string, unknown>;
  @Column('simple-json', { nullable: true }) result: Record<string, unknown> | null;
  /** how often the server was lost while it worked on it */
  @Column('integer', { default: 0 }) losses: number;
  @Column('integer') createdAt: number;
  @Column('integer', { nullable: true }) startedAt: number | null;
  @Column('integer', { nullable: true }) endedAt: number | null;
}
