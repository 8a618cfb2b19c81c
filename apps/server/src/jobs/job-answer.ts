import type { ExportRequest, ExportResult, JobAnswer } from '@bluster/wire';
import type { JobEntity } from './job.entity.ts';

/** A job as it goes over the wire: what it works on stays on the server. */
export function jobAnswer({ id, kind, state, progress, problem, payload, result, createdAt, startedAt, endedAt }: JobEntity): JobAnswer {
  const { assetId = null, wish = null } = (payload) ?? {};
  return { id, kind, state, progress, problem, assetId, wish, result: result as ExportResult | null, createdAt, startedAt, endedAt };
}
