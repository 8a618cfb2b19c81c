import { expect, test, type Page } from '@playwright/test';
import { startedSounds, watchAudioClock, type Started } from './audio-clock.ts';
import { made, middleOf, openView, preparedProject, savedMontage, playedTo } from './stage.ts';

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

test('the keys of tapping are learned with a metre, and no mark changes', async ({ page }) => {
  const { id, montage } = await preparedProject(page.request, { name: 'Lesson', clips: [], seconds: 60 });
  await openView(page, id, 'song');
  await page.getByRole('button', { name: 'Learn', exact: true }).click();
  const lesson = page.getByTestId('tap-lesson');
  await expect(lesson.locator('[aria-current=step]')).toContainText('tap every beat');
  await page.keyboard.press('Space');
  // On the beats of the song, which come every half second, as exactly as a page can.
  for (let beat = 2; beat < 14; beat++) {
    await playedTo(page, beat / 2 + 0.02);
    await page.keyboard.press('t');
  }
  await expect(lesson.locator('[aria-current=step]')).toContainText('first beat of each bar');
  await expect(lesson.getByRole('status')).toContainText(/\d+ taps, .*half of them within \d+ ms/);
  for (let bar = 4; bar < 9; bar++) {
    await playedTo(page, bar * 2 + 0.02);
    await page.keyboard.press('y');
  }
  await expect(lesson.locator('[aria-current=step]')).toContainText('what sticks out');
  await page.keyboard.press('Space');
  await lesson.getByRole('button', { name: 'End' }).click();
  await expect(lesson).toBeHidden();
  expect(await savedMontage(page)).toEqual(montage);
});
