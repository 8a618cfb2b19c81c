import { ROUTES } from '@bluster/wire/routes';
import { sayProblem } from '../interface/say-problem.ts';
import { MoreHorizontal, Moon, Plus, Sun, Wind } from 'lucide-react';
import { useEffect, useState } from 'react';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import useSWR, { mutate as mutateAny } from 'swr';
import { shortClock } from '@bluster/core';
import { request } from '../api/request.ts';
import type { ProjectAnswer as Project, ProjectSummaryAnswer as ProjectSummary } from '@bluster/wire';
import { Brand } from '../interface/brand.tsx';
import { Button } from '../interface/button.tsx';
import { Menu, MenuItem } from '../interface/menu.tsx';
import { useTheme } from '../interface/theme.ts';
import { WaysOutOfDamage } from '../shell/ways-out-of-damage.tsx';
import { DELETED, DeletedProjects } from './deleted-projects.tsx';
import { saveAddress } from '../interface/save-file.ts';
import { ShippedSongs } from '../arrivals/shipped-songs.tsx';
import { SongQuestion } from '../arrivals/song-question.tsx';
import { Dialog } from '../interface/dialog.tsx';
import { BeginTemplate } from './begin-template.tsx';
import { useDropIn } from './drop-in.tsx';
import { KeepTemplate } from './keep-template.tsx';
import { OpenBundle } from './open-bundle.tsx';
import { NameDialog } from '../interface/name-dialog.tsx';

/** How often it is asked again while a picture of a project is being made, ms. */
const SOON_MS = 1500;

type Naming = { readonly what: 'new' } | { readonly what: 'rename'; readonly project: ProjectSummary } | null;

/** All projects: open, new, rename, duplicate, delete. */
export function ProjectsPage(): React.JSX.Element {
  const { data, error, mutate } = useSWR<ProjectSummary[], Error>(ROUTES.projects(), {
    refreshInterval: (latest) => (latest?.some((p) => p.coverComing) ? SOON_MS : 0),
  });
  useEffect(() => void (document.title = 'Projects · Bluster'), []);
  const [naming, setNaming] = useState<Naming>(null);
  const [keeping, setKeeping] = useState<ProjectSummary | null>(null);
  const [opening, setOpening] = useState(false);
  const [choosingSong, setChoosingSong] = useState(false);
  const navigate = useNavigate();
  const { theme, turn } = useTheme();
  const dropIn = useDropIn();

  const attempt = async (work: () => Promise<unknown>): Promise<void> => {
    try {
      await work();
      await Promise.all([mutate(), mutateAny(DELETED)]);
    } catch (problem) {
      sayProblem(problem);
    }
  };
  const remove = (project: ProjectSummary): Promise<void> =>
    attempt(async () => {
      await request('DELETE', ROUTES.project(project.id));
      toast(`"${project.name}" was deleted`, {
        duration: 12_000,
        action: { label: 'Undo', onClick: () => void attempt(() => request('POST', ROUTES.restoreProject(project.id))) },
      });
    });
  const openDemo = (): Promise<void> =>
    attempt(async () => {
      setOpening(true);
      const demo = await request<Project>('POST', ROUTES.demoProject()).finally(() => setOpening(false));
      await navigate(`/projects/${demo.id}/score`);
    });
  const name = (text: string): Promise<void> =>
    attempt(async () => {
      if (naming?.what === 'rename') await request('PATCH', ROUTES.project(naming.project.id), { name: text });
      else {
        const project = await request<Project>('POST', ROUTES.projects(), { name: text });
        await navigate(`/projects/${project.id}/song`);
      }
      setNaming(null);
    });

  return (
    <div {...dropIn.rootProps} className="relative flex h-full flex-col overflow-auto">
      {dropIn.input}
      {(dropIn.isOver || dropIn.beginning) && (
        <div className="absolute inset-2 z-30 grid place-items-center rounded-xl border-2 border-dashed border-spruce bg-paper/90 text-base font-semibold">
          {dropIn.beginning ? 'Beginning a project…' : 'Drop a song and footage here: they begin a project'}
        </div>
      )}
      <header className="flex h-[52px] shrink-0 items-center gap-4 border-b border-edge bg-paper px-5">
        <Brand />
        <span className="text-soft">The music makes the cut.</span>
        <span className="ml-auto flex gap-2">
          <Button look="quiet" aria-label={theme === 'light' ? 'Night theme' : 'Day theme'} onClick={turn}>
            {theme === 'light' ? <Moon size={15} /> : <Sun size={15} />}
          </Button>
          <BeginTemplate />
          <OpenBundle onOpened={() => void mutate()} />
          <Button onClick={() => void openDemo()} disabled={opening}>
            {opening ? 'Opening…' : 'Open the demo'}
          </Button>
          <Button look="main" onClick={() => setNaming({ what: 'new' })}>
            <Plus size={14} /> New project
          </Button>
        </span>
      </header>
      <main className="mx-auto w-full max-w-[1100px] p-8">
        <div className="mb-5 flex flex-wrap items-baseline gap-x-4">
          <h1 className="text-xl font-semibold">Projects</h1>
          {data && data.length > 0 && (
            <p className="text-[12.5px] text-soft">
              Drop a song and footage here to begin another, or{' '}
              <button className="text-spruce underline" onClick={dropIn.choose}>
                choose them
              </button>
              . No song?{' '}
              <button className="text-spruce underline" onClick={() => setChoosingSong(true)}>
                Take one that comes with Bluster
              </button>
              .
            </p>
          )}
        </div>
        {error && (
          <p role="alert" className="rounded-lg border border-coral/50 bg-paper p-4 text-coral-text">
            {error.message}{' '}
            <button className="underline" onClick={() => void mutate()}>
              Try again
            </button>
          </p>
        )}
        {!data && !error && (
          <CardGrid>
            {[0, 1, 2].map((i) => (
              <div key={i} className="h-[236px] animate-pulse rounded-lg bg-cloth-2" />
            ))}
          </CardGrid>
        )}
        {data?.length === 0 && (
          <div className="grid items-start gap-6 lg:grid-cols-[1.25fr_1fr]">
            <div className="rounded-xl border border-dashed border-edge p-12 text-center">
              <Wind className="mx-auto mb-3 text-spruce" size={30} />
              <p className="text-base font-semibold">Nothing in the air yet</p>
              <p className="mx-auto mt-1 max-w-md text-soft">
                Drop a song with your clips, photos, sounds and captions here, all at once: each goes where it belongs. Or look at the demo,
                a day of kites that is nearly finished.
              </p>
              <p className="mt-5 flex flex-wrap justify-center gap-2">
                <Button look="main" onClick={dropIn.choose}>
                  Choose a song and footage
                </Button>
                <Button onClick={() => setNaming({ what: 'new' })}>New project</Button>
                <Button onClick={() => void openDemo()}>Open the demo</Button>
              </p>
            </div>
            <ShippedSongs taking={dropIn.taking} onTake={dropIn.beginWith} />
          </div>
        )}
        <CardGrid>
          {data?.map((project) => (
            <ProjectCard
              key={project.id}
              project={project}
              onOpen={() => void navigate(`/projects/${project.id}/${project.slots > 0 ? 'score' : 'song'}`)}
              onRename={() => setNaming({ what: 'rename', project })}
              onDuplicate={() => void attempt(() => request('POST', ROUTES.duplicateProject(project.id)))}
              onKeep={() => setKeeping(project)}
              onDelete={() => void remove(project)}
              onBack={() => mutate()}
            />
          ))}
        </CardGrid>
        <DeletedProjects />
      </main>
      {choosingSong && (
        <Dialog open onClose={() => setChoosingSong(false)} title="Begin with a song that comes with Bluster">
          <ShippedSongs taking={dropIn.taking} onTake={dropIn.beginWith} />
        </Dialog>
      )}
      <SongQuestion />
      {keeping && <KeepTemplate project={keeping} onClose={() => setKeeping(null)} />}
      {naming && (
        <NameDialog
          title={naming.what === 'new' ? 'New project' : 'Rename the project'}
          initial={naming.what === 'rename' ? naming.project.name : ''}
          onClose={() => setNaming(null)}
          onName={(text) => void name(text)}
        />
      )}
    </div>
  );
}

