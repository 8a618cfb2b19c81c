/* global document, requestAnimationFrame */
// A score of 2,000 slots and a shelf of 500 clips in headless Chromium at 1280x800: opening, scrolling, writing the score
// anew, editing, searching. Frames are those in which the page could have drawn, against as long a time at rest.
import { chromium } from '@playwright/test';
import { ensureProgram } from '../../scripts/debian-programs.mjs';
import { CHROMIUM_ARGS } from '../../scripts/chromium-args.mjs';
import { crowdedServer } from './crowd.mjs';
import { dressedThroughout } from './dressed-throughout.mjs';

const SCROLL_PX_A_S = 1200;
const SCROLL_S = 4;

/** Frames a second while an element scrolls at an even speed, and while nothing moves. */
function scrolled(element, { speed, seconds }) {
  const run = (by) =>
    new Promise((done) => {
      let frames = 0;
      const from = performance.now();
      const top = element.scrollTop;
      const next = (now) => {
        frames++;
        const spent = (now - from) / 1000;
        if (by) element.scrollTop = top + spent * by;
        if (spent < seconds) requestAnimationFrame(next);
        else done(frames / spent);
      };
      requestAnimationFrame(next);
    });
  return run(0).then(async (idle) => ({ idle, moving: await run(speed) }));
}

/** Milliseconds from a control's new value until the frame that shows it is drawn. */
function toPaint(control, value) {
  const from = performance.now();
  Object.getOwnPropertyDescriptor(Object.getPrototypeOf(control), 'value')?.value?.set?.call(control, value);
  control.dispatchEvent(new Event('input', { bubbles: true }));
  return new Promise((done) => {
    // A message that is posted just before the page is drawn arrives when it has been.
    const { port1, port2 } = new MessageChannel();
    port1.onmessage = () => done(performance.now() - from);
    requestAnimationFrame(() => port2.postMessage(null));
  });
}

/** Milliseconds from a choice of bars a line until the frame is drawn that shows all the lines in sight so written. */
function writtenAnew(control, value) {
  const score = document.querySelector('[data-testid=score]');
  const before = score?.scrollHeight;
  const from = performance.now();
  Object.getOwnPropertyDescriptor(Object.getPrototypeOf(control), 'value')?.value?.set?.call(control, value);
  control.dispatchEvent(new Event('change', { bubbles: true }));
  return new Promise((done) => {
    const { port1, port2 } = new MessageChannel();
    port1.onmessage = () => done(performance.now() - from);
    const bottom = (element) => element.getBoundingClientRect().bottom;
    const written = () =>
      score !== null &&
      score.scrollHeight !== before &&
      [...score.querySelectorAll('[data-testid^=score-line]')].some((line) => bottom(line) >= bottom(score));
    const look = () => (written() ? port2.postMessage(null) : requestAnimationFrame(look));
    requestAnimationFrame(look);
  });
}

/** Frames a second while the score is written with other bars a line twice a second, through all of them. */
function zoomed(control) {
  const value = Object.getOwnPropertyDescriptor(Object.getPrototypeOf(control), 'value');
  const steps = ['8', '16', '8', '4', '2', '1', '2', '4'];
  return new Promise((done) => {
    let frames = 0;
    let step = 0;
    const from = performance.now();
    const next = (now) => {
      frames++;
      if (now - from > step * 500) {
        if (step === steps.length) return done((frames * 1000) / (now - from));
        value?.set?.call(control, steps[step++]);
        control.dispatchEvent(new Event('change', { bubbles: true }));
      }
      requestAnimationFrame(next);
    };
    requestAnimationFrame(next);
  });
}

/**
 * Notes after how many milliseconds from the start of the navigation, by the page's own clock, the first frame was drawn in
 * which the prints can be taken hold of and the screen shows the montage.
 */
function watchOpening() {
  const look = () => {
    const there = document.querySelector('[data-testid=shot]') && document.querySelector('[data-testid=screen][data-frame="0"]');
    if (there) globalThis.openedAfter = performance.now();
    else requestAnimationFrame(look);
  };
  look();
}

