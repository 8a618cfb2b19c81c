import type { ExportRequest, ExportResult, JobAnswer } from '@bluster/wire';
import type { JobEntity } from './job.entity.ts';

/** A job as it goes over the wire: what it works on stays on the server. */
export function jobAnswer({ id, kind, state, progress, problem, payload, result, createdAt, startedAt, endedAt }: JobEntity): JobAnswer {
  const known: { readonly assetId?: string; readonly wish?: ExportRequest } = payload;
  const { assetId = null, wish = null } = known;
  return { id, kind, state, progress, problem, assetId, wish, result: result as ExportResult | null, createdAt, startedAt, endedAt };
}
