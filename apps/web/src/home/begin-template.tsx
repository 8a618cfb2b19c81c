import { LayoutTemplate, Save, Trash2 } from 'lucide-react';
import { useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import useSWR, { mutate } from 'swr';
import { shortClock } from '@bluster/core';
import { ROUTES } from '@bluster/wire/routes';
import type { OpenedBundleAnswer, TemplateAnswer } from '@bluster/wire';
import { request } from '../api/request.ts';
import { useAlong } from '../arrivals/along.ts';
import { useUploads } from '../arrivals/upload-queue.ts';
import { Button } from '../interface/button.tsx';
import { Dialog } from '../interface/dialog.tsx';
import { Menu, MenuItem } from '../interface/menu.tsx';
import { saveAddress } from '../interface/save-file.ts';
import { sayProblem } from '../interface/say-problem.ts';
import { missingInWords } from './open-bundle.tsx';

export const TEMPLATES = ROUTES.templates();

/** Begins a project from a template: a montage without its pictures. */
export function BeginTemplate(): React.JSX.Element {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button onClick={() => setOpen(true)} hint="A montage without its pictures, to be filled with your footage">
        <LayoutTemplate size={14} /> From a template…
      </Button>
      {open && <TemplatesDialog onClose={() => setOpen(false)} />}
    </>
  );
}

function TemplatesDialog({ onClose }: { onClose: () => void }): React.JSX.Element {
  const { data, error, mutate: again } = useSWR<TemplateAnswer[], Error>(TEMPLATES);
  const [chosen, setChosen] = useState<string | null>(null);
  const [name, setName] = useState<string | null>(null);
  /** another song than the template's, and what fills its slots; both may come later */
  const [song, setSong] = useState<File | null>(null);
  const [footage, setFootage] = useState<readonly File[]>([]);
  const [beginning, setBeginning] = useState(false);
  /** removed last, as long as that can be taken back here */
  const [removed, setRemoved] = useState<TemplateAnswer | null>(null);
  const navigate = useNavigate();
  const template = data?.find((t) => t.id === chosen) ?? data?.[0] ?? null;
  const called = (name ?? template?.name ?? '').trim();

  const begin = async (): Promise<void> => {
    if (!template) return;
    setBeginning(true);
    try {
      const { project, missing } = await request<OpenedBundleAnswer>('POST', ROUTES.beginTemplate(template.id), { name: called });
      await mutate(ROUTES.projects());
      const { add } = useUploads.getState();
      if (song) {
        useAlong.setState({ projectId: project.id });
        add(project.id, [song], 'song');
      }
      if (footage.length > 0) add(project.id, footage, 'footage');
      const next =
        footage.length > 0
          ? 'Your footage is coming in; then Fill slots under Score.'
          : 'Bring in your footage; then Fill slots under Score.';
      toast(missing.length > 0 && !song ? missingInWords(missing) : next, { duration: 12_000 });
      await navigate(`/projects/${project.id}/${song || missing.length > 0 ? 'song' : 'footage'}`);
    } catch (problem) {
      sayProblem(problem);
      setBeginning(false);
    }
  };
  const attempt = async (work: () => Promise<unknown>): Promise<void> => {
    try {
      await work();
    } catch (problem) {
      sayProblem(problem);
    } finally {
      await again();
    }
  };
  const remove = (gone: TemplateAnswer): Promise<void> =>
    attempt(async () => {
      await request('DELETE', ROUTES.template(gone.id));
      setRemoved(gone);
    });
  const bringBack = (back: TemplateAnswer): Promise<void> =>
    attempt(async () => {
      await request('POST', ROUTES.restoreTemplate(back.id));
      setRemoved(null);
    });
  return (
    <Dialog open onClose={onClose} title="Begin from a template" wide>
      <p className="text-soft">
        A template is a montage without its pictures: slots, rules, titles and what it is dressed in. It keeps its song, or goes over to one
        of yours.
      </p>
      {error && (
        <p role="alert" className="mt-3 text-coral-text">
          {error.message}{' '}
          <button className="underline" onClick={() => void again()}>
            Try again
          </button>
        </p>
      )}
      {!data && !error && <div className="mt-3 h-40 animate-pulse rounded-lg bg-cloth-2" />}
      {data?.length === 0 && (
        <p className="mt-3 rounded-lg border border-dashed border-edge p-6 text-center text-soft">
          None is kept yet. “Keep as a template…” stands in the menu of each project.
        </p>
      )}
      <ul className="mt-3 max-h-[46vh] space-y-1.5 overflow-y-auto p-0.5" aria-label="Templates">
        {data?.map((t) => (
          <TemplateRow
            key={t.id}
            template={t}
            chosen={t.id === template?.id}
            onChoose={() => setChosen(t.id)}
            onRemove={() => void remove(t)}
          />
        ))}
      </ul>
      {removed && (
        <p role="status" className="mt-2 flex items-center gap-3 rounded-md bg-cloth-2 px-3 py-1.5 text-[12.5px]">
          <span className="min-w-0 flex-1 truncate">The template “{removed.name}” was removed.</span>
          <Button onClick={() => void bringBack(removed)}>Undo</Button>
        </p>
      )}
      {template && (
        <div className="mt-3 grid grid-cols-[auto_1fr_auto] items-center gap-x-3 gap-y-1.5 text-[13px]">
          <span className="text-soft">Song</span>
          <span className="truncate">{song?.name ?? (template.hasSong ? 'the template’s own' : 'missing: take one of yours')}</span>
          <Files label="Song for the template" text="Take another…" onChosen={([file]) => setSong(file ?? null)} />
          <span className="text-soft">Footage</span>
          <span className="truncate">
            {footage.length === 0 ? 'comes later' : `${footage.length} ${footage.length === 1 ? 'file' : 'files'}`}
          </span>
          <Files label="Footage for the template" text="Choose…" several onChosen={setFootage} />
        </div>
      )}
      {template && (
        <form
          className="mt-4 flex items-end gap-2"
          onSubmit={(e) => {
            e.preventDefault();
            if (called) void begin();
          }}
        >
          <label className="min-w-0 flex-1">
            <span className="text-[12px] text-soft">Name of the project</span>
            <input
              maxLength={120}
              value={name ?? template.name}
              onChange={(e) => setName(e.target.value)}
              className="mt-0.5 w-full rounded-md border border-edge bg-cloth px-2.5 py-1.5"
            />
          </label>
          <Button onClick={onClose}>Not now</Button>
          <Button look="main" type="submit" disabled={beginning || !called}>
            {beginning ? 'Beginning…' : 'Begin'}
          </Button>
        </form>
      )}
    </Dialog>
  );
}

