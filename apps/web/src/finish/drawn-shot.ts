import { framesPerSecond } from '@bluster/core';
import { useSyncExternalStore } from 'react';
import { player } from '../playback/player.ts';
import { useMontage } from '../document/editor.ts';
import { useChosenSlots, type FilledSlot } from './chosen-shots.ts';
import { useFinishing } from './finishing.ts';

/**
 * What is to be said of the frame that is looked at, counted from 0, while nothing plays; null while it plays. Drawn anew is only what
 * that is another for, and not all that stands beside it at each step to the next frame.
 * @param say a value that compares by ===
 */
export function useStill<T extends number | boolean>(say: (frame: number) => T): T | null {
  const fps = framesPerSecond(useMontage().shape.rate);
  return useSyncExternalStore(player.subscribe, () => (player.state.playing ? null : say(Math.floor(player.time() * fps + 1e-3))));
}

/** The only shot that is chosen, while the playhead is in it and nothing plays. */
function useOnlyInSight(): FilledSlot | null {
  const slots = useChosenSlots();
  const [slot] = slots;
  const inside = useStill((frame) => slot !== undefined && frame >= slot.start.frame && frame < slot.end.frame);
  return slot && slots.length === 1 && inside ? slot : null;
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
