import { sayProblem } from '../interface/say-problem.ts';
import { useDeferredValue, useMemo, useState } from 'react';
import { Link, useParams } from 'react-router';
import { filmName, filmPresetNamed, scoreOf, shortClock, syncReport, type FilmWish, type Montage } from '@bluster/core';
import { useAssets, useJobs, useProject } from '../api/use-project.ts';
import type { JobAnswer as Job } from '@bluster/wire';
import { Button } from '../interface/button.tsx';
import { usePlayer } from '../playback/use-player.ts';
import { useMontage } from '../document/editor.ts';
import { FilmChoice } from './film-choice.tsx';
import { FilmRow } from './film-row.tsx';
import { experienceOf, prospectOf, sizeInWords, timeInWords } from './foretold.ts';
import { useMaking, wishesOf } from './making.ts';
import { OtherWays } from './other-ways.tsx';
import { ShapesChoice } from './shapes-choice.tsx';
import { startFilms } from './start-films.ts';
import { stretchesOf } from './stretches.ts';

/** Films, their proof, and other ways out. */
export function ExportPage(): React.JSX.Element {
  const { projectId = '' } = useParams();
  const montage = useMontage();
  const { project } = useProject(projectId);
  const { assets } = useAssets(projectId);
  const { jobs, reload } = useJobs(projectId);
  const loop = usePlayer((state) => state.loop);
  const position = usePlayer((state) => state.position);
  const making = useMaking();
  const exports = jobs.filter((j) => j.kind === 'export');
  const stretches = useMemo(() => stretchesOf(montage, loop), [montage, loop]);
  const name = project?.name ?? '';
  const wishes = useMemo(
    () => wishesOf(making, projectId, montage, stretches, position),
    [making, projectId, montage, stretches, position],
  );
  return (
    <main className="flex h-full min-h-0 max-[900px]:block max-[900px]:overflow-y-auto">
      <div className="w-[480px] shrink-0 space-y-4 overflow-y-auto border-r border-edge p-5 max-[900px]:w-auto max-[900px]:border-r-0">
        <h1 className="sr-only">Export</h1>
        {filmPresetNamed(making.preset).holds !== 'sound' && (
          <section aria-labelledby="shapes">
            <h2 id="shapes" className="mb-2 font-semibold">
              Shapes
            </h2>
            <ShapesChoice montage={montage} assets={assets} now={position} />
          </section>
        )}
        <section aria-labelledby="film-kind">
          <h2 id="film-kind" className="mb-2 font-semibold">
            Film
          </h2>
          <FilmChoice montage={montage} stretches={stretches} projectId={projectId} project={name} />
        </section>
        <WillBeMade projectId={projectId} name={name} montage={montage} wishes={wishes} jobs={jobs} onStart={() => void reload()} />
        <OtherWays projectId={projectId} montage={montage} name={name} />
      </div>
      <div className="min-w-0 flex-1 space-y-4 overflow-y-auto p-5" aria-label="Films" role="region" tabIndex={0}>
        {exports.length === 0 ? (
          <p className="grid min-h-40 place-items-center text-center text-soft">
            No film yet. When one is made it is read back here: where each cut really is, and the sound.
          </p>
        ) : (
          exports.map((job) => <FilmRow key={job.id} projectId={projectId} project={name} job={job} onChange={() => void reload()} />)
        )}
      </div>
    </main>
  );
}

interface WillBeMadeProps {
  readonly projectId: string;
  readonly name: string;
  readonly montage: Montage;
  readonly wishes: readonly FilmWish[];
  readonly jobs: readonly Job[];
  readonly onStart: () => void;
}

/** What is amiss with the montage before it becomes a film. */
function Amiss({ montage }: { montage: Montage }): React.JSX.Element | null {
  const report = useMemo(() => syncReport(montage), [montage]);
  if (!montage.song)
    return (
      <p className="text-soft">
        There is no song yet.{' '}
        <Link className="text-spruce underline" to="../song" relative="path">
          Choose one first
        </Link>
        .
      </p>
    );
  if (report.emptySlots === 0 && report.shortShots === 0) return null;
  return (
    <p className="text-gold-text">
      {report.emptySlots > 0 && `${report.emptySlots} ${report.emptySlots === 1 ? 'slot is' : 'slots are'} empty and will be black. `}
      {report.shortShots > 0 && `${report.shortShots} ${report.shortShots === 1 ? 'shot runs' : 'shots run'} short.`}
    </p>
  );
}

