import type { Slot } from '@bluster/core';

/** How long a slot is, in words. */
export const secondsWords = (slot: Slot): string => `${slot.length.toFixed(2)} s`;