function CardGrid({ children }: { children: React.ReactNode }): React.JSX.Element {
  return <div className="grid grid-cols-[repeat(auto-fill,minmax(270px,1fr))] gap-5">{children}</div>;
}

interface CardProps {
  readonly project: ProjectSummary;
  readonly onOpen: () => void;
  readonly onRename: () => void;
  readonly onDuplicate: () => void;
  readonly onKeep: () => void;
  readonly onDelete: () => void;
  /** for one that cannot be read */
  readonly onBack: () => Promise<unknown>;
}

function ProjectCard({ project, onOpen, onRename, onDuplicate, onKeep, onDelete, onBack }: CardProps): React.JSX.Element {
  if (project.problem !== null)
    return (
      <article className="flex flex-col rounded-lg border border-coral/50 bg-paper p-4 shadow-sm" aria-label={project.name}>
        <p className="truncate font-semibold" title={project.name}>
          {project.name}
        </p>
        <p role="alert" className="mt-2 flex-1 text-coral-text">
          {project.problem}
        </p>
        <p className="mt-4 flex flex-wrap gap-2">
          <WaysOutOfDamage projectId={project.id} onBack={onBack} />
          <button className="self-center text-soft underline" onClick={onDelete}>
            Delete
          </button>
        </p>
      </article>
    );
  const state =
    project.length === 0
      ? 'no song yet'
      : project.slots === 0
        ? shortClock(project.length)
        : `${shortClock(project.length)} · ${project.filled} of ${project.slots} slots filled`;
  return (
    <article className="group overflow-hidden rounded-lg border border-edge bg-paper shadow-sm">
      <button className="block w-full text-left" onClick={onOpen} aria-label={`Open ${project.name}`}>
        <span className="block aspect-video overflow-hidden bg-cloth-2 p-1.5">
          {project.coverAssetId ? (
            <img src={ROUTES.assetPart(project.coverAssetId, 'thumb')} alt="" className="h-full w-full rounded-sm object-cover" />
          ) : (
            <span className="grid h-full place-items-center text-soft">
              <Wind size={26} aria-hidden />
            </span>
          )}
        </span>
      </button>
      <div className="flex items-center gap-2 px-3 py-2.5">
        <div className="min-w-0 flex-1">
          <p className="truncate font-semibold" title={project.name}>
            {project.name}
          </p>
          <p className="truncate text-[11.5px] text-soft">
            {state} · {new Date(project.updatedAt).toLocaleDateString(undefined, { day: 'numeric', month: 'short' })}
          </p>
        </div>
        <Menu
          trigger={
            <Button look="quiet" aria-label={`More for ${project.name}`} tight>
              <MoreHorizontal size={16} />
            </Button>
          }
        >
          <MenuItem onSelect={onRename}>Rename…</MenuItem>
          <MenuItem onSelect={onDuplicate}>Duplicate</MenuItem>
          <MenuItem onSelect={() => saveAddress(ROUTES.bundle(project.id))}>Save as a bundle</MenuItem>
          <MenuItem onSelect={onKeep}>Keep as a template…</MenuItem>
          <MenuItem onSelect={onDelete}>Delete</MenuItem>
        </Menu>
      </div>
    </article>
  );
}
