import { useState } from 'react';
import { toast } from 'sonner';
import { mutate } from 'swr';
import { LONGEST_NOTE } from '@bluster/core';
import { ROUTES } from '@bluster/wire/routes';
import type { TemplateAnswer } from '@bluster/wire';
import { request } from '../api/request.ts';
import { Button } from '../interface/button.tsx';
import { Dialog } from '../interface/dialog.tsx';
import { sayProblem } from '../interface/say-problem.ts';
import { TEMPLATES } from './begin-template.tsx';

/** Keeps a project's montage as a template, without its pictures. */
export function KeepTemplate({ project, onClose }: { project: { id: string; name: string }; onClose: () => void }): React.JSX.Element {
  const [name, setName] = useState(project.name);
  const [note, setNote] = useState('');
  const [song, setSong] = useState(true);
  const [keeping, setKeeping] = useState(false);
  const keep = async (): Promise<void> => {
    setKeeping(true);
    try {
      const kept = await request<TemplateAnswer>('POST', ROUTES.keepTemplate(project.id), { name: name.trim(), note: note.trim(), song });
      await mutate(TEMPLATES);
      toast(`“${kept.name}” is a template now: ${kept.slots} slots. New projects begin with it under “From a template…”.`);
      onClose();
    } catch (problem) {
      sayProblem(problem);
      setKeeping(false);
    }
  };
  return (
    <Dialog open onClose={onClose} title="Keep as a template">
      <form
        className="space-y-3"
        onSubmit={(e) => {
          e.preventDefault();
          void keep();
        }}
      >
        <p className="text-soft">Its slots, rules, titles and what it is dressed in; not its pictures.</p>
        <label className="block">
          <span className="text-soft">Name</span>
          <input
            autoFocus
            maxLength={120}
            value={name}
            onChange={(e) => setName(e.target.value)}
            className="mt-1 w-full rounded-md border border-edge bg-cloth px-2.5 py-1.5"
          />
        </label>
        <label className="block">
          <span className="text-soft">What it is for</span>
          <input
            maxLength={LONGEST_NOTE}
            value={note}
            onChange={(e) => setNote(e.target.value)}
            className="mt-1 w-full rounded-md border border-edge bg-cloth px-2.5 py-1.5"
          />
        </label>
        <label className="flex items-center gap-1.5">
          <input type="checkbox" checked={song} onChange={(e) => setSong(e.target.checked)} className="accent-spruce" />
          With its song
        </label>
        <p className="flex justify-end gap-2">
          <Button onClick={onClose}>Cancel</Button>
          <Button look="main" type="submit" disabled={keeping || !name.trim()}>
            {keeping ? 'Keeping…' : 'Keep it'}
          </Button>
        </p>
      </form>
    </Dialog>
  );
}
