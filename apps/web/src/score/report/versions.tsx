import { ROUTES } from '@bluster/wire/routes';
import { sayProblem } from '../../interface/say-problem.ts';
import { useMemo, useState } from 'react';
import { useParams } from 'react-router';
import { toast } from 'sonner';
import useSWR from 'swr';
import { compareVersions, frameTime, readMontage, type ComparedLine, type Montage } from '@bluster/core';
import { fetchJson, request } from '../../api/request.ts';
import type { KeptVersionAnswer as KeptVersion } from '@bluster/wire';
import { Button } from '../../interface/button.tsx';
import { Dialog } from '../../interface/dialog.tsx';
import { player } from '../../playback/player.ts';
import { montageNow, useEditor, useMontage } from '../../document/editor.ts';

/** Named versions of the montage: set aside, compared with the present one, gone back to. */
export function Versions(): React.JSX.Element {
  const { projectId = '' } = useParams();
  const path = ROUTES.versions(projectId);
  const { data: versions, error, mutate } = useSWR<readonly KeptVersion[], Error>(path, fetchJson);
  const [name, setName] = useState('');
  const [compared, setCompared] = useState<{ readonly version: KeptVersion; readonly montage: Montage } | null>(null);
  const attempt = async (work: () => Promise<void>): Promise<void> => {
    try {
      await work();
    } catch (problem) {
      sayProblem(problem);
    }
  };
  const keep = (as: string): Promise<void> =>
    attempt(async () => {
      await request('POST', path, { revision: useEditor.getState().revision, document: montageNow(), reason: as });
      await mutate();
    });
  // It may have been kept by an earlier Bluster, in the form of then.
  const load = async (version: KeptVersion): Promise<Montage> => readMontage(await fetchJson<unknown>(`${path}/${version.id}`));
  const goBack = (version: KeptVersion): Promise<void> =>
    attempt(async () => {
      const montage = await load(version);
      setCompared(null);
      useEditor.getState().runAll(`Take version ${version.reason}`, () => montage);
      toast(`“${version.reason}” is the montage now. Ctrl Z goes back.`);
    });
  return (
    <section className="space-y-2 px-3.5 py-2 text-[12.5px]" aria-label="Versions" data-testid="versions">
      <form
        className="flex items-center gap-1.5"
        onSubmit={(e) => {
          e.preventDefault();
          const as = name.trim();
          if (as === '') return;
          setName('');
          void keep(as);
        }}
      >
        <input
          value={name}
          onChange={(e) => setName(e.target.value)}
          maxLength={60}
          placeholder="name of this one"
          aria-label="Name of the version"
          className="min-w-0 flex-1 rounded border border-edge bg-paper px-1.5 py-0.5"
        />
        <Button tight type="submit" disabled={name.trim() === ''}>
          Keep this version
        </Button>
      </form>
      {error && <p className="text-coral-text">{error.message}</p>}
      {versions?.length === 0 && <p className="text-[11.5px] text-soft">None kept yet. Keep this one before you try another.</p>}
      <ul>
        {versions?.map((version) => (
          <li key={version.id} className="flex items-center gap-2 border-b border-edge py-1.5">
            <span className="min-w-0 flex-1 truncate">
              {version.reason}{' '}
              <span className="text-soft">{new Date(version.savedAt).toLocaleTimeString([], { hour: '2-digit', minute: '2-digit' })}</span>
            </span>
            <button
              type="button"
              className="text-spruce underline"
              onClick={() => void attempt(async () => setCompared({ version, montage: await load(version) }))}
            >
              compare
            </button>
            <button type="button" className="text-spruce underline" onClick={() => void goBack(version)}>
              take
            </button>
            <button
              type="button"
              className="text-soft underline"
              aria-label={`Delete version ${version.reason}`}
              onClick={() =>
                void attempt(async () => {
                  await request('DELETE', `${path}/${version.id}`);
                  await mutate();
                })
              }
            >
              delete
            </button>
          </li>
        ))}
      </ul>
      <Dialog
        open={compared !== null}
        onClose={() => setCompared(null)}
        title={`This montage beside “${compared?.version.reason ?? ''}”`}
        wide
      >
        {compared && <Compare other={compared.montage} name={compared.version.reason} onTake={() => void goBack(compared.version)} />}
      </Dialog>
    </section>
  );
}

const CHANGES: Record<ComparedLine['change'], string> = {
  same: '',
  'only first': 'a cut more',
  'only second': 'a cut less',
  length: 'another length',
  clip: 'another clip',
  part: 'another part',
  dress: 'dressed otherwise',
};

function Compare({ other, name, onTake }: { other: Montage; name: string; onTake: () => void }): React.JSX.Element {
  const montage = useMontage();
  const [onlyChanges, setOnly] = useState(true);
  const { lines, same, overAll, a, b } = useMemo(() => compareVersions(montage, other), [montage, other]);
  const shown = lines.filter((l) => !onlyChanges || l.change !== 'same');
  const side = (line: ComparedLine['a']): string =>
    line
      ? `${line.slot.clip?.replace(/\.\w+$/, '') ?? 'empty'} · ${line.slot.toFrame - line.slot.fromFrame} frames${line.slot.speed !== null && line.slot.speed !== 1 ? ` · ${Math.round(line.slot.speed * 100)} %` : ''}`
      : '';
  return (
    <div className="space-y-2 text-[12px]" data-testid="compare">
      <p>
        {same} of {lines.length} lines are the same. Here {a.cuts.length} cuts, {a.emptySlots} empty, worst {a.worstErrorMs.toFixed(1)} ms;
        in “{name}” {b.cuts.length} cuts, {b.emptySlots} empty, worst {b.worstErrorMs.toFixed(1)} ms.
        {overAll.length > 0 && ` Over all of it these differ: ${overAll.join(', ')}.`}
      </p>
      <label className="flex items-center gap-1.5">
        <input type="checkbox" checked={onlyChanges} onChange={(e) => setOnly(e.target.checked)} className="accent-spruce" /> only what
        differs
      </label>
      <div className="max-h-[46vh] overflow-y-auto" tabIndex={0} role="region" aria-label="Lines compared">
        <table className="figures w-full text-[11.5px]">
          <thead className="sticky top-0 bg-paper text-left text-soft">
            <tr>
              <th className="font-normal">frame</th>
              <th className="font-normal">here</th>
              <th className="font-normal">{name}</th>
              <th className="font-normal">differs by</th>
            </tr>
          </thead>
          <tbody>
            {shown.slice(0, 600).map((l) => (
              <tr
                key={l.frame}
                data-testid="compared-line"
                className="cursor-pointer hover:bg-cloth-2"
                onClick={() => player.seek(frameTime(l.frame, montage.shape.rate) + 0.0005)}
              >
                <td>{l.frame}</td>
                <td>{side(l.a)}</td>
                <td>{side(l.b)}</td>
                <td className="text-gold-text">{CHANGES[l.change]}</td>
              </tr>
            ))}
          </tbody>
        </table>
        {shown.length > 600 && <p className="text-soft">The first 600 of {shown.length} are shown.</p>}
      </div>
      <div className="flex justify-end">
        <Button look="main" onClick={onTake}>
          Take “{name}”
        </Button>
      </div>
    </div>
  );
}
