import { Check, FileJson, Film, RotateCcw, Trash2, TriangleAlert } from 'lucide-react';
import { useEffect, useState } from 'react';
import { useNavigate } from 'react-router';
import useSWR from 'swr';
import { ROUTES } from '@bluster/wire/routes';
import type { JobAnswer as Job } from '@bluster/wire';
import { DEFAULT_PRESET, filmName, filmPresetNamed, READ_BACK_FROM, shortClock, type FilmReport, type FilmWish } from '@bluster/core';
import { fetchJson, request } from '../api/request.ts';
import { Button } from '../interface/button.tsx';
import { Progress } from '../interface/progress.tsx';
import { sayProblem } from '../interface/say-problem.ts';
import { useSize } from '../interface/use-size.ts';
import { player } from '../playback/player.ts';
import { CutsDrawing } from './cuts-drawing.tsx';
import { sizeInWords, timeInWords } from './foretold.ts';
import { startFilms } from './start-films.ts';

interface FilmRowProps {
  readonly projectId: string;
  readonly project: string;
  readonly job: Job;
  readonly onChange: () => void;
}

const wishOf = ({ wish }: Job): FilmWish => ({ ...wish, preset: wish?.preset ?? DEFAULT_PRESET });

function timeLeft({ startedAt, progress }: Job, now: number): string {
  if (!startedAt || progress < 0.02) return 'just begun';
  return `about ${timeInWords(((now - startedAt) / 1000) * (1 / progress - 1))} left`;
}

/** One film: on its way, made, or come to nothing. */
export function FilmRow({ projectId, project, job, onChange }: FilmRowProps): React.JSX.Element {
  const running = job.state === 'running' || job.state === 'queued';
  const wish = wishOf(job);
  const size = job.result?.width && job.result.height ? { width: job.result.width, height: job.result.height } : (wish.size ?? null);
  const name = filmName(wish.name ?? project, wish.preset, size);
  const act = async (what: () => Promise<unknown>): Promise<void> => {
    try {
      await what();
    } catch (error) {
      sayProblem(error);
    }
    onChange();
  };
  const again = (): void => void act(() => startFilms(projectId, [wish]));
  const remove = (): void => void act(() => request('DELETE', ROUTES.removeFilm(job.id)));
  return (
    <section className="rounded-xl border border-edge bg-paper p-4" data-testid="export" data-state={job.state} aria-label={name}>
      {running ? (
        <OnItsWay job={job} name={name} onCancel={() => void act(() => request('POST', ROUTES.cancelJob(job.id)))} />
      ) : job.state === 'done' ? (
        <Made job={job} name={name} wish={wish} onAgain={again} onRemove={remove} />
      ) : (
        <p className="flex items-center gap-3">
          <b className="font-semibold">{name}</b>
          <span role="alert" className={job.state === 'failed' ? 'text-coral-text' : 'text-soft'}>
            {job.problem}
          </span>
          <span className="ml-auto flex gap-1.5">
            <Button onClick={again}>
              <RotateCcw size={13} /> Again
            </Button>
            <Remove onRemove={remove} />
          </span>
        </p>
      )}
    </section>
  );
}

function OnItsWay({ job, name, onCancel }: { job: Job; name: string; onCancel: () => void }): React.JSX.Element {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), 500);
    return () => clearInterval(timer);
  }, []);
  const doing =
    job.state === 'queued' ? 'waiting its turn' : job.progress >= READ_BACK_FROM ? 'reading back what is made' : timeLeft(job, now);
  return (
    <>
      <p className="flex items-center gap-3">
        <b className="font-semibold">{name}</b>
        <span className="figures text-soft">
          {Math.round(job.progress * 100)} % · {doing}
        </span>
        <Button className="ml-auto" onClick={onCancel}>
          Cancel
        </Button>
      </p>
      <div className="mt-3">
        <Progress part={job.progress} label="Export" />
      </div>
    </>
  );
}

/** What there is to see or hear of a film. */
function Shown({ job, wish }: { job: Job; wish: FilmWish }): React.JSX.Element {
  const { holds } = filmPresetNamed(wish.preset);
  const src = ROUTES.film(job.id);
  const look = 'max-h-40 w-[220px] shrink-0 bg-night object-contain';
  if (holds === 'sound') return <audio className="w-[220px] shrink-0" src={src} controls preload="metadata" />;
  if (holds !== 'film') return <img className={look} src={src} alt="" loading="lazy" />;
  return <video className={look} src={src} controls preload="metadata" />;
}

interface MadeProps {
  readonly job: Job;
  readonly name: string;
  readonly wish: FilmWish;
  readonly onAgain: () => void;
  readonly onRemove: () => void;
}