interface FilesProps {
  readonly label: string;
  readonly text: string;
  readonly several?: boolean;
  readonly onChosen: (files: readonly File[]) => void;
}

/** A button that lets files be chosen. */
function Files({ label, text, several = false, onChosen }: FilesProps): React.JSX.Element {
  const input = useRef<HTMLInputElement>(null);
  return (
    <span>
      <input
        ref={input}
        type="file"
        multiple={several}
        className="hidden"
        aria-label={label}
        onChange={(e) => onChosen([...(e.target.files ?? [])])}
      />
      <Button onClick={() => input.current?.click()}>{text}</Button>
    </span>
  );
}

interface RowProps {
  readonly template: TemplateAnswer;
  readonly chosen: boolean;
  readonly onChoose: () => void;
  readonly onRemove: () => void;
}

function TemplateRow({ template, chosen, onChoose, onRemove }: RowProps): React.JSX.Element {
  const { id, name, note, ships, length, slots, width, height, hasSong } = template;
  return (
    <li className={`flex items-center gap-3 rounded-lg border px-3 py-2 ${chosen ? 'border-spruce bg-cloth' : 'border-edge'}`}>
      <label className="flex min-w-0 flex-1 cursor-pointer items-center gap-3">
        <input type="radio" name="template" checked={chosen} onChange={onChoose} className="accent-spruce" />
        <FrameSign width={width} height={height} />
        <span className="min-w-0 flex-1">
          <span className="font-semibold">{name}</span>
          <span className="figures ml-2 text-[11.5px] text-soft">
            {shortClock(length)} · {slots} slots{hasSong ? '' : ' · without its song'}
          </span>
          {note && (
            <span className="block truncate text-[12px] text-soft" title={note}>
              {note}
            </span>
          )}
        </span>
      </label>
      {!ships && (
        <Menu
          trigger={
            <Button look="quiet" tight aria-label={`More for ${name}`}>
              …
            </Button>
          }
        >
          <MenuItem onSelect={() => saveAddress(ROUTES.templateFile(id))}>
            <Save size={13} className="mr-1.5 inline" aria-hidden /> Save as a file
          </MenuItem>
          <MenuItem onSelect={onRemove}>
            <Trash2 size={13} className="mr-1.5 inline" aria-hidden /> Remove
          </MenuItem>
        </Menu>
      )}
    </li>
  );
}

/** The shape of the frame, at a glance. */
function FrameSign({ width, height }: { width: number; height: number }): React.JSX.Element {
  const scale = 26 / Math.max(width, height);
  return (
    <span className="grid h-7 w-8 shrink-0 place-items-center" title={`${width}×${height}`}>
      <span className="rounded-[2px] border-[1.5px] border-spruce bg-spruce/10" style={{ width: width * scale, height: height * scale }} />
    </span>
  );
}
