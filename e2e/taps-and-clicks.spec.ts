import { readFileSync } from 'node:fs';
import { expect, test, type Page } from '@playwright/test';
import { pulse, readMarks } from '@bluster/core';
import { median } from '@bluster/core/music/median';
import { startedSounds, watchAudioClock, type Started } from './audio-clock.ts';
import { demoFile, made, middleOf, openView, preparedProject, savedMontage, playedTo } from './stage.ts';
import { detected, pressAlong, tapAlong, watchKeys, type KeySeen } from './tapping.ts';

const SONG = demoFile('gust-on-the-down.ogg');
const CLIPS = [made.clip('one', { frames: 150, fps: '30' })];

async function play(page: Page): Promise<Started> {
  await page.keyboard.press('Home');
  await page.keyboard.press('Space');
  await playedTo(page, 1);
  // The song is the one long sound.
  return (await startedSounds(page)).filter((s) => s.length > 5).at(-1)!;
}

interface TapSeen {
  /** the event's own time stamp, page ms */
  readonly event: number;
  readonly contextTime: number;
  readonly performanceTime: number;
}

test('a tap is where the song was heard when the key went down, however late its handler runs', async ({ page }) => {
  const { id, montage } = await preparedProject(page.request, { name: 'Taps', clips: CLIPS });
  await watchAudioClock(page);
  // A busy page: before the application hears of a key 120 ms go by.
  await page.addInitScript(() => {
    const seen: TapSeen[] = [];
    Object.assign(globalThis, { tapsSeen: seen });
    for (const type of ['keydown', 'pointerdown'])
      addEventListener(
        type,
        (event) => {
          const context = (globalThis as unknown as { lastContext?: AudioContext }).lastContext;
          const key = (event as KeyboardEvent).key;
          if (!context || (type === 'keydown' && !['t', 'y', 'u'].includes(key))) return;
          const stamp = context.getOutputTimestamp();
          seen.push({ event: event.timeStamp, contextTime: stamp.contextTime!, performanceTime: stamp.performanceTime! });
          const until = performance.now() + 120;
          while (performance.now() < until);
        },
        true,
      );
  });
  await openView(page, id, 'song');
  await page.getByRole('radio', { name: 'as tapped' }).click();
  const song = await play(page);
  const pad = await middleOf(page, '[data-testid=tap-pad]');
  await page.keyboard.press('t');
  await page.keyboard.press('y');
  await page.mouse.click(pad.x, pad.y);
  await page.keyboard.press('u');
  await page.keyboard.press('Space');

  const seen = (await page.evaluate(() => (globalThis as unknown as { tapsSeen: TapSeen[] }).tapsSeen)).filter((s) => s.contextTime > 0);
  const known = new Set(montage.marks.map((m) => m.id));
  const taps = (await savedMontage(page)).marks.filter((m) => !known.has(m.id)).sort((a, b) => a.time - b.time);
  expect(taps.map((m) => m.kind)).toEqual(['beat', 'bar', 'beat', 'drop']);
  expect(taps.every((m) => m.origin === 'tapped')).toBe(true);
  expect(seen).toHaveLength(4);
  for (const [i, { event, contextTime, performanceTime }] of seen.entries()) {
    const heard = contextTime + (event - performanceTime) / 1000 - song.when + song.offset;
    expect(Math.abs(taps[i]!.time - heard)).toBeLessThan(0.02);
  }
});

test('clicks lie on the marks to the sample, round a loop too', async ({ page }) => {
  const { id, montage } = await preparedProject(page.request, { name: 'Clicks', clips: CLIPS });
  await watchAudioClock(page);
  await openView(page, id, 'song');
  await page.keyboard.press('c');
  await page.keyboard.press('r'); // the first line, 8 s, round and round
  await play(page);
  await expect
    .poll(async () => (await startedSounds(page)).filter((s) => s.length > 5).length, { message: 'the loop comes round' })
    .toBeGreaterThan(1);
  await expect(page.getByTestId('time')).toHaveText(/^0:0[1-3]/);
  await page.keyboard.press('Space');

  const sounds = await startedSounds(page);
  const passes = sounds.filter((s) => s.length > 5);
  const clicks = sounds.filter((s) => s.length < 0.1);
  expect(clicks.length).toBeGreaterThan(14);
  expect(passes[1]!.when - passes[0]!.when).toBeCloseTo(8, 6);
  for (const click of clicks) {
    const pass = passes.findLast((p) => p.when <= click.when + 1e-9)!;
    const time = click.when - pass.when + pass.offset;
    const nearest = Math.min(...montage.marks.map((m) => Math.abs(m.time - time)));
    expect(nearest).toBeLessThan(1 / 44100);
  }
});

