import { Plus, Trash2 } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { useParams } from 'react-router';
import { FACE_NAMES, FACES, type Montage } from '@bluster/core';
import { faceFamilies } from '@bluster/painter';
import { useUploads } from '../arrivals/upload-queue.ts';
import { Button } from '../interface/button.tsx';
import { useEditor } from '../document/editor.ts';
import { titleFacesLoaded } from '../screen/title-faces.ts';

/** How files of typefaces are called. */
const FACE_FILE = /\.(ttf|otf|woff2?)$/i;

interface TypefaceChoiceProps {
  readonly value: string;
  readonly montage: Montage;
  readonly onChoose: (face: string) => void;
}

/** In which typeface a title is written: each is shown in itself. The editor's own files stand behind those that ship. */
export function TypefaceChoice({ value, montage, onChoose }: TypefaceChoiceProps): React.JSX.Element {
  const { projectId = '' } = useParams();
  const input = useRef<HTMLInputElement>(null);
  const [, setLoaded] = useState(0);
  const own = montage.faces.map((f) => f.assetId).join(' ');
  useEffect(() => {
    void titleFacesLoaded([...FACE_NAMES, ...own.split(' ').filter(Boolean)]).then(() => setLoaded((n) => n + 1));
  }, [own]);
  const all = [
    ...FACE_NAMES.map((face) => ({ face: face, text: FACES[face].title, own: false })),
    ...montage.faces.map(({ assetId, name }) => ({ face: assetId, text: name.replace(FACE_FILE, ''), own: true })),
  ];
  return (
    <div className="flex min-w-0 flex-wrap items-center gap-1" role="radiogroup" aria-label="Typeface">
      {all.map(({ face, text }) => (
        <button
          key={face}
          type="button"
          role="radio"
          aria-checked={value === face}
          title={text}
          className={`h-7 max-w-36 truncate rounded-md border px-2 text-[14px] ${value === face ? 'border-spruce bg-spruce text-on-spruce' : 'border-edge bg-paper hover:bg-cloth-2'}`}
          style={{
            fontFamily: faceFamilies(face)
              .map((f) => `"${f}"`)
              .join(', '),
          }}
          onClick={() => onChoose(face)}
        >
          {text}
        </button>
      ))}
      <Button tight look="quiet" hint="A file of your own: TTF, OTF, WOFF or WOFF2" onClick={() => input.current?.click()}>
        <Plus size={12} /> own
      </Button>
      {all.some((a) => a.own && a.face === value) && (
        <Button
          tight
          look="quiet"
          aria-label="Remove this typeface"
          hint="Remove this typeface; what is written in it is plain from then on"
          onClick={() => useEditor.getState().run({ do: 'removeFace', assetId: value })}
        >
          <Trash2 size={12} />
        </Button>
      )}
      <FacesOnTheirWay />
      <input
        ref={input}
        type="file"
        multiple
        accept=".ttf,.otf,.woff,.woff2"
        aria-label="Files of typefaces"
        data-testid="face-files"
        className="sr-only"
        onChange={(event) => {
          const files = [...(event.target.files ?? [])];
          if (files.length > 0) useUploads.getState().add(projectId, files, 'footage');
          event.target.value = '';
        }}
      />
    </div>
  );
}

/** Files of typefaces that are on their way in, and what is wrong with those that cannot be used. */
function FacesOnTheirWay(): React.JSX.Element {
  const uploads = useUploads((state) => state.uploads);
  return (
    <>
      {uploads
        .filter(({ name }) => FACE_FILE.test(name))
        .map(({ key, name, problem }) =>
          problem === null ? (
            <span key={key} className="text-[12px] text-soft">
              {name} is coming…
            </span>
          ) : (
            <p key={key} role="alert" className="flex w-full items-center gap-1.5 text-[12px] text-gold-text">
              {problem}
              <Button tight look="quiet" onClick={() => useUploads.getState().dismiss(key)}>
                Never mind
              </Button>
            </p>
          ),
        )}
    </>
  );
}
