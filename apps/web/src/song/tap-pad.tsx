import { useEffect, useState } from 'react';
import type { TapKind } from '@bluster/core';
import { Key } from '../interface/key.tsx';
import { usePlayer } from '../playback/use-player.ts';
import { takeTap } from '../project/actions.ts';
import { useMontage } from '../project/editor.ts';

/** A pad to tap on with mouse or finger, and what the keys do. */
export function TapPad(): React.JSX.Element {
  const { playing } = usePlayer();
  const montage = useMontage();
  const [last, setLast] = useState<{ kind: TapKind; at: number | null } | null>(null);
  const [kind, setKind] = useState<TapKind>('beat');
  useEffect(() => {
    const heard = (event: Event): void => setLast((event as CustomEvent<{ kind: TapKind; at: number | null }>).detail);
    addEventListener('bluster-tap', heard);
    return () => removeEventListener('bluster-tap', heard);
  }, []);
  const tapped = montage.marks.filter((m) => m.origin === 'tapped').length;
  const said = !playing ? 'Play the song, then tap along' : last?.at != null ? `${last.kind} at ${last.at.toFixed(3)} s` : 'Tap along';
  return (
    <div>
      <button
        type="button"
        data-testid="tap-pad"
        className="w-full touch-none rounded-xl border border-b-[3px] border-edge bg-paper px-4 py-4 text-center select-none active:translate-y-px active:border-b"
        onPointerDown={(event) => setLast({ kind, at: takeTap(kind, event.timeStamp) })}
        aria-label={`Tap a ${kind}`}
      >
        <span className="block text-[22px] font-bold">Tap</span>
        <span className="mt-1 block text-[13px] text-soft">
          <Key>T</Key> beat <Key>Y</Key> bar <Key>U</Key> drop
        </span>
        <span className="figures mt-1.5 block text-[11px] text-spruce">
          {said}
          {tapped > 0 && ` · ${tapped} tapped`}
        </span>
      </button>
      <p className="mt-2 flex items-center gap-3 text-[12px] text-soft">
        The pad taps a
        {(['beat', 'bar', 'drop'] as const).map((k) => (
          <label key={k} className="flex items-center gap-1 text-ink">
            <input type="radio" name="pad" checked={kind === k} onChange={() => setKind(k)} className="accent-spruce" /> {k}
          </label>
        ))}
      </p>
    </div>
  );
}
