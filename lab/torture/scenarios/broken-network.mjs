import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { CHROMIUM_ARGS } from '../../../scripts/chromium-args.mjs';
import { ensureProgram } from '../../../scripts/debian-programs.mjs';
import { ownServer } from '../../../scripts/own-server.mjs';
import { later, mustAsk, until } from '../asking.mjs';
import { filledProject } from '../filled-project.mjs';
import { Ledger } from '../ledger.mjs';
import { Broken } from '../tally.mjs';
import { doctorSilent, idle } from '../whole.mjs';

/** Somebody edits while the network is slow, cuts off and answers nonsense; when it is well again all of it is saved. */
export const brokenNetwork = {
  name: 'broken network',
  async run({ random, material, folder, over, tally }) {
    const executablePath = process.env.BLUSTER_CHROMIUM ?? ensureProgram('chromium');
    if (!executablePath) throw new Broken('there is no chromium, and none could be installed');
    const server = await ownServer({ folder });
    const { base } = server;
    const browser = await chromium.launch({ executablePath, args: [...CHROMIUM_ARGS] });
    try {
      const ledger = new Ledger();
      const project = await filledProject(base, ledger, 'Cut off', material.small);
      /** how many titles the page says that there are */
      const titles = async () => Number(/(\d+) titles?/.exec((await page.locator('header').first().textContent()) ?? '')?.[1] ?? 0);
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
        // The page tries by itself. Nobody else edits: what it takes for another's work is its own.
        await until('that what was edited is saved', async () => {
          if (await page.getByText('This project was changed in another window').isVisible())
            throw new Broken('the page takes its own save, whose answer was lost, for that of another window');
          return page
            .getByText(/^Saved/)
            .first()
            .isVisible();
        });
        const shown = await page.evaluate(() => document.querySelector('main') !== null || document.body.innerText.length > 200);
        if (!shown) throw new Broken('the page is blank');
        if (faults.length > 0) throw new Broken(`the page made a mistake: ${faults[0]}`);
        const { document } = await mustAsk(base, 'GET', `/api/projects/${project}/montage`);
        const written = await titles();
        if (document.titles.length !== written) throw new Broken(`${written} titles were written, and ${document.titles.length} are saved`);
        await page.reload();
        await page.getByText('Saved').first().waitFor();
        const again = await mustAsk(base, 'GET', `/api/projects/${project}/montage`);
        if (JSON.stringify(document.titles) !== JSON.stringify(again.document.titles))
          throw new Broken('titles changed by loading the page again');
      } while (!over());
      await browser.close();
      await idle(base);
      await server.stop();
      await doctorSilent(folder);
    } catch (error) {
      // What somebody would have seen then.
      for (const page of browser.contexts().flatMap((context) => context.pages()))
        await page.screenshot({ path: join(folder, 'page.png') }).catch(() => undefined);
      throw error;
    } finally {
      await browser.close();
    }
  },
};
