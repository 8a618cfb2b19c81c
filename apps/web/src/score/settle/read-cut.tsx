import { FileInput } from 'lucide-react';
import { useMemo, useRef, useState } from 'react';
import { toast } from 'sonner';
import { findMedia, frameTime, isRefusal, readCut, scoreOf, type Montage, type ReadCut } from '@bluster/core';
import { Button } from '../../interface/button.tsx';
import { montageNow, useEditor } from '../../document/editor.ts';

/** Lists of cuts are small; what is larger is something else. */
const LARGEST_BYTES = 32 * 2 ** 20;

/** A cut from another program: laid over the song with the footage that it names, found by name and length. */
export function ReadCutFile({ montage }: { montage: Montage }): React.JSX.Element {
  const input = useRef<HTMLInputElement>(null);
  const [cut, setCut] = useState<{ readonly name: string; readonly read: ReadCut } | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  /** what stands for a missing name */
  const [pointed, setPointed] = useState<Readonly<Record<string, string>>>({});
  const read = async (file: File): Promise<void> => {
    setCut(null);
    setProblem(null);
    setPointed({});
    if (file.size > LARGEST_BYTES) {
      setProblem(`"${file.name}" is too large for a list of cuts. Choose the .otio or .edl itself.`);
      return;
    }
    try {
      setCut({ name: file.name, read: readCut(file.name, await file.text(), montage.shape.rate) });
    } catch (error) {
      if (!isRefusal(error)) throw error;
      setProblem(error.message);
    }
  };
  return (
    <section className="space-y-2" aria-label="Read a cut">
      <input
        ref={input}
        type="file"
        accept=".otio,.edl"
        className="hidden"
        aria-label="Cut file"
        onChange={(e) => {
          const file = e.target.files?.[0];
          e.target.value = '';
          if (file) void read(file);
        }}
      />
      <div className="flex items-center gap-2">
        <Button onClick={() => input.current?.click()} disabled={!montage.song}>
          <FileInput size={13} /> Read a cut…
        </Button>
        <span className="text-[11.5px] text-soft">from OpenTimelineIO (.otio) or an edit decision list (.edl)</span>
      </div>
      {problem && (
        <p role="alert" className="text-coral-text">
          {problem}
        </p>
      )}
      {cut && <FoundCutView montage={montage} cut={cut} pointed={pointed} onPoint={setPointed} />}
    </section>
  );
}

interface FoundCutViewProps {
  readonly montage: Montage;
  readonly cut: { readonly name: string; readonly read: ReadCut };
  readonly pointed: Readonly<Record<string, string>>;
  readonly onPoint: (pointed: Readonly<Record<string, string>>) => void;
}

/** What was read, what of it is missing and what stands for it, and the step that lays it over the song. */
function FoundCutView({ montage, cut: { name, read }, pointed, onPoint }: FoundCutViewProps): React.JSX.Element {
  const found = useMemo(() => findMedia(read, montage.footage, pointed), [read, montage.footage, pointed]);
  const bare = useMemo(() => findMedia(read, montage.footage), [read, montage.footage]);
  const shots = read.pieces.filter((piece) => piece.name !== null).length;
  const seconds = read.pieces.reduce((sum, piece) => sum + piece.length, 0);
  const room = frameTime(scoreOf(montage).frames, montage.shape.rate);
  const lay = (): void => {
    const before = new Set(montageNow().shots.map((s) => s.id));
    if (!useEditor.getState().run({ do: 'layRun', run: found.run, at: 0 })) return;
    const hung = montageNow().shots.filter((s) => !before.has(s.id)).length;
    toast(`The cut lies over the song: ${hung} ${hung === 1 ? 'shot' : 'shots'} on free pegs.`);
  };
  return (
    <div className="space-y-2 rounded border border-edge bg-cloth/50 p-2.5" data-testid="read-cut">
      <p>
        <b className="font-semibold">{name}</b>: {shots} {shots === 1 ? 'shot' : 'shots'}, {seconds.toFixed(1)} s; the song is{' '}
        {room.toFixed(1)} s.{seconds > room + 0.05 && ' What goes beyond its end is left out.'}
        {read.notes.length > 0 && <span className="text-soft"> Not read: {read.notes.join(', ')}.</span>}
      </p>
      {bare.missing.length > 0 && (
        <div className="max-h-40 space-y-1 overflow-y-auto">
          <p className="text-gold-text">
            {bare.missing.length} {bare.missing.length === 1 ? 'file is' : 'files are'} not in the footage. Point at what stands for{' '}
            {bare.missing.length === 1 ? 'it' : 'each'}, or leave black there.
          </p>
          {bare.missing.map((media) => (
            <label key={media.name} className="flex items-center gap-2">
              <span className="min-w-0 flex-1 truncate" title={media.name}>
                {media.name} <span className="text-soft">· {media.pieces} ×</span>
              </span>
              <select
                aria-label={`Stands for ${media.name}`}
                className="w-44 rounded border border-edge bg-paper px-1.5 py-0.5"
                value={pointed[media.name] ?? ''}
                onChange={(e) => {
                  const { [media.name]: _, ...others } = pointed;
                  onPoint(e.target.value ? { ...others, [media.name]: e.target.value } : others);
                }}
              >
                <option value="">black</option>
                {montage.footage.map((item) => (
                  <option key={item.assetId} value={item.assetId}>
                    {item.name}
                  </option>
                ))}
              </select>
            </label>
          ))}
        </div>
      )}
      <Button look="main" onClick={lay}>
        Lay it over the song
      </Button>
    </div>
  );
}
