import { describe, expect, test } from '@jest/globals';
import { carryOut, emptyMontage, FILL_DEFAULTS, footageItem, gapsOf, withGapsClosed, type Montage } from '@bluster/core';
import { nextStep, type UnderWay } from './next-step.ts';

const IDLE: UnderWay = { listening: false, song: false, footage: false };
const bare = emptyMontage();
const withSong = carryOut(bare, { do: 'setSong', assetId: 'song', name: 'gust.ogg', length: 8 });
const marked = [0, 2, 4, 6].reduce<Montage>((m, time) => carryOut(m, { do: 'addMark', kind: 'bar', time }), withSong);
const clip = (id: string, frames: number): ReturnType<typeof footageItem> =>
  footageItem(id, 'clip', `${id}.mp4`, { width: 1280, height: 720, rate: { num: 30, den: 1 }, frames });
const withFootage = carryOut(marked, { do: 'addFootage', items: [clip('dive', 90)] });
const pegged = carryOut(withFootage, { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } });
const filled = carryOut(pegged, { do: 'fill', options: FILL_DEFAULTS });

describe('what comes next', () => {
  test('an empty project: only views that wait for the song say so', () => {
    expect(nextStep('song', bare, IDLE)).toBeNull();
    expect(nextStep('footage', bare, IDLE)).toBeNull();
    for (const view of ['score', 'finish', 'export'] as const) expect(nextStep(view, bare, IDLE)?.deed).toEqual({ do: 'go', to: 'song' });
    expect(nextStep('score', bare, { ...IDLE, song: true })).toBeNull();
    expect(nextStep('footage', { ...bare, footage: withFootage.footage }, IDLE)?.deed).toEqual({ do: 'go', to: 'song' });
  });

  test('a song without marks is marked first; while it is listened to, footage can come', () => {
    expect(nextStep('song', withSong, IDLE)?.deed).toEqual({ do: 'detect' });
    expect(nextStep('score', withSong, IDLE)?.deed).toEqual({ do: 'go', to: 'song' });
    expect(nextStep('song', withSong, { ...IDLE, listening: true })?.deed).toEqual({ do: 'go', to: 'footage' });
    expect(nextStep('score', withSong, { ...IDLE, listening: true })).toBeNull();
  });

  test('then footage, then the score, where the first cut is offered', () => {
    for (const view of ['song', 'score', 'finish', 'export'] as const)
      expect(nextStep(view, marked, IDLE)?.deed).toEqual({ do: 'go', to: 'footage' });
    for (const view of ['song', 'footage', 'finish', 'export'] as const)
      expect(nextStep(view, withFootage, IDLE)?.deed).toEqual({ do: 'go', to: 'score' });
    expect(nextStep('score', withFootage, IDLE)).toBeNull();
  });

  test('empty slots are filled, what runs short is made up for, and what is done says nothing', () => {
    const half = carryOut(filled, { do: 'takeDownShot', id: filled.shots[0]!.id });
    expect(nextStep('score', pegged, IDLE)?.deed).toEqual({ do: 'fill' });
    expect(nextStep('score', half, IDLE)).toMatchObject({ says: '1 of 4 slots is empty.', button: 'Fill it' });
    const short = { ...filled, footage: [clip('dive', 20)] };
    expect(gapsOf(short).length).toBeGreaterThan(0);
    expect(nextStep('score', short, IDLE)?.deed).toEqual({ do: 'close-gaps' });
    expect(nextStep('export', short, IDLE)?.deed).toEqual({ do: 'close-gaps' });
    expect(gapsOf(withGapsClosed(short))).toEqual([]);
    for (const view of ['song', 'footage', 'score', 'finish', 'export'] as const) expect(nextStep(view, filled, IDLE)).toBeNull();
  });
});
