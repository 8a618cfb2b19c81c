import type { PegRule } from '@bluster/core';

/** What --every may say, and the rule it stands for. */
export const EVERY: Readonly<Record<string, PegRule>> = {
  beat: { unit: 'beat', every: 1 },
  '2': { unit: 'beat', every: 2 },
  bar: { unit: 'bar', every: 1 },
  '2bars': { unit: 'bar', every: 2 },
  '4bars': { unit: 'bar', every: 4 },
};
