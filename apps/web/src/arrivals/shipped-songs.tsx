import { Pause, Play } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import useSWR from 'swr';
import { shortClock } from '@bluster/core';
import type { ShippedSongAnswer } from '@bluster/wire';
import { ROUTES } from '@bluster/wire/routes';
import { Button } from '../interface/button.tsx';

/** How fast a song is, in a word; beats a minute. */
const PACES = [
  [100, 'slow'],
  [135, 'moving'],
] as const;
const paceOf = (bpm: number): string => PACES.find(([below]) => bpm < below)?.[1] ?? 'fast';

/** The made-up songs that come with Bluster: each can be heard, and taken. Nothing where none ship. */
export function ShippedSongs({ taking, onTake }: { taking: string | null; onTake: (id: string) => void }): React.JSX.Element | null {
  const { data, error, mutate } = useSWR<ShippedSongAnswer[], Error>(ROUTES.songs(), { revalidateOnFocus: false });
  const sound = useRef<HTMLAudioElement>(null);
  const [heard, setHeard] = useState<string | null>(null);
  useEffect(() => {
    const audio = sound.current;
    if (!audio || heard === null) return;
    audio.src = ROUTES.songSound(heard);
    // A song that is stopped before it began is no fault.
    audio.play().catch(() => setHeard(null));
    return () => audio.pause();
  }, [heard]);
  if (error)
    return (
      <p role="alert" className="text-coral-text">
        {error.message}{' '}
        <button className="underline" onClick={() => void mutate()}>
          Try again
        </button>
      </p>
    );
  if (!data) return <div className="h-48 animate-pulse rounded-lg bg-cloth-2" />;
  if (data.length === 0) return null;
  return (
    <section aria-label="Songs that come with Bluster" className="text-left">
      <p className="mb-1.5 text-[13px] text-soft">No song at hand? These are made up, and yours to use.</p>
      <audio ref={sound} onEnded={() => setHeard(null)} className="hidden" />
      <ul className="divide-y divide-edge rounded-lg border border-edge bg-paper">
        {data.map(({ id, title, mood, bpm, length }) => (
          <li key={id} className="flex items-center gap-2.5 px-2 py-1.5">
            <Button
              look="quiet"
              tight
              aria-label={heard === id ? `Stop ${title}` : `Hear ${title}`}
              onClick={() => setHeard(heard === id ? null : id)}
            >
              {heard === id ? <Pause size={14} /> : <Play size={14} />}
            </Button>
            <span className="min-w-0 flex-1">
              <span className="block truncate text-[13px] font-medium">{title}</span>
              <span className="block truncate text-[11.5px] text-soft">{mood}</span>
            </span>
            <span className="figures shrink-0 text-[11.5px] text-soft">
              {paceOf(bpm)} · {shortClock(length)}
            </span>
            <Button disabled={taking !== null} onClick={() => onTake(id)} aria-label={`Take ${title}`}>
              {taking === id ? 'Taking…' : 'Take it'}
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}
