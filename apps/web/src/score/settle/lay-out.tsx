import { useState } from 'react';
import { toast } from 'sonner';
import { clipLength, frameAt, frameTime, scoreOf, stretchesOf, type Montage, type RunStretch } from '@bluster/core';
import { Button } from '../../interface/button.tsx';
import { Choice } from '../../interface/choice.tsx';
import { player } from '../../playback/player.ts';
import { montageNow, useEditor } from '../../document/editor.ts';

/** What can be laid out: one film taken apart, or the whole story as it is. */
export function LayOut({ montage }: { montage: Montage }): React.JSX.Element {
  const films = montage.footage.filter((f) => f.kind === 'clip' && f.selects.length > 1);
  const [what, setWhat] = useState(films[0]?.assetId ?? 'story');
  const [at, setAt] = useState<'start' | 'playhead'>('start');
  const run = montage.footage
    .filter((f) => what === 'story' || f.assetId === what)
    .flatMap((f): RunStretch[] =>
      stretchesOf(f).map((s) => ({ assetId: f.assetId, in: s.in, out: f.kind === 'photo' ? 2 : Math.min(s.out, clipLength(f)) })),
    );
  const seconds = run.reduce((sum, r) => sum + r.out - r.in, 0);
  const from = at === 'start' ? 0 : frameAt(player.time(), montage.shape.rate);
  const room = frameTime(scoreOf(montage).frames - from, montage.shape.rate);
  const lay = (): void => {
    const before = new Set(montageNow().shots.map((s) => s.id));
    if (!useEditor.getState().run({ do: 'layRun', run, at: from })) return;
    const hung = montageNow().shots.filter((s) => !before.has(s.id)).length;
    toast(`The cut lies over the song: ${hung} ${hung === 1 ? 'shot' : 'shots'} on free pegs.`);
  };
  return (
    <section className="space-y-2" aria-label="Lay out">
      <div className="flex items-center gap-2">
        <select
          aria-label="What to lay out"
          value={what}
          onChange={(e) => setWhat(e.target.value)}
          className="min-w-0 flex-1 rounded border border-edge bg-paper px-1.5 py-1"
        >
          {films.map((f) => (
            <option key={f.assetId} value={f.assetId}>
              {f.name.replace(/\.\w+$/, '')}, taken apart into {f.selects.length}
            </option>
          ))}
          <option value="story">all footage in story order</option>
        </select>
        <Choice
          narrow
          label="From where"
          value={at}
          options={[
            ['start', 'from the start'],
            ['playhead', 'from the playhead'],
          ]}
          onChoose={setAt}
        />
        <Button onClick={lay} disabled={run.length === 0}>
          Lay it out
        </Button>
      </div>
      <p className="text-[11.5px] text-soft">
        {run.length} shots, {seconds.toFixed(1)} s, one after the other and as long as they are; {room.toFixed(1)} s of song from there.
        {seconds > room + 0.05 && ' What goes beyond the end is left out.'}{' '}
        {films.length === 0 && 'A finished film is taken apart at its picture changes in Footage.'}
      </p>
    </section>
  );
}
