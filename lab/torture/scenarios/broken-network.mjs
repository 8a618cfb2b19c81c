import { chromium } from '@playwright/test';
import { CHROMIUM_ARGS } from '../../../scripts/chromium-args.mjs';
import { demoReady } from '../../../scripts/demo-server.mjs';
import { ensureProgram } from '../../../scripts/debian-programs.mjs';
import { ownServer } from '../../../scripts/own-server.mjs';
import { later, mustAsk, until } from '../asking.mjs';
import { Broken } from '../tally.mjs';
import { doctorSilent, idle } from '../whole.mjs';

/** Somebody edits while the network is slow, cuts off and answers nonsense; when it is well again all of it is saved. */
export const brokenNetwork = {
  name: 'broken network',
  async run({ random, folder, over, tally }) {
    const executablePath = process.env.BLUSTER_CHROMIUM ?? ensureProgram('chromium');
    if (!executablePath) throw new Broken('there is no chromium, and none could be installed');
    const server = await ownServer({ folder, args: ['--demo'] });
    const { base } = server;
    const browser = await chromium.launch({ executablePath, args: [...CHROMIUM_ARGS] });
    try {
      const project = await demoReady(base);
      const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
      const faults = [];
      page.on('pageerror', (error) => faults.push(error.message));
      let broken = false;
      await page.route(/\/api\//, async (route) => {
        const fate = broken ? random.next() : 1;
        if (fate < 0.25) return route.abort('connectionreset').catch(() => undefined);
        if (fate < 0.35) return route.fulfill({ status: 502, body: 'Bad gateway' }).catch(() => undefined);
        if (fate < 0.5) {
          // What was asked for is done, and the answer is lost on its way.
          await route.fetch().catch(() => undefined);
          return route.abort('connectionreset').catch(() => undefined);
        }
        if (fate < 0.8) await later(random.between(50, 800));
        return route.continue().catch(() => undefined);
      });
      await page.goto(`${base}/projects/${project}/finish`);
      await page.getByText('Saved').first().waitFor();
      do {
        broken = true;
        for (let i = random.between(2, 6); i > 0; i--) {
          await page.keyboard.press('Shift+T');
          await page.keyboard.type(`kite ${random.between(1, 999)}`);
          await page.keyboard.press('Tab');
          await later(random.between(50, 700));
          tally.count('edits');
        }
        broken = false;
        tally.count('breaks');
        // The page tries by itself; where it asks whether to keep mine, mine is chosen.
        await until('that what was edited is saved', async () => {
          const mine = page
            .getByRole('dialog')
            .getByRole('button', { name: /mine|this window|keep/i })
            .first();
          if (await mine.isVisible()) {
            tally.count('conflicts');
            await mine.click();
          }
          return page
            .getByText(/^Saved/)
            .first()
            .isVisible();
        });
        const shown = await page.evaluate(() => document.querySelector('main') !== null || document.body.innerText.length > 200);
        if (!shown) throw new Broken('the page is blank');
        if (faults.length > 0) throw new Broken(`the page made a mistake: ${faults[0]}`);
        const { document } = await mustAsk(base, 'GET', `/api/projects/${project}/montage`);
        await page.reload();
        await page.getByText('Saved').first().waitFor();
        const again = await mustAsk(base, 'GET', `/api/projects/${project}/montage`);
        if (JSON.stringify(document.titles) !== JSON.stringify(again.document.titles))
          throw new Broken('titles changed by loading the page again');
        tally.counts.titles = document.titles.length;
      } while (!over());
      await browser.close();
      await idle(base);
      await server.stop();
      await doctorSilent(folder);
    } finally {
      await browser.close();
    }
  },
};
