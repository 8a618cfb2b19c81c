import { useRef, useState } from 'react';
import { carryOut, readMarks, spokenCues, titlesFromCues, type Montage } from '@bluster/core';
import { Button } from '../interface/button.tsx';
import { NumberField } from '../interface/number-field.tsx';
import { sayProblem } from '../interface/say-problem.ts';
import { useEditor } from '../document/editor.ts';

/** Titles from words that have a time already: cues of the montage, or a file of captions or timed lyrics. */
export function SpokenTitles({ montage }: { montage: Montage }): React.JSX.Element | null {
  const input = useRef<HTMLInputElement>(null);
  const [longest, setLongest] = useState(8);
  const [style, setStyle] = useState('');
  const worn = montage.styles.some((s) => s.id === style) ? { style } : {};
  const cues = spokenCues(montage).length;
  const { runAll } = useEditor.getState();
  const read = async (file: File): Promise<void> => {
    try {
      const marking = readMarks(file.name, new Uint8Array(await file.arrayBuffer()));
      runAll('Titles from captions', (m) => titlesFromCues(carryOut(m, { do: 'takeMarking', marking }), { longest, ...worn }));
    } catch (error) {
      sayProblem(error, file.name);
    }
  };
  if (!montage.song) return null;
  return (
    <section aria-label="Titles from words with times" className="space-y-1.5 border-t border-edge pt-3 text-[12.5px]">
      <p className="text-soft">
        {cues === 0
          ? 'Captions and timed lyrics (SRT, WebVTT, LRC) become titles, each on its word.'
          : `${cues} ${cues === 1 ? 'cue has' : 'cues have'} words: each becomes a title that stays until the next one comes.`}
      </p>
      <p className="flex flex-wrap items-center gap-1.5">
        {montage.styles.length > 0 && (
          <select
            aria-label="Style of these titles"
            className="rounded border border-edge bg-paper px-1.5 py-1 text-[12px]"
            value={worn.style ?? ''}
            onChange={(e) => setStyle(e.target.value)}
          >
            <option value="">plain captions</option>
            {montage.styles.map((s) => (
              <option key={s.id} value={s.id}>
                {s.name}
              </option>
            ))}
          </select>
        )}
        <label className="inline-flex items-center gap-1.5 text-[12px] text-soft">
          at most
          <NumberField
            label="Beats that such a title stays at most"
            value={longest}
            from={0.5}
            to={64}
            step={0.5}
            figures={3}
            onChange={setLongest}
          />
          beats
        </label>
        {cues > 0 && (
          <Button onClick={() => runAll('Titles from cues', (m) => titlesFromCues(m, { longest, ...worn }))}>Make them titles</Button>
        )}
        <Button onClick={() => input.current?.click()}>Captions from a file…</Button>
      </p>
      <input
        ref={input}
        type="file"
        accept=".lrc,.srt,.vtt"
        aria-label="File of captions"
        data-testid="captions-file"
        className="sr-only"
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) void read(file);
          event.target.value = '';
        }}
      />
    </section>
  );
}
