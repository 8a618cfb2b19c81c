import { ROUTES } from '@bluster/wire/routes';
import { Play, Target, X } from 'lucide-react';
import { memo, useRef, useState } from 'react';
import { clock, type EffectSound } from '@bluster/core';
import { Button } from '../interface/button.tsx';
import { useEditor, useMontage } from '../document/editor.ts';

/** Sound effects, each with the moment that is to be heard on a mark. */
export const SoundsShelf = memo(function SoundsShelf(): React.JSX.Element | null {
  const { sounds } = useMontage();
  if (sounds.length === 0) return null;
  return (
    <section className="max-h-36 shrink-0 overflow-y-auto border-t border-edge bg-paper px-5 py-2" aria-label="Sounds">
      <h2 className="mb-1 text-[12px] font-semibold">
        Sounds <span className="figures text-soft">{sounds.length}</span>
      </h2>
      <ul className="grid grid-cols-2 gap-x-6 gap-y-1">
        {sounds.map((s) => (
          <Sound key={s.assetId} sound={s} />
        ))}
      </ul>
    </section>
  );
});

function Sound({ sound }: { sound: EffectSound }): React.JSX.Element {
  const audio = useRef<HTMLAudioElement>(null);
  const [at, setAt] = useState(0);
  const { run } = useEditor.getState();
  return (
    <li className="flex items-center gap-2 text-[12px]" data-testid="sound">
      <audio
        ref={audio}
        src={ROUTES.assetPart(sound.assetId, 'sound')}
        preload="metadata"
        onTimeUpdate={(e) => setAt(e.currentTarget.currentTime)}
      />
      <Button
        look="quiet"
        tight
        aria-label={`Play ${sound.name}`}
        onClick={() => {
          if (!audio.current) return;
          audio.current.currentTime = 0;
          void audio.current.play();
        }}
      >
        <Play size={12} fill="currentColor" />
      </Button>
      <span className="min-w-0 flex-1 truncate" title={sound.name}>
        {sound.name.replace(/\.\w+$/, '')}
      </span>
      <input
        type="range"
        aria-label={`Hit of ${sound.name}, seconds`}
        min={0}
        max={sound.length}
        step={0.005}
        value={sound.hit}
        onChange={(e) => run({ do: 'setSoundHit', assetId: sound.assetId, hit: Number(e.target.value) })}
        className="w-24 accent-coral"
      />
      <Button
        look="quiet"
        tight
        hint="Its hit is what is heard now"
        aria-label={`Set the hit of ${sound.name} here`}
        onClick={() => run({ do: 'setSoundHit', assetId: sound.assetId, hit: at })}
      >
        <Target size={12} />
      </Button>
      <span className="figures w-[4.5rem] text-coral-text">{clock(sound.hit)}</span>
      <Button look="quiet" tight aria-label={`Remove ${sound.name}`} onClick={() => run({ do: 'removeSounds', assetIds: [sound.assetId] })}>
        <X size={12} />
      </Button>
    </li>
  );
}
