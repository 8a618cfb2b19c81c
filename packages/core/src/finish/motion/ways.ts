/** Directions on the screen that something may go to. */
export const WAYS = {
  left: { title: 'to the left', x: -1, y: 0 },
  right: { title: 'to the right', x: 1, y: 0 },
  up: { title: 'upwards', x: 0, y: -1 },
  down: { title: 'downwards', x: 0, y: 1 },
} as const;

export type Way = keyof typeof WAYS;
export const WAY_NAMES = Object.keys(WAYS) as [Way, ...Way[]];
