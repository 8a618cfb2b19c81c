import { framesPerSecond } from '@bluster/core';
import { useState } from 'react';
import { player } from '../playback/player.ts';
import { usePlayer, usePlayhead } from '../playback/use-player.ts';
import { useMontage } from '../document/editor.ts';
import { useChosenSlots, type FilledSlot } from './chosen-shots.ts';
import { useFinishing } from './finishing.ts';

/** The shot whose frames are drawn on the picture: the only one that is chosen, while the playhead is in it and nothing plays. */
export function useDrawnShot(): FilledSlot | null {
  const { framing, tab, part } = useFinishing();
  const { playing } = usePlayer();
  const slots = useChosenSlots();
  const fps = framesPerSecond(useMontage().shape.rate);
  const [slot] = slots;
  const [frame, setFrame] = useState(0);
  // While it plays no frames are drawn, and nothing need be drawn anew for each of its own.
  usePlayhead((time) => {
    if (!player.state.playing) setFrame(Math.floor(time * fps + 1e-3));
  });
  const inside = slot !== undefined && frame >= slot.start.frame && frame < slot.end.frame;
  return framing && tab === 'picture' && part !== 'look' && !playing && slots.length === 1 && inside ? slot : null;
}
