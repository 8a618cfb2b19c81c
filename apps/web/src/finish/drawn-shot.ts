import { framesPerSecond } from '@bluster/core';
import { useState } from 'react';
import { player } from '../playback/player.ts';
import { usePlayer, usePlayhead } from '../playback/use-player.ts';
import { useMontage } from '../document/editor.ts';
import { useChosenSlots, type FilledSlot } from './chosen-shots.ts';
import { useFinishing } from './finishing.ts';

/** The frame of the montage that is looked at while nothing plays, counted from 0; null while it plays. */
export function useStillFrame(): number | null {
  const { playing } = usePlayer();
  const fps = framesPerSecond(useMontage().shape.rate);
  const [frame, setFrame] = useState(0);
  // While it plays nothing is drawn on the picture, and nothing need be drawn anew for each of its frames.
  usePlayhead((time) => {
    if (!player.state.playing) setFrame(Math.floor(time * fps + 1e-3));
  });
  return playing ? null : frame;
}

/** The only shot that is chosen, while the playhead is in it and nothing plays. */
function useOnlyInSight(): FilledSlot | null {
  const frame = useStillFrame();
  const slots = useChosenSlots();
  const [slot] = slots;
  const inside = slot !== undefined && frame !== null && frame >= slot.start.frame && frame < slot.end.frame;
  return slots.length === 1 && inside ? slot : null;
}

/** The shot whose frames are drawn on the picture: the only one that is chosen, while the playhead is in it and nothing plays. */
export function useDrawnShot(): FilledSlot | null {
  const { framing, tab, part } = useFinishing();
  const slot = useOnlyInSight();
  return framing && tab === 'picture' && part !== 'look' && part !== 'over' ? slot : null;
}

/** The picture in the picture that is placed on the screen: the only cutaway that is chosen, while it is in sight and nothing plays. */
export function useDrawnInset(): FilledSlot | null {
  const { tab, part } = useFinishing();
  const slot = useOnlyInSight();
  return tab === 'picture' && part === 'over' && slot?.placed.shot.inset ? slot : null;
}
