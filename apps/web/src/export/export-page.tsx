import { ROUTES } from '@bluster/wire/routes';
import { sayProblem } from '../interface/say-problem.ts';
import { Film, FileJson } from 'lucide-react';
import { useEffect, useState } from 'react';
import { useParams } from 'react-router';
import { DEFAULT_PRESET, FILM_PRESETS, clock, rateLabel, shortClock, syncReport } from '@bluster/core';
import { request } from '../api/request.ts';
import { useJobs } from '../api/use-project.ts';
import type { JobAnswer as Job } from '@bluster/wire';
import { Button } from '../interface/button.tsx';
import { Progress } from '../interface/progress.tsx';
import { useEditor, useMontage } from '../document/editor.ts';
import { montageLength } from '../document/montage-length.ts';

/** Waits until what is on the screen is what the server has. */
function saved(): Promise<void> {
  return new Promise((resolve, reject) => {
    const look = (): boolean => {
      const { is } = useEditor.getState().save;
      if (is === 'saved') resolve();
      else if (is === 'conflict' || is === 'failed') reject(new Error('The project could not be saved, so it cannot be exported yet.'));
      return is !== 'unsaved' && is !== 'saving';
    };
    if (look()) return;
    const stop = useEditor.subscribe(() => look() && stop());
  });
}

/** Film and proof. */
export function ExportPage(): React.JSX.Element {
  const { projectId = '' } = useParams();
  const montage = useMontage();
  const { jobs, reload } = useJobs(projectId);
  const [starting, setStarting] = useState(false);
  const exports = jobs.filter((j) => j.kind === 'export');
  const report = syncReport(montage);
  const { width, height, rate } = montage.shape;
  const underway = exports.some((j) => j.state === 'queued' || j.state === 'running');
  const start = async (): Promise<void> => {
    setStarting(true);
    try {
      await saved();
      await request('POST', ROUTES.exports(projectId));
      await reload();
    } catch (error) {
      sayProblem(error);
    } finally {
      setStarting(false);
    }
  };
  return (
    <main className="h-full overflow-y-auto p-8">
      <div className="mx-auto max-w-[860px] space-y-6">
        <section className="rounded-xl border border-edge bg-paper p-5" aria-label="New film">
          <h1 className="text-base font-semibold">Film</h1>
          <p className="mt-1 text-soft">
            {FILM_PRESETS[DEFAULT_PRESET].title}, {width}×{height}, {rateLabel(rate)} frames a second, {clock(montageLength(montage))},{' '}
            {report.frames} frames. With it comes a report that says for every cut its mark, its frame and how far it is planned to be off.
          </p>
          {(report.emptySlots > 0 || report.shortShots > 0) && (
            <p className="mt-2 text-gold-text">
              {report.emptySlots > 0 &&
                `${report.emptySlots} ${report.emptySlots === 1 ? 'slot is' : 'slots are'} empty and will be black. `}
              {report.shortShots > 0 && `${report.shortShots} ${report.shortShots === 1 ? 'shot runs' : 'shots run'} short.`}
            </p>
          )}
          <p className="mt-4">
            <Button look="main" disabled={starting || underway} onClick={() => void start()}>
              {starting ? 'Starting…' : underway ? 'One is under way' : 'Export the film'}
            </Button>
          </p>
        </section>
        {exports.length === 0 ? (
          <p className="text-soft">No film yet.</p>
        ) : (
          exports.map((job) => <ExportRow key={job.id} job={job} onChange={() => void reload()} />)
        )}
      </div>
    </main>
  );
}

function timeLeft(job: Job, now: number): string {
  if (!job.startedAt || job.progress < 0.02) return 'just begun';
  const seconds = ((now - job.startedAt) / 1000) * (1 / job.progress - 1);
  return seconds < 60 ? `about ${Math.max(1, Math.round(seconds))} s left` : `about ${shortClock(seconds)} left`;
}

function ExportRow({ job, onChange }: { job: Job; onChange: () => void }): React.JSX.Element {
  const running = job.state === 'running' || job.state === 'queued';
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    if (!running) return undefined;
    const timer = setInterval(() => setNow(Date.now()), 500);
    return () => clearInterval(timer);
  }, [running]);
  const cancel = async (): Promise<void> => {
    try {
      await request('POST', ROUTES.cancelJob(job.id));
    } catch (error) {
      sayProblem(error);
    }
    onChange();
  };
  return (
    <section className="rounded-xl border border-edge bg-paper p-5" data-testid="export" data-state={job.state} aria-label="Export">
      <p className="flex items-center gap-3">
        <b className="font-semibold">
          {new Date(job.createdAt).toLocaleTimeString(undefined, { hour: '2-digit', minute: '2-digit', hour12: false })}
        </b>
        {running && (
          <>
            <span className="figures text-soft">
              {Math.round(job.progress * 100)} % · {job.state === 'queued' ? 'waiting its turn' : timeLeft(job, now)}
            </span>
            <Button className="ml-auto" onClick={() => void cancel()}>
              Cancel
            </Button>
          </>
        )}
        {job.state === 'done' && job.result && (
          <>
            <span className="text-soft">
              {job.result.cuts} cuts, planned to lie no more than <span className="figures">{job.result.worstErrorMs.toFixed(1)} ms</span>{' '}
              off their marks
            </span>
            <a className="ml-auto inline-flex items-center gap-1 text-spruce underline" href={ROUTES.film(job.id)} download>
              <Film size={14} /> Film
            </a>
            <a className="inline-flex items-center gap-1 text-spruce underline" href={ROUTES.report(job.id)} download>
              <FileJson size={14} /> Report
            </a>
          </>
        )}
        {(job.state === 'failed' || job.state === 'cancelled') && (
          <span role="alert" className={job.state === 'failed' ? 'text-coral-text' : 'text-soft'}>
            {job.problem}
          </span>
        )}
      </p>
      {running && (
        <div className="mt-3">
          <Progress part={job.progress} label="Export" />
        </div>
      )}
      {job.state === 'done' && (
        <video className="mt-3 w-full max-w-[640px] bg-night" src={ROUTES.film(job.id)} controls preload="metadata" />
      )}
    </section>
  );
}