function Made({ job, name, wish, onAgain, onRemove }: MadeProps): React.JSX.Element {
  const navigate = useNavigate();
  const [hold, { width }] = useSize<HTMLDivElement>();
  const result = job.result!;
  const proof = result.proof ?? null;
  const { data: report } = useSWR<FilmReport, Error>(proof && ROUTES.report(job.id), (route: string) => fetchJson<FilmReport>(route), {
    revalidateOnFocus: false,
    revalidateIfStale: false,
  });
  const go = (time: number): void => {
    player.seek((wish.stretch?.from ?? 0) + time + 1e-3);
    void navigate('../score', { relative: 'path' });
  };
  const facts = [
    new Date(job.createdAt).toLocaleTimeString(undefined, { hour: '2-digit', minute: '2-digit', hour12: false }),
    result.seconds !== undefined && filmPresetNamed(wish.preset).holds !== 'picture' && shortClock(result.seconds),
    result.width !== undefined && filmPresetNamed(wish.preset).holds !== 'sound' && `${result.width}×${result.height}`,
    result.bytes !== undefined && sizeInWords(result.bytes),
    filmPresetNamed(wish.preset).title,
    typeof result.loudness?.integrated === 'number' && `${result.loudness.integrated.toFixed(1)} LUFS`,
  ].filter(Boolean);
  return (
    <>
      <div className="flex gap-4">
        <Shown job={job} wish={wish} />
        <div className="min-w-0 flex-1 space-y-1.5">
          <p className="font-semibold break-words">{name}</p>
          <p className="figures text-[12.5px] text-soft">{facts.join(' · ')}</p>
          {proof ? (
            <p className={`flex gap-1.5 font-semibold ${proof.good ? 'text-spruce' : 'text-coral-text'}`} data-testid="verdict">
              {proof.good ? <Check size={16} className="mt-0.5 shrink-0" /> : <TriangleAlert size={16} className="mt-0.5 shrink-0" />}
              {proof.verdict}
            </p>
          ) : (
            filmPresetNamed(wish.preset).holds !== 'picture' && (
              <p className="text-soft">
                {result.cuts} cuts, planned to lie no more than <span className="figures">{result.worstErrorMs.toFixed(1)} ms</span> off
                their marks
              </p>
            )
          )}
          {typeof proof?.worstErrorMs === 'number' && (
            <p className="text-[12.5px] text-soft">
              The farthest cut is <span className="figures">{proof.worstErrorMs.toFixed(1)} ms</span> off its mark. Half a frame, here{' '}
              <span className="figures">{((500 * (result.seconds ?? 0)) / Math.max(1, result.frames)).toFixed(1)} ms</span>, cannot be
              avoided.
            </p>
          )}
          <p className="flex flex-wrap items-center gap-x-3 gap-y-1 pt-0.5 text-[12.5px]">
            <a className="inline-flex items-center gap-1 text-spruce underline" href={ROUTES.film(job.id)} download>
              <Film size={14} /> Film
            </a>
            {(result.cuts > 0 || proof) && (
              <>
                <a className="inline-flex items-center gap-1 text-spruce underline" href={ROUTES.report(job.id)} download>
                  <FileJson size={14} /> Report
                </a>
                <a className="text-spruce underline" href={ROUTES.report(job.id, 'csv')} download>
                  as a table
                </a>
                <a className="text-spruce underline" href={ROUTES.report(job.id, 'html')} target="_blank" rel="noreferrer">
                  as a page
                </a>
              </>
            )}
            <span className="ml-auto flex gap-1.5">
              {typeof proof?.wrongAt === 'number' && <Button onClick={() => go(proof.wrongAt!)}>Go there</Button>}
              <Button look="quiet" tight aria-label={`Make ${name} again`} hint="Again, of the montage as it is now" onClick={onAgain}>
                <RotateCcw size={13} />
              </Button>
              <Remove onRemove={onRemove} />
            </span>
          </p>
        </div>
      </div>
      {proof && proof.worstErrorMs !== null && (
        <div ref={hold} className="mt-3">
          {report && <CutsDrawing report={report} width={width} onGo={go} />}
        </div>
      )}
    </>
  );
}

/** Takes a film away: asked once more, since it is gone then and would have to be made again. */
function Remove({ onRemove }: { onRemove: () => void }): React.JSX.Element {
  const [sure, setSure] = useState(false);
  if (!sure)
    return (
      <Button look="quiet" tight aria-label="Remove" hint="Remove it" onClick={() => setSure(true)}>
        <Trash2 size={13} />
      </Button>
    );
  return (
    <>
      <Button look="danger" onClick={onRemove}>
        Remove for good
      </Button>
      <Button look="quiet" autoFocus onClick={() => setSure(false)}>
        Keep
      </Button>
    </>
  );
}
