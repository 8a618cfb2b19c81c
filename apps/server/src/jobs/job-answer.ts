import type { ExportResult, JobAnswer } from '@bluster/wire';
import type { JobEntity } from './job.entity.ts';

/** A job as it goes over the wire: what it works on stays on the server. */
export function jobAnswer({ id, kind, state, progress, problem, payload, result, createdAt, startedAt, endedAt }: JobEntity): JobAnswer {
  const assetId = (payload as { assetId?: string } | undefined)?.assetId ?? null;
  return { id, kind, state, progress, problem, assetId, result: result as ExportResult | null, createdAt, startedAt, endedAt };
}
