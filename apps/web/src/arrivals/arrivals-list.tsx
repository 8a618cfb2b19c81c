import { ROUTES } from '@bluster/wire/routes';
import { sayProblem } from '../interface/say-problem.ts';
import { RotateCw, X } from 'lucide-react';
import { mutate } from 'swr';
import { request } from '../api/request.ts';
import type { AssetAnswer as Asset, JobAnswer as Job } from '@bluster/wire';
import { Button } from '../interface/button.tsx';
import { Progress } from '../interface/progress.tsx';
import { useMontage } from '../document/editor.ts';
import { useUploads } from './upload-queue.ts';

/** Calls off the work on a file that is not in the montage, and removes it. */
async function discard(asset: Asset): Promise<void> {
  await request('POST', ROUTES.discardAsset(asset.id)).catch(sayProblem);
  await mutate((key) => typeof key === 'string' && key.endsWith('/assets'));
}

/** Files on their way in, each with how far it is, and all together. */
export function ArrivalsList({ waiting, jobs }: { waiting: readonly Asset[]; jobs: readonly Job[] }): React.JSX.Element | null {
  const { footage, sounds } = useMontage();
  const inMontage = new Set([...footage, ...sounds].map((item) => item.assetId));
  const { uploads: all, cutOff, dismiss, retry, forget } = useUploads();
  const uploads = all.filter((u) => u.role === 'footage');
  if (uploads.length + waiting.length + cutOff.length === 0) return null;
  // What is in the story shows its filmstrip until its preview is made: one line speaks for all of them.
  const previews = waiting.filter((a) => inMontage.has(a.id) && a.state === 'working');
  // Looking at a clip and making its preview take about as long.
  const done = (a: Asset, kind: 'look' | 'proxy'): number => jobs.find((j) => j.kind === kind && j.assetId === a.id)?.progress ?? 0;
  const partOf = (a: Asset): number => ((a.info.looked ? 1 : done(a, 'look')) + done(a, 'proxy')) / 2;
  const previewsDone = previews.reduce((sum, a) => sum + partOf(a), 0) / Math.max(1, previews.length);
  // A disk without room holds them up, and goes on by itself.
  const held = jobs.find((j) => j.kind !== 'export' && j.problem && previews.some((a) => a.id === j.assetId))?.problem;
  const sending = uploads.filter((u) => u.state !== 'failed');
  const bytes = sending.reduce((sum, u) => sum + u.size, 0);
  const sent = sending.reduce((sum, u) => sum + u.size * u.part, 0);
  return (
    <section className="border-b border-edge bg-paper px-5 py-2" aria-label="Coming in">
      {sending.length > 1 && (
        <p className="mb-1.5 flex items-center gap-3 text-[12px]" data-testid="all-arrivals">
          <span className="w-52 shrink-0">
            {sending.length} files, <span className="figures">{Math.round((sent / 1e6) * 10) / 10}</span> of{' '}
            <span className="figures">{Math.round((bytes / 1e6) * 10) / 10} MB</span>
          </span>
          <Progress part={bytes > 0 ? sent / bytes : 0} label="Uploading everything" />
        </p>
      )}
      <ul className="max-h-40 space-y-1.5 overflow-y-auto" aria-live="polite">
        {cutOff.map((c) => (
          <li key={c.key} className="flex items-center gap-3">
            <span className="w-52 shrink-0 truncate" title={c.name}>
              {c.name}
            </span>
            <span className="min-w-0 flex-1 text-gold-text">was cut off. Drop the file in again: it goes on where it was.</span>
            <Button look="quiet" tight aria-label={`Forget ${c.name}`} onClick={() => void forget(c)}>
              <X size={14} />
            </Button>
          </li>
        ))}
        {uploads.map((u) => (
          <li key={u.key} className="flex items-center gap-3">
            <span className="w-52 shrink-0 truncate" title={u.name}>
              {u.name}
            </span>
            {u.state === 'failed' ? (
              <span role="alert" className="min-w-0 flex-1 text-coral-text">
                {u.problem}
              </span>
            ) : (
              <>
                <Progress part={u.part} label={`Uploading ${u.name}`} />
                {u.state === 'stalled' && <span className="shrink-0 text-gold-text">waiting for the server</span>}
              </>
            )}
            {u.state === 'failed' && u.again && (
              <Button tight aria-label={`Try ${u.name} again`} onClick={() => retry(u.key)}>
                <RotateCw size={13} /> Try again
              </Button>
            )}
            <Button look="quiet" tight aria-label={`Dismiss ${u.name}`} onClick={() => dismiss(u.key)}>
              <X size={14} />
            </Button>
          </li>
        ))}
        {previews.length > 0 && (
          <li className="flex items-center gap-3" data-testid="previews-to-come">
            <span className="w-52 shrink-0">
              {previews.length} {previews.length === 1 ? 'preview' : 'previews'} still to come
            </span>
            {held ? (
              <span className="min-w-0 flex-1 text-gold-text">{held}</span>
            ) : (
              <>
                <Progress part={previewsDone} label="Making previews" />
                <span className="shrink-0 text-soft">everything in the story can be worked with</span>
              </>
            )}
          </li>
        )}
        {waiting
          .filter((a) => !previews.includes(a))
          .map((a) => [a, jobs.find((j) => j.assetId === a.id)] as const)
          .map(([a, job]) => (
            <li key={a.id} className="flex items-center gap-3">
              <span className="w-52 shrink-0 truncate" title={a.name}>
                {a.name}
              </span>
              {a.state === 'failed' ? (
                <span role="alert" className="text-coral-text">
                  {a.problem}
                </span>
              ) : job?.problem ? (
                <span className="min-w-0 flex-1 text-gold-text">{job.problem}</span>
              ) : (
                <>
                  <Progress part={job?.progress ?? 0} label={`Preparing ${a.name}`} />
                  {job?.problem ? (
                    <span className="min-w-0 flex-1 text-gold-text">{job.problem}</span>
                  ) : (
                    <span className="w-40 shrink-0 text-right text-soft">
                      {job?.state === 'queued' ? 'waits its turn' : 'looking at it'}
                    </span>
                  )}
                </>
              )}
              {!inMontage.has(a.id) && (
                <Button
                  look="quiet"
                  tight
                  className="ml-auto"
                  aria-label={a.state === 'failed' ? `Dismiss ${a.name}` : `Cancel ${a.name}`}
                  onClick={() => void discard(a)}
                >
                  <X size={14} />
                </Button>
              )}
            </li>
          ))}
      </ul>
    </section>
  );
}
