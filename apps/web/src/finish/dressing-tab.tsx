import { ROUTES } from '@bluster/wire/routes';
import type { DressingAnswer } from '@bluster/wire';
import { Download, Trash2 } from 'lucide-react';
import { useRef, useState } from 'react';
import { toast } from 'sonner';
import useSWR from 'swr';
import { dressingOf, DRESSINGS, readDressing, type Dressing } from '@bluster/core';
import { request } from '../api/request.ts';
import { Button } from '../interface/button.tsx';
import { NameDialog } from '../interface/name-dialog.tsx';
import { saveFile } from '../interface/save-file.ts';
import { sayProblem } from '../interface/say-problem.ts';
import { montageNow, useEditor, useMontage } from '../document/editor.ts';
import { dressingWords } from './dressing-words.ts';

/** What a montage wears as a whole: laid on in one step, kept by name for every project. */
export function DressingTab(): React.JSX.Element {
  const montage = useMontage();
  const [naming, setNaming] = useState(false);
  const input = useRef<HTMLInputElement>(null);
  const { data: kept = [], error, mutate } = useSWR<DressingAnswer[], Error>(ROUTES.dressings());
  const attempt = async (work: () => Promise<unknown>, about?: string): Promise<boolean> => {
    try {
      await work();
      await mutate();
      return true;
    } catch (problem) {
      sayProblem(problem, about);
      return false;
    }
  };
  const keep = (dressing: Dressing, about?: string): Promise<boolean> =>
    attempt(() => request('POST', ROUTES.dressings(), { dressing }), about);
  const wear = (dressing: Dressing): void => {
    if (useEditor.getState().run({ do: 'wearDressing', dressing })) toast(`It wears ${dressing.name} now. Ctrl Z takes it off again.`);
  };
  return (
    <div className="space-y-3 px-3.5 pb-4 text-[12.5px]">
      <p className="text-soft">
        A dressing is what a montage wears: its rules, looks, transitions, moves, fades, styles and where its titles stand. It takes the
        place of the one before. What you laid on one mark or one shot by hand stays.
      </p>
      <p className="flex flex-wrap gap-1.5">
        <Button disabled={!montage.song} onClick={() => setNaming(true)}>
          Keep what it wears
        </Button>
        <Button onClick={() => input.current?.click()}>From a file…</Button>
      </p>
      {error && <p className="text-gold-text">{error.message}</p>}
      {kept.length > 0 && (
        <ul aria-label="Dressings that were kept" className="space-y-1.5">
          {kept.map(({ id, dressing }) => (
            <Worn key={id} dressing={dressing} onWear={wear}>
              <Button
                tight
                look="quiet"
                aria-label={`Save ${dressing.name} as a file`}
                hint="Save it as a file"
                onClick={() => saveFile(`${dressing.name}.dressing.json`, JSON.stringify(dressing, null, 2), 'application/json')}
              >
                <Download size={13} />
              </Button>
              <Button
                tight
                look="quiet"
                aria-label={`Remove ${dressing.name}`}
                hint="Remove it; montages that wear it keep it on"
                onClick={() =>
                  void attempt(() => request('DELETE', ROUTES.dressing(id))).then(
                    (gone) =>
                      gone &&
                      toast(`${dressing.name} is no longer kept.`, {
                        action: { label: 'Keep it again', onClick: () => void keep(dressing) },
                      }),
                  )
                }
              >
                <Trash2 size={13} />
              </Button>
            </Worn>
          ))}
        </ul>
      )}
      <ul aria-label="Dressings that ship" className="space-y-1.5 border-t border-edge pt-3">
        {DRESSINGS.map((dressing) => (
          <Worn key={dressing.name} dressing={dressing} onWear={wear} />
        ))}
      </ul>
      <input
        ref={input}
        type="file"
        accept=".json,application/json"
        aria-label="File of a dressing"
        data-testid="dressing-file"
        className="sr-only"
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) void attempt(async () => void (await request('POST', ROUTES.dressings(), { dressing: await read(file) })), file.name);
          event.target.value = '';
        }}
      />
      {naming && (
        <NameDialog
          title="Keep what it wears"
          initial=""
          onClose={() => setNaming(false)}
          onName={(name) => void keep(dressingOf(montageNow(), name.slice(0, 60))).then((done) => done && setNaming(false))}
        />
      )}
    </div>
  );
}

/** Reads a file. @throws DressingError */
async function read(file: File): Promise<Dressing> {
  const text = await file.text();
  let value: unknown = null;
  try {
    value = JSON.parse(text);
  } catch {
    // What is no JSON is no dressing either, which is said below.
  }
  return readDressing(value);
}

/** One dressing: what it is called, what is in it, and the way to wear it. */
function Worn({
  dressing,
  onWear,
  children,
}: {
  dressing: Dressing;
  onWear: (dressing: Dressing) => void;
  children?: React.ReactNode;
}): React.JSX.Element {
  return (
    <li className="flex items-center gap-2 rounded-md border border-edge bg-paper px-2.5 py-1.5" data-testid="dressing">
      <span className="min-w-0 flex-1">
        <b className="block truncate font-semibold">{dressing.name}</b>
        <span className="block text-[11.5px] text-soft">{dressingWords(dressing)}</span>
      </span>
      {children}
      <Button tight onClick={() => onWear(dressing)}>
        Wear it
      </Button>
    </li>
  );
}
