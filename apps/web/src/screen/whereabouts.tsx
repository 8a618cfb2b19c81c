import { useEffect, useRef } from 'react';
import { barAndBeat, clock, frameAt, toSongTime } from '@bluster/core';
import { useMontage } from '../document/editor.ts';
import { player } from '../playback/player.ts';
import { usePlayhead } from '../playback/use-player.ts';

/** Writes into the text that is there, and nothing a second time: what changes is laid out and painted, but no tree is built anew. */
function say(where: HTMLElement | null, words: string): void {
  const text = where?.firstChild;
  if (!text) where?.append(words);
  else if (text.nodeValue !== words) text.nodeValue = words;
}

/**
 * Where it is: time, bar, beat and frame. Written straight into the page, in boxes whose size does not hang on what stands in them: while it
 * plays, nothing is rendered or laid out anew for it. Each box is a layer of its own, so that nothing else is painted anew either.
 */
export function Whereabouts(): React.JSX.Element {
  const montage = useMontage();
  const time = useRef<HTMLElement>(null);
  const place = useRef<HTMLSpanElement>(null);
  const write = (seconds: number): void => {
    const at = montage.song ? barAndBeat(montage, toSongTime(montage.song.pieces, seconds)) : null;
    say(time.current, clock(seconds));
    say(place.current, `${at ? `bar ${at.bar} · beat ${at.beat} · ` : ''}frame ${frameAt(seconds, montage.shape.rate)}`);
  };
  usePlayhead(write);
  useEffect(() => write(player.time()));
  return (
    <>
      <b
        ref={time}
        className="figures mx-1 h-[18px] w-[8.5ch] text-[13px] leading-[18px] will-change-transform [contain:strict]"
        data-testid="time"
      />
      <span
        ref={place}
        className="h-[18px] min-w-0 flex-1 truncate text-[12px] leading-[18px] text-soft tabular-nums will-change-transform [contain:strict] @max-[400px]:order-last @max-[400px]:basis-full"
        data-testid="place"
      />
    </>
  );
}
