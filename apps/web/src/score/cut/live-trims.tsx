import { useState } from 'react';
import { clock, frameAt, frameTime, nearestFreeMark, scoreOf } from '@bluster/core';
import { Button } from '../../interface/button.tsx';
import { player } from '../../playback/player.ts';
import { montageNow, useEditor, useMontage, type LiveTrim } from '../../document/editor.ts';
import { heardMoment } from '../../playback/heard-moment.ts';

/** Ends the shot under the playhead here, or starts the next one here; what counts is what was heard when the key went down. */
export function trimLive(how: 'endShotAt' | 'startNextAt', event?: KeyboardEvent): void {
  const { run, liveTrims, setLiveTrims } = useEditor.getState();
  const montage = montageNow();
  const { playing } = player.state;
  const frame = frameAt(heardMoment(event), montage.shape.rate);
  const slot = scoreOf(montage).slots.find((s) => frame > s.start.frame && frame < s.end.frame);
  if (!run({ do: how, frame })) return;
  const pegId = slot?.end.peg?.id ?? scoreOf(montageNow()).pegs.find((p) => p.frame === frame)?.id;
  if (pegId && playing) setLiveTrims([...liveTrims.filter((t) => t.pegId !== pegId), { pegId, frame }]);
}

function look(trim: LiveTrim): void {
  const montage = montageNow();
  const peg = scoreOf(montage).pegs.find((p) => p.id === trim.pegId);
  if (!peg) return;
  player.pause();
  player.seek(frameTime(peg.frame, montage.shape.rate) + 0.0005);
  useEditor.getState().select({ pegId: trim.pegId, slotStart: null, markIds: [] });
}

/** The cuts that were set while it played, one after the other, to be drawn to their nearest marks. */
export function LiveTrims(): React.JSX.Element | null {
  const montage = useMontage();
  const trims = useEditor((state) => state.liveTrims);
  const { run, setLiveTrims } = useEditor.getState();
  const [at, setAt] = useState(0);
  const pegs = scoreOf(montage).pegs;
  const there = trims.flatMap((trim) => {
    const peg = pegs.find((p) => p.id === trim.pegId);
    return peg ? [{ trim, peg, near: peg.mark ? null : nearestFreeMark(montage, peg.frame) }] : [];
  });
  if (there.length === 0) return null;
  const index = Math.min(at, there.length - 1);
  const { trim, peg, near } = there[index]!;
  const go = (to: number): void => {
    const next = (to + there.length) % there.length;
    setAt(next);
    look(there[next]!.trim);
  };
  const off = there.filter((t) => !t.peg.mark);
  return (
    <section
      className="mx-5 mb-1 flex items-center gap-2 rounded-md border border-gold/60 bg-paper px-2.5 py-1.5 text-[12px]"
      aria-label="Live trims"
      data-testid="live-trims"
    >
      <b className="whitespace-nowrap">
        Live trim {index + 1} of {there.length}
      </b>
      <Button tight look="quiet" aria-label="The live trim before" onClick={() => go(index - 1)}>
        ‹
      </Button>
      <Button tight look="quiet" aria-label="The next live trim" onClick={() => go(index + 1)}>
        ›
      </Button>
      <span className="figures truncate text-soft">
        {clock(frameTime(peg.frame, montage.shape.rate))} · frame {peg.frame} ·{' '}
        {near
          ? `${Math.abs(near.byFrames).toFixed(1)} frames ${near.byFrames > 0 ? 'before' : 'after'} a ${near.mark.kind}`
          : peg.mark
            ? `on a ${peg.mark.kind}`
            : 'no free mark'}
      </span>
      <span className="ml-auto" />
      <Button disabled={!near} onClick={() => run({ do: 'drawPegs', ids: [trim.pegId] })}>
        Draw to it
      </Button>
      <Button disabled={off.length === 0} onClick={() => run({ do: 'drawPegs', ids: off.map((t) => t.trim.pegId) })}>
        Draw all {off.length}
      </Button>
      <Button look="main" onClick={() => setLiveTrims([])}>
        Done
      </Button>
    </section>
  );
}