/** Until nothing is loaded, decoded or drawn any more: the song is long. */
async function atRest(page) {
  await page.waitForLoadState('networkidle');
  for (let i = 0; i < 30; i++) {
    const busy = await page.evaluate(async () => {
      const from = performance.now();
      for (let frames = 0; frames < 60; frames++) await new Promise(requestAnimationFrame);
      return performance.now() - from > 1050;
    });
    if (!busy) return;
  }
}

const middle = (list) => [...list].sort((a, b) => a - b)[list.length >> 1];

export async function benchScreens() {
  const executablePath = ensureProgram('chromium');
  if (!executablePath) throw new Error('no Chromium');
  const { base, change, stop } = await crowdedServer();
  const browser = await chromium.launch({ executablePath, args: [...CHROMIUM_ARGS] });
  const found = [];
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.addInitScript(watchOpening);
    const opened = async () => {
      await page.goto(`${base}/score`);
      return (await page.waitForFunction(() => globalThis.openedAfter)).jsonValue();
    };
    const first = await opened();
    const again = [];
    for (let i = 0; i < 3; i++) {
      // What the page before has begun to decode the browser decodes to its end.
      await atRest(page);
      again.push(await opened());
    }
    found.push({ what: 'opening the score of 2,000 slots, middle of 3', value: middle(again), unit: ' ms', limit: 1500 });
    found.push({ what: 'opening it the first time after the browser started', value: first, unit: ' ms' });
    await atRest(page);
    const how = { speed: SCROLL_PX_A_S, seconds: SCROLL_S };
    const score = page.getByTestId('score');
    const scroll = async (what, locator) => {
      const { idle, moving } = await locator.evaluate(scrolled, how);
      found.push({ what: `${what}, frames a second`, value: moving, unit: '', least: 55 });
      found.push({ what: `${what}, as a share of those at rest`, value: moving / idle, unit: 'x' });
    };
    await scroll('score scrolled at 1,200 px/s', score);
    await score.evaluate((e) => e.scrollTo(0, 0));
    await scroll('the same stretch again', score);
    const bars = page.getByLabel('Bars a line');
    for (const n of [8, 16, 4])
      found.push({ what: `the score anew with ${n} bars a line`, value: await bars.evaluate(writtenAnew, String(n)), unit: ' ms' });
    found.push({ what: 'score zoomed two steps a second, frames a second', value: await bars.evaluate(zoomed), unit: '', least: 55 });
    await scroll('shelf beside the score', page.getByTestId('shelf'));
    await page.goto(`${base}/footage`);
    await page.getByTestId('footage-card').first().waitFor();
    await atRest(page);
    await scroll('shelf of 500 in Footage', page.getByTestId('story-board'));
    await page.getByTestId('story-board').evaluate((e) => e.scrollTo(0, 0));
    await atRest(page);
    const times = [];
    for (let round = 0; round < 3; round++)
      for (const letters of ['k', 'ki', 'kid', 'kids', '', 'd', 'dr', 'dru', 'drum'])
        times.push(await page.getByRole('searchbox').evaluate(toPaint, letters));
    times.sort((a, b) => a - b);
    found.push({ what: 'search among 500, key to paint, middle of 27', value: middle(times), unit: ' ms', limit: 50 });
    found.push({ what: 'nine in ten of them are faster than', value: times[Math.floor(times.length * 0.9)], unit: ' ms', limit: 50 });
    found.push({ what: 'the slowest of them', value: times.at(-1), unit: ' ms' });
    change(dressedThroughout);
    await page.goto(`${base}/finish`);
    await page.locator('[data-testid=screen][data-frame="0"]').waitFor();
    await atRest(page);
    await scroll('Finish of 2,000 slots dressed throughout', page.getByTestId('dressed'));
    return found;
  } finally {
    await browser.close();
    stop();
  }
}