/** Taps when the playhead comes to certain moments, seconds below a minute; in the page itself, so that a busy machine delays none. */
const tapAt = (page: Page, times: readonly number[]): Promise<void> =>
  page.evaluate(async (moments) => {
    const now = (): number => Number(/:([\d.]+)/.exec(document.querySelector('[data-testid=time]')!.textContent)![1]);
    for (const moment of moments) {
      await new Promise<void>((done) => {
        const look = (): void => (now() >= moment ? done() : void requestAnimationFrame(look));
        look();
      });
      for (const type of ['keydown', 'keyup'])
        document.body.dispatchEvent(new KeyboardEvent(type, { key: 't', code: 'KeyT', bubbles: true }));
    }
  }, times);

test('a steady lateness is taken off the pass in which it was noticed, and off no earlier one', async ({ page }) => {
  const onsets = Array.from({ length: 30 }, (_, i) => i * 0.5);
  const { id } = await preparedProject(page.request, {
    name: 'Late taps',
    clips: CLIPS,
    then: (m) => [
      { do: 'removeMarks', ids: m.marks.map((mark) => mark.id) },
      { do: 'takeMarking', marking: { marks: onsets.map((time) => ({ kind: 'accent', time, band: 'low', strength: 0.9 })), sections: [] } },
    ],
  });
  await openView(page, id, 'song');
  const tapped = async (): Promise<{ id: string; time: number }[]> =>
    (await savedMontage(page)).marks.filter((m) => m.origin !== 'file').sort((a, b) => a.time - b.time);
  await page.getByRole('radio', { name: 'to onset' }).click();
  await page.keyboard.press('Space');
  await tapAt(page, [1, 1.5, 2, 2.5, 3]);
  await page.keyboard.press('Space');
  const good = await tapped();
  expect(good).toHaveLength(5);

  await page.getByRole('radio', { name: 'as tapped' }).click();
  await page.keyboard.press('Space');
  await tapAt(
    page,
    [5, 5.5, 6, 6.5, 7, 7.5, 8, 8.5, 9].map((t) => t + 0.07),
  );
  await page.keyboard.press('Space');
  await expect(page.getByTestId('noticed')).toContainText('late');
  const before = await tapped();
  await page.getByRole('button', { name: 'Move them' }).click();
  const after = await tapped();
  expect(after.slice(0, 5)).toEqual(good);
  const moves = after.slice(5).map((m, i) => before[i + 5]!.time - m.time);
  expect(moves).toHaveLength(9);
  for (const by of moves) expect(by).toBeCloseTo(moves[0]!, 9);
  expect(moves[0]).toBeGreaterThan(0.04);
});

/** Presses P at a moment of the beat, given in seconds after it, as the transport shows the time that is heard. */
async function pressOnBeat(page: Page, from: number, to: number): Promise<void> {
  await page.evaluate(
    ([a, b]) =>
      new Promise<void>((pressed) => {
        const look = (): void => {
          const [, minutes, seconds] = /(\d+):([\d.]+)/.exec(document.querySelector('[data-testid=time]')!.textContent)!;
          const after = (Number(minutes) * 60 + Number(seconds)) % 0.5;
          if (after < a! || after > b!) return void requestAnimationFrame(look);
          document.body.dispatchEvent(new KeyboardEvent('keydown', { key: 'p', code: 'KeyP', bubbles: true }));
          document.body.dispatchEvent(new KeyboardEvent('keyup', { key: 'p', code: 'KeyP', bubbles: true }));
          pressed();
        };
        look();
      }),
    [from, to],
  );
}

test('live cuts: P hangs a peg while it plays, on the beat that is heard, or free between beats', async ({ page }) => {
  const { id } = await preparedProject(page.request, { name: 'Live', clips: CLIPS });
  await openView(page, id, 'score');
  await page.keyboard.press('Space');
  await playedTo(page, 1);
  await pressOnBeat(page, 0, 0.08);
  await expect(page.getByTestId('peg')).toHaveCount(1);
  await pressOnBeat(page, 0.22, 0.28);
  await expect(page.getByTestId('peg')).toHaveCount(2);
  await expect(page.getByRole('button', { name: 'Pause', exact: true })).toBeVisible();
  await page.keyboard.press('Space');
  const { pegs, marks } = await savedMontage(page);
  expect(marks.find((m) => m.id === pegs[0]!.markId)!.time).toBeGreaterThan(0.9);
  expect(pegs[1]!.markId).toBeNull();
  expect(pegs[1]!.time).toBeGreaterThan(1);
});

