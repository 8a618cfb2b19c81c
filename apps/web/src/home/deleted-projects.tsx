import { ROUTES } from '@bluster/wire/routes';
import { sayProblem } from '../interface/say-problem.ts';
import { RotateCcw, Trash2 } from 'lucide-react';
import { useState } from 'react';
import useSWR, { mutate } from 'swr';
import { request } from '../api/request.ts';
import type { DeletedProjectAnswer as DeletedProject } from '@bluster/wire';
import { Button } from '../interface/button.tsx';
import { Dialog } from '../interface/dialog.tsx';

export const DELETED = ROUTES.deletedProjects();
const DAY_MS = 24 * 3600_000;

/** Days until it is removed for good, in words. */
function daysLeft(goneAt: number): string {
  const days = Math.max(0, Math.ceil((goneAt - Date.now()) / DAY_MS));
  return days === 1 ? 'kept for one more day' : `kept for ${days} more days`;
}

/** Projects that were deleted, to be brought back or removed for good; nothing where there are none. */
export function DeletedProjects(): React.JSX.Element | null {
  const { data = [] } = useSWR<DeletedProject[], Error>(DELETED);
  const [removing, setRemoving] = useState<DeletedProject | null>(null);
  if (data.length === 0) return null;
  const attempt = (work: Promise<unknown>): void => {
    work.catch(sayProblem).finally(() => void Promise.all([mutate(DELETED), mutate(ROUTES.projects())]));
  };
  return (
    <details className="mt-8 border-t border-edge pt-4">
      <summary className="cursor-pointer text-soft">
        Deleted projects <span className="figures">({data.length})</span>
      </summary>
      <ul className="mt-3 max-w-2xl space-y-1" aria-label="Deleted projects">
        {data.map((project) => (
          <li key={project.id} className="flex items-center gap-3 rounded-md border border-edge bg-paper px-3 py-1.5">
            <span className="min-w-0 flex-1 truncate" title={project.name}>
              {project.name}
            </span>
            <span className="text-[12px] text-soft">{daysLeft(project.goneAt)}</span>
            <Button aria-label={`Bring ${project.name} back`} onClick={() => attempt(request('POST', ROUTES.restoreProject(project.id)))}>
              <RotateCcw size={13} /> Bring back
            </Button>
            <Button look="danger" aria-label={`Delete ${project.name} for good`} onClick={() => setRemoving(project)}>
              <Trash2 size={13} /> For good…
            </Button>
          </li>
        ))}
      </ul>
      {removing && (
        <Dialog open onClose={() => setRemoving(null)} title={`Delete ${removing.name} for good?`}>
          <p className="text-soft">
            Its montage, its versions, its finished films and Bluster’s copies of its files are removed from this computer. This cannot be
            undone. The files that you brought in stay where you have them.
          </p>
          <p className="mt-4 flex justify-end gap-2">
            <Button onClick={() => setRemoving(null)}>Keep it</Button>
            <Button
              look="danger"
              onClick={() => {
                attempt(request('DELETE', ROUTES.removeProjectForGood(removing.id)));
                setRemoving(null);
              }}
            >
              Delete for good
            </Button>
          </p>
        </Dialog>
      )}
    </details>
  );
}