/** More of a picture than this is lost where a shot is cropped to another shape: worth a look, 0 to 1. */
const MUCH_CROPPED = 0.5;

/** How many shots lose much of their picture in a shape. */
function muchCropped(montage: Montage, { width, height }: { readonly width: number; readonly height: number }): number {
  return scoreOf(montage).slots.filter(({ placed }) => {
    if (!placed || placed.shot.framing !== 'fill') return false;
    const [own, film] = [placed.item.width / placed.item.height, width / height];
    return 1 - Math.min(own / film, film / own) > MUCH_CROPPED;
  }).length;
}

/** What is made, in words. */
const MADE = {
  film: { one: 'film', many: 'films' },
  pictures: { one: 'film', many: 'films' },
  picture: { one: 'picture', many: 'pictures' },
  sound: { one: 'sound', many: 'sounds' },
} as const;

/** What will be made, with size and time foretold, and the start. */
function WillBeMade({ projectId, name, montage, wishes, jobs, onStart }: WillBeMadeProps): React.JSX.Element {
  const [starting, setStarting] = useState(false);
  const later = useDeferredValue(wishes);
  const { holds } = filmPresetNamed(useMaking((making) => making.preset));
  const { pace, size } = experienceOf(jobs);
  // Looked at anew when something else is asked for, and not whenever a film is a little farther.
  const all = useMemo(
    () => later.map((wish) => ({ wish, prospect: montage.song ? prospectOf(montage, wish) : { problem: '' } })),
    [later, montage],
  );
  const good = all.flatMap(({ prospect }) => ('foretold' in prospect ? [prospect.foretold] : []));
  const seconds = good.reduce((sum, { work }) => sum + work * pace + 2, 0);
  const problem = all.flatMap(({ prospect }) => ('problem' in prospect && prospect.problem ? [prospect.problem] : []))[0];
  const start = async (): Promise<void> => {
    setStarting(true);
    try {
      await startFilms(projectId, wishes);
    } catch (error) {
      sayProblem(error);
    } finally {
      setStarting(false);
      onStart();
    }
  };
  return (
    <section aria-labelledby="will-be-made" className="space-y-2">
      <h2 id="will-be-made" className="font-semibold">
        What will be made
      </h2>
      <table className="w-full text-[12.5px]" data-testid="will-be-made">
        <tbody>
          {all.map(({ wish, prospect }, i) => {
            if (!('foretold' in prospect)) return null;
            const { foretold, width, height } = prospect;
            const lost = holds === 'sound' ? 0 : muchCropped(montage, prospect);
            return (
              <tr key={i} className="border-b border-edge align-top">
                <td className="max-w-[220px] py-1 pr-2">
                  <span className="block truncate" title={filmName(wish.name ?? name, wish.preset, prospect)}>
                    {filmName(wish.name ?? name, wish.preset, prospect)}
                  </span>
                  {lost > 0 && (
                    <span className="block text-[11.5px] text-gold-text">
                      {lost} {lost === 1 ? 'shot loses' : 'shots lose'} over half {lost === 1 ? 'its' : 'their'} picture
                    </span>
                  )}
                </td>
                <td className="figures py-1 pr-2 whitespace-nowrap text-soft">
                  {holds === 'sound' ? '' : `${width}×${height}`}
                  {holds === 'picture' ? '' : `${holds === 'sound' ? '' : ' · '}${shortClock(foretold.seconds)}`}
                </td>
                <td className="figures py-1 text-right whitespace-nowrap text-soft">about {sizeInWords(size * foretold.bytes)}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <Amiss montage={montage} />
      {problem && (
        <p role="alert" className="text-coral-text">
          {problem}
        </p>
      )}
      <p className="flex items-center gap-3 pt-1">
        <Button look="main" disabled={starting || !montage.song || good.length < all.length} onClick={() => void start()}>
          {starting ? 'Starting…' : wishes.length > 1 ? `Export ${wishes.length} ${MADE[holds].many}` : `Export the ${MADE[holds].one}`}
        </Button>
        {good.length > 0 && (
          <span className="figures text-[12px] text-soft">
            about {timeInWords(seconds)} on this computer · {sizeInWords(size * good.reduce((sum, { bytes }) => sum + bytes, 0))}
          </span>
        )}
      </p>
    </section>
  );
}