test('taps are calibrated with clicks, and come out within 15 ms of their true times', async ({ page }) => {
  const { id } = await preparedProject(page.request, { name: 'Calibration', clips: [], song: SONG });
  await watchAudioClock(page);
  const keys = await watchKeys(page);
  await openView(page, id, 'song');
  await page.getByRole('button', { name: 'Calibrate…' }).click();
  await page.getByRole('button', { name: 'Start the clicks' }).click();
  await expect(page.getByTestId('calibration-pad')).toBeVisible();
  const clicks = (await startedSounds(page)).filter((s) => s.length < 0.1).map((s) => s.when);
  expect(clicks).toHaveLength(16);
  // A person who is 60 ms late, each time.
  const LATE_MS = 60;
  await pressAlong(page, 't', clicks.slice(2), LATE_MS);
  await expect(page.getByTestId('calibration-result')).toBeVisible();
  await page.getByRole('button', { name: 'Take it off every tap' }).click();
  const taps = (await keys()).filter((k) => k.key === 't');
  const heard = (k: KeySeen): number => k.contextTime + (k.event - k.performanceTime) / 1000;
  const late = median(
    taps.slice(1).map((k) => heard(k) - clicks.reduce((a, b) => (Math.abs(b - heard(k)) < Math.abs(a - heard(k)) ? b : a))),
  )!;
  expect(late).toBeGreaterThan(0.05);
  const shown = Number(/lateness (\d+)/.exec((await page.getByTestId('lateness').textContent())!)![1]);
  expect(Math.abs(shown - late * 1000)).toBeLessThan(8);

  await page.getByRole('radio', { name: 'as tapped' }).click();
  const before = new Set((await savedMontage(page)).marks.map((m) => m.id));
  const origin = await tapAlong(
    page,
    't',
    [2.3, 3.1, 3.9, 4.6].map((t) => t + LATE_MS / 1000),
  );
  const marks = (await savedMontage(page)).marks.filter((m) => !before.has(m.id));
  const own = (await keys()).filter((k) => k.key === 't').slice(-4);
  expect(marks).toHaveLength(4);
  for (const [i, k] of own.entries()) expect(Math.abs(marks[i]!.time - (heard(k) - origin - late))).toBeLessThan(0.015);
});

test('the first four beats teach half the tempo, over the whole song and on the attacks', async ({ page }) => {
  const { id } = await preparedProject(page.request, { name: 'Teaching', clips: [], song: SONG });
  await watchAudioClock(page);
  await openView(page, id, 'song');
  const found = await detected(page);
  expect(pulse(found).length).toBeGreaterThan(100);
  await page.getByRole('radio', { name: 'teach' }).click();
  const truth = readMarks('beats.txt', readFileSync(SONG.replace('.ogg', '.beats.txt'))).marks.map((m) => m.time);
  const taught = truth.filter((_, i) => i % 2 === 1);
  await tapAlong(page, 't', taught.slice(0, 4));
  await expect(page.getByTestId('beat-count')).toHaveText(/^(5|6)\d$/);
  const beats = pulse(await savedMontage(page)).map((m) => m.time);
  const near = taught.map((t) => Math.min(...beats.map((b) => Math.abs(b - t))));
  expect(near.filter((d) => d < 0.03).length / taught.length).toBeGreaterThan(0.9);
  expect(median(near)).toBeLessThan(0.008);
  // One step back, and what was detected is there again.
  await page.keyboard.press('Control+z');
  expect(pulse(await savedMontage(page))).toEqual(pulse(found));
});

test('half speed keeps the pitch, and what is heard stays in step with the playhead', async ({ page }) => {
  const { id } = await preparedProject(page.request, { name: 'Slow', clips: [] });
  await watchAudioClock(page);
  await openView(page, id, 'song');
  await page.keyboard.press('h');
  await expect(page.getByRole('radio', { name: 'half' })).toBeChecked();
  await page.keyboard.press('c');
  await page.keyboard.press('Home');
  await page.keyboard.press('Space');
  await playedTo(page, 2);
  await page.keyboard.press('Space');
  const sounds = await startedSounds(page);
  const clicks = sounds.filter((s) => s.length < 0.1).map((s) => s.when);
  const gaps = clicks.slice(1).map((when, i) => when - clicks[i]!);
  // Beats are half a second apart in the song, a second in what is heard.
  for (const gap of gaps) expect(gap).toBeCloseTo(1, 3);
  const slow = sounds.filter((s) => s.length > 3);
  expect(slow.length).toBeGreaterThan(0);
  expect(slow[0]!.length).toBeCloseTo(2 * 2.02, 1);
});
