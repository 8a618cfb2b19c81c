import { ROUTES } from '@bluster/wire/routes';
import { scoreOf, type Montage } from '@bluster/core';
import { request } from '../api/request.ts';
import { Button } from '../interface/button.tsx';
import { Dialog } from '../interface/dialog.tsx';
import { useEditor } from '../document/editor.ts';

function describe(montage: Montage): string {
  const score = scoreOf(montage);
  return `${montage.marks.length} marks, ${montage.pegs.length} pegs, ${score.slots.filter((s) => s.placed).length} of ${score.slots.length} slots filled`;
}

/** Another window saved first: the editor chooses which version to go on with. Both are kept on the server. */
export function ConflictDialog(): React.JSX.Element | null {
  const { save, projectId, history, open, setSave } = useEditor();
  if (save.is !== 'conflict' || !projectId) return null;
  const { current } = save;
  const takeMine = async (): Promise<void> => {
    // The other window's version is set aside before this one takes its place.
    await request('POST', ROUTES.versions(projectId), {
      revision: current.revision,
      document: current.document,
      reason: 'Replaced by another window.',
    });
    setSave({ is: 'unsaved' }, current.revision);
  };
  return (
    <Dialog open onClose={() => undefined} title="This project was changed in another window">
      <p className="text-soft">Nothing was overwritten. Both versions are kept on the server, whichever you go on with.</p>
      <dl className="my-4 space-y-3">
        <div className="rounded-lg border border-edge p-3">
          <dt className="font-semibold">The one in this window</dt>
          <dd className="text-soft">{describe(history.now)}</dd>
        </div>
        <div className="rounded-lg border border-edge p-3">
          <dt className="font-semibold">
            The other window's, saved {new Date(current.savedAt).toLocaleTimeString(undefined, { hour: '2-digit', minute: '2-digit' })}
          </dt>
          <dd className="text-soft">{describe(current.document)}</dd>
        </div>
      </dl>
      <p className="flex justify-end gap-2">
        <Button onClick={() => open(projectId, current.document, current.revision, current.savedAt)}>Take the other one</Button>
        <Button look="main" onClick={() => void takeMine()}>
          Go on with this one
        </Button>
      </p>
    </Dialog>
  );
}
