import type { Metre } from './composition.ts';

// What styles are put together from: metres, how their tempo moves, and General MIDI programs.

const metre = (beats: number, unit: number, ...groups: number[]): Metre => ({ beats, unit, groups });
export const FOUR = metre(4, 1, 2, 2);
export const THREE = metre(3, 1, 3);
export const TWO = metre(2, 1, 2);
export const FIVE = metre(5, 1, 3, 2);
export const FIVE_B = metre(5, 1, 2, 3);
export const SIX = metre(6, 1, 3, 3);
export const SIX_EIGHTHS = metre(6, 0.5, 3, 3);
export const SEVEN = metre(7, 1, 4, 3);
export const SEVEN_B = metre(7, 1, 3, 4);
export const SEVEN_EIGHTHS = metre(7, 0.5, 2, 2, 3);
export const SEVEN_EIGHTHS_B = metre(7, 0.5, 3, 2, 2);
export const JIG = metre(2, 1.5, 2);
export const NINE = metre(3, 1.5, 3);
export const TWELVE = metre(4, 1.5, 2, 2);

export const MACHINE = [['machine', 1]] as const;
export const BAND = [
  ['machine', 5],
  ['drift', 4],
  ['sections', 0.7],
  ['accelerating', 0.3],
] as const;
export const FREE = [
  ['drift', 3],
  ['rubato', 5],
  ['slowing', 0.7],
  ['accelerating', 0.7],
  ['sections', 1],
  ['machine', 2],
] as const;

export const PIANOS = [0, 1, 2, 4, 5];
export const GUITARS = [24, 25, 26, 27, 28];
export const DIRTY = [29, 30, 30];
export const STRINGS = [48, 49, 50, 51, 44];
export const BASSES = [32, 33, 34, 35, 36, 37];
export const SYNTH_BASSES = [38, 39];
export const ORGANS = [16, 17, 18, 19];
export const WINDS = [64, 65, 66, 67, 68, 69, 70, 71, 72, 73, 74, 75];
export const BRASS = [56, 57, 58, 60, 61];
export const LEADS = [80, 81, 82, 83, 84, 87];
export const PADS = [88, 89, 90, 91, 92, 94, 95];
export const MALLETS = [8, 9, 10, 11, 12, 13, 14];
export const VOICES = [52, 53, 54, 85];

export const ALL_FOUR = [[FOUR, 1]] as const;
