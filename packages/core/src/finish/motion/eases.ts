/** How a movement runs between its start and its end: at each part of its time, how far it has come. */
export const EASES = {
  even: { title: 'even', at: (part: number): number => part },
  out: { title: 'out', at: (part: number): number => 1 - (1 - part) ** 3 },
  'in-and-out': { title: 'in and out', at: (part: number): number => part * part * (3 - 2 * part) },
  in: { title: 'in', at: (part: number): number => part ** 3 },
} as const;

export type Ease = keyof typeof EASES;
export const EASE_NAMES = Object.keys(EASES) as [Ease, ...Ease[]];
