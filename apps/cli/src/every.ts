import type { PegRule } from '@bluster/core';

/** What --every may say, and the rule it stands for. */
export const EVERY: Readonly<Record<string, PegRule>> = {
  beat: { kind: 'pulse', unit: 'beat', every: 1 },
  '2': { kind: 'pulse', unit: 'beat', every: 2 },
  bar: { kind: 'pulse', unit: 'bar', every: 1 },
  '2bars': { kind: 'pulse', unit: 'bar', every: 2 },
  pace: { kind: 'pace', lively: 0.5, free: 0.4, seed: 1, least: 9 },
  '4bars': { kind: 'pulse', unit: 'bar', every: 4 },
};
