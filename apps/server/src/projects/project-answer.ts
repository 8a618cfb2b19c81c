import type { ProjectAnswer } from '@bluster/wire';
import type { ProjectEntity } from './project.entity.ts';

/** A project as it goes over the wire. */
export function projectAnswer({ id, name, createdAt, updatedAt, demo }: ProjectEntity): ProjectAnswer {
  return { id, name, createdAt, updatedAt, demo };
}
