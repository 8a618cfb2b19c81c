import { expect, test, type Locator, type Page } from '@playwright/test';
import { axeFindings } from './accessibility.ts';
import { goToView, openView, whenSaved } from './stage.ts';

/** The lines of a view, which are looked at whole once for each view. */
const LINES = '[role="region"][tabindex="0"]';

/** Axe finds nothing on a page, by day and by night. @param except parts that were looked at already, as selectors */
async function expectFlawless(page: Page, what = 'the view', except: readonly string[] = []): Promise<void> {
  for (const theme of ['light', 'dark'] as const) {
    await page.emulateMedia({ colorScheme: theme });
    await expect(page.locator('html')).toHaveAttribute('data-theme', theme);
    expect(await axeFindings(page, theme, except), `${what}, ${theme}`).toEqual([]);
  }
}

test.describe('the demo, view by view', () => {
  // The demo is prepared once, so that one worker takes them all.
  test.describe.configure({ mode: 'default' });
  let project: string;
  test.beforeAll(async ({ request }) => {
    project = ((await (await request.post('/api/projects/demo')).json()) as { id: string }).id;
    await expect
      .poll(
        async () => {
          const assets = (await (await request.get(`/api/projects/${project}/assets`)).json()) as { state: string }[];
          return assets.filter((a) => a.state !== 'ready').length;
        },
        { timeout: 170_000 },
      )
      .toBe(0);
  });

  for (const view of ['', 'song', 'footage', 'score', 'finish', 'export'])
    test(`${view || 'projects'} by day and by night: no error in the log, and nothing that axe finds`, async ({ page }) => {
      const problems: string[] = [];
      page.on('console', (message) => message.type() === 'error' && problems.push(message.text()));
      page.on('pageerror', (error) => problems.push(error.message));
      await page.goto(view ? `/projects/${project}/${view}` : '/');
      if (view) await whenSaved(page);
      else await expect(page.getByRole('button', { name: /^Open Kite Day/ })).toBeVisible();
      await expectFlawless(page);
      expect(problems).toEqual([]);
    });

  test('where less motion is asked for, nothing moves but the montage', async ({ page }) => {
    /** How many elements there are that change their looks little by little. */
    const moving = (): Promise<number> =>
      page.evaluate(
        () =>
          [...document.querySelectorAll('*')].filter((element) => {
            const { animationName, transitionDuration } = getComputedStyle(element);
            return animationName !== 'none' || transitionDuration.split(', ').some((time) => parseFloat(time) > 0);
          }).length,
      );
    for (const view of ['song', 'footage', 'score', 'finish', 'export']) {
      await page.emulateMedia({ reducedMotion: 'no-preference' });
      await page.goto(`/projects/${project}/${view}`);
      await whenSaved(page);
      expect(await moving(), view).toBeGreaterThan(0);
      await page.emulateMedia({ reducedMotion: 'reduce' });
      expect(await moving(), view).toBe(0);
    }
  });

  test('what a montage is dressed in, by day and by night: nothing that axe finds', async ({ page }) => {
    await page.goto(`/projects/${project}/finish`);
    await expect(page.getByTestId('firing-punch').first()).toBeVisible();
    for (const tab of ['Effects', 'Cuts', 'Titles', 'Picture', 'Frame', 'Sound']) {
      if (tab === 'Cuts') await page.getByTestId('cut').nth(1).click();
      else if (tab === 'Titles') await page.getByTestId('title-strip').first().click();
      else await page.getByRole('tab', { name: tab }).click();
      await expect(page.getByRole('tab', { name: tab })).toHaveAttribute('data-state', 'active');
      await expectFlawless(page, tab, [LINES]);
    }
  });

  test('what lies beside the score, by day and by night: nothing that axe finds', async ({ page }) => {
    await page.goto(`/projects/${project}/score`);
    const look = (what: string): Promise<void> => expectFlawless(page, what, [LINES]);
    await page.getByTestId('shelf-card').nth(3).click();
    await expect(page.getByTestId('watched-frame')).toBeVisible();
    await look('Clip');
    await page.getByTestId('shot').nth(3).click();
    await expect(page.getByTestId('shot-curve')).toBeVisible();
    await look('Shot');
    for (const tab of ['Rhythm', 'Report', 'Versions']) {
      await page.getByRole('tab', { name: tab }).click();
      await look(tab);
    }
    await page.getByTestId('peg').nth(2).click();
    await expect(page.getByTestId('cut-view')).toBeVisible();
    await look('a cut');
    for (const button of ['How slots are filled', 'Pattern', 'Other rules']) {
      await page.getByRole('button', { name: button }).click();
      await look(button);
      await page.keyboard.press('Escape');
    }
    await page.getByRole('button', { name: 'More for the score' }).click();
    await page.getByRole('menuitem').first().click();
    await look('the cut that is there');
  });

  test('every action has its key listed, and can be found by name', async ({ page }) => {
    await page.goto(`/projects/${project}/score`);
    await whenSaved(page);
    await page.keyboard.press('?');
    await expect(page.getByRole('dialog')).toContainText('Hang or remove a peg at the playhead');
    await page.keyboard.press('Escape');
    await page.keyboard.press('Control+k');
    await page.keyboard.type('8 bars a');
    await page.keyboard.press('Enter');
    await expect(page.getByRole('combobox', { name: 'Bars a line' })).toHaveValue('8');
  });

  for (const [view, region, lineHeight] of [
    ['score', 'Lines of the score', 136],
    ['song', 'Lines of the song', 128],
  ] as const)
    test(`other bars a line leave what is looked at where it is in ${view}`, async ({ page }) => {
      await page.goto(`/projects/${project}/${view}`);
      const lines = page.getByRole('region', { name: region });
      const line = (bar: number): Locator => lines.getByText(`bar ${bar}`, { exact: true });
      const from = async (bar: number): Promise<number> => (await line(bar).boundingBox())!.y - (await lines.boundingBox())!.y;
      const write = async (bars: string): Promise<void> => {
        await page.keyboard.press('Control+k');
        await page.keyboard.type(`${bars} bars a`);
        await page.keyboard.press('Enter');
      };
      await expect(line(5)).toBeVisible();
      await lines.evaluate((e, y) => e.scrollTo(0, y), 3 * lineHeight);
      await expect(line(17)).toBeInViewport();
      const before = await from(13);
      expect(before).toBeLessThan(lineHeight);
      await write('2');
      await expect(line(15)).toBeVisible();
      expect(await from(13)).toBeCloseTo(before, 0);
      await write('4');
      await expect(line(15)).toHaveCount(0);
      expect(await from(13)).toBeCloseTo(before, 0);
    });

  test('the line with the playhead is in sight wherever it goes, and stays where it is while the lines are worked on', async ({ page }) => {
    await openView(page, project, 'song');
    const lines = page.getByRole('region', { name: 'Lines of the song' });
    const line = (bar: number): Locator => lines.getByText(`bar ${bar}`, { exact: true });
    const scrolled = (): Promise<number> => lines.evaluate((e) => Math.round(e.scrollTop));
    await expect(line(1)).toBeInViewport();
    await page.keyboard.press('End');
    await expect(line(29)).toBeInViewport();
    await expect(line(1)).not.toBeInViewport();
    await page.keyboard.press('Home');
    await expect(line(1)).toBeInViewport();
    // Looked at elsewhere, it is gone back to when the playhead moves, and only then.
    await lines.evaluate((e) => e.scrollTo(0, e.scrollHeight));
    await expect(line(1)).not.toBeInViewport();
    const low = await scrolled();
    await page.keyboard.press('c');
    await page.keyboard.press('c');
    expect(await scrolled()).toBe(low);
    await page.keyboard.press('Shift+ArrowRight');
    await expect(line(1)).toBeInViewport();
    // A line of which little is seen does not move away under the mouse.
    await lines.evaluate((e) => e.scrollTo(0, 100));
    const top = (await lines.boundingBox())!;
    await page.mouse.click(top.x + 400, top.y + 12);
    await expect(page.getByTestId('time')).not.toHaveText('0:00.000');
    expect(await scrolled()).toBe(100);
    // Another view begins where the playhead is.
    await page.keyboard.press('End');
    await expect(line(29)).toBeInViewport();
    const late = (await line(25).boundingBox())!;
    await page.mouse.click(late.x + 100, late.y + 60);
    await goToView(page, 'score');
    await expect(page.getByTestId('score').getByText('bar 25', { exact: true })).toBeInViewport();
  });

  test('a score that was written with other bars a line and back looks as it did', async ({ page }) => {
    await page.goto(`/projects/${project}/score`);
    const score = page.getByTestId('score');
    const lines = score.locator('[data-testid^=score-line]');
    /** How a line looks, once all its pictures are there. */
    const look = async (line: number): Promise<string> => (await lines.nth(line).screenshot()).toString('base64');
    const settled = async (): Promise<string[]> => {
      let seen: string[] = [];
      await expect
        .poll(async () => {
          const now = [await look(1), await look(2)];
          const same = now.every((picture, i) => picture === seen[i]);
          seen = now;
          return same;
        })
        .toBe(true);
      return seen;
    };
    await expect(lines).toHaveCount(7);
    await expect(page.getByTestId('shot').first()).toBeVisible();
    const before = await settled();
    const bars = page.getByLabel('Bars a line');
    for (const n of ['16', '2', '1', '8']) {
      await bars.selectOption(n);
      await expect(lines.first()).toBeVisible();
    }
    await bars.selectOption('4');
    await expect(lines).toHaveCount(7);
    await expect.poll(() => settled()).toEqual(before);
    // Each line has prints of its own, not those of the line whose canvas it took up.
    expect(before[0]).not.toBe(before[1]);
  });

  test('what is asked for ahead of the page is asked for once', async ({ page }) => {
    const asked: string[] = [];
    page.on('request', (request) => asked.push(new URL(request.url()).pathname));
    await page.goto(`/projects/${project}/score`);
    await expect(page.getByTestId('shot').first()).toBeVisible();
    for (const part of ['', '/montage', '/assets'])
      expect(asked.filter((path) => path === `/api/projects/${project}${part}`)).toHaveLength(1);
    const code = asked.filter((path) => /\/score-page-/.test(path));
    expect(code).toHaveLength(1);
    expect(asked.indexOf(`/api/projects/${project}/montage`)).toBeLessThan(asked.indexOf(code[0]!));
  });

  test('a view whose code does not come says so, and comes when the page is loaded again', async ({ page }) => {
    await page.route(/\/score-page-/, (route) => route.abort());
    await page.goto(`/projects/${project}/score`);
    await expect(page.getByRole('heading', { name: 'This view broke' })).toBeVisible();
    await page.unroute(/\/score-page-/);
    await page.getByRole('button', { name: 'Load again' }).click();
    await expect(page.getByTestId('shot').first()).toBeVisible();
  });

  test('a song on its way says so, and so does one that is cut off, until it is heard when the page is loaded again', async ({ page }) => {
    const isSong = /\/api\/assets\/[^/]+\/sound$/;
    let goOn = (): void => undefined;
    const held = new Promise<void>((done) => (goOn = done));
    await page.route(isSong, async (route) => {
      await held;
      const whole = await (await route.fetch()).body();
      return route.fulfill({ contentType: 'audio/wav', body: whole.subarray(0, whole.length / 2) });
    });
    await page.goto(`/projects/${project}/song`);
    await expect(page.getByText('The song is loading…')).toBeVisible();
    goOn();
    await page.getByRole('link', { name: /^score/i }).click();
    await expect(page.getByRole('alert')).toHaveText(
      'The song could not be loaded: Its sound was cut off on the way. Reload the page to try again.',
    );
    // It stays in sight when the lines are scrolled.
    await page.keyboard.press('End');
    await expect(page.getByText('bar 25', { exact: true })).toBeInViewport();
    await expect(page.getByRole('alert')).toBeInViewport();
    await page.unroute(isSong);
    await page.reload();
    await expect(page.getByTestId('shot').first()).toBeVisible();
    await page.keyboard.press('Space');
    await expect(page.getByTestId('screen')).not.toHaveAttribute('data-frame', /^[0-9]$/);
    await expect(page.getByRole('alert')).toHaveCount(0);
  });

  test('the demo opens marked and filled, with a gap and a slowed shot left to do', async ({ page }) => {
    await page.goto(`/projects/${project}/score`);
    await expect(page.getByRole('link', { name: /39 of 40 slots filled/ })).toBeVisible();
    await expect(page.getByTestId('shot').first()).toBeVisible();
    await page.getByTestId('score').evaluate((e) => e.scrollTo(0, e.scrollHeight));
    await expect(page.getByTestId('empty-slot')).toBeVisible();
    await page.getByTestId('score').evaluate((e) => e.scrollTo(0, e.scrollHeight / 2));
    await expect(page.getByText(/slowed \d+ %/).first()).toBeVisible();
  });
});
