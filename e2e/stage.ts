import { expect, type APIRequestContext, type Page } from '@playwright/test';
import { existsSync, mkdtempSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { basename, join, resolve } from 'node:path';
import { carryOut, emptyMontage, footageItem, type Command, type FootageItem, type FrameRate, type Montage } from '@bluster/core';
import { numberedClip, scratchFolder, tickingSong } from '@bluster/media/testing/made-media';

/** A file of the demo material. */
export const demoFile = (name: string): string => join(resolve(import.meta.dirname, '../demo/media'), name);

interface Asset {
  readonly id: string;
  readonly kind: 'song' | 'clip' | 'photo';
  readonly name: string;
  readonly state: 'working' | 'ready' | 'failed';
  readonly problem: string | null;
  readonly info: { length?: number; width: number; height: number; rate?: FrameRate; frames?: number; hasSound?: boolean };
}

/** Files made for a run: a ticking song with a beat every half second, and clips whose frames carry their number. */
export const made = (() => {
  const shared = process.env['BLUSTER_E2E_MADE']!;
  const likes = new Map<string, string>();
  // All specs of a run share them, in whichever process they are read: one name is one file.
  const once = (file: string, make: (folder: string) => string, options: unknown = null): string => {
    const like = JSON.stringify(options);
    const known = likes.get(file) ?? like;
    if (known !== like) throw new Error(`"${file}" is made already, and otherwise: ${known}. Take another name.`);
    likes.set(file, like);
    const path = join(shared, file);
    if (!existsSync(path)) renameSync(make(mkdtempSync(join(shared, 'part-'))), path);
    return path;
  };
  return {
    /** for files of one spec alone */
    folder: scratchFolder(),
    song: (seconds = 16): string => {
      const file = `ticking-${seconds}.flac`;
      return once(file, (folder) => tickingSong(folder, file, seconds));
    },
    clip: (name: string, options: Parameters<typeof numberedClip>[2]): string => {
      const file = `${name}.mp4`;
      return once(file, (folder) => numberedClip(folder, file, options), options);
    },
  };
})();

async function upload(request: APIRequestContext, project: string, role: 'song' | 'footage', path: string): Promise<string> {
  const response = await request.post(`/api/projects/${project}/assets?role=${role}`, {
    multipart: { file: { name: basename(path), mimeType: 'application/octet-stream', buffer: readFileSync(path) } },
  });
  expect(response.status()).toBe(201);
  return ((await response.json()) as { id: string }).id;
}

/** The project's files once all of them are ready. */
async function readyAssets(request: APIRequestContext, project: string): Promise<Map<string, Asset>> {
  let all: Asset[] = [];
  await expect
    .poll(
      async () => {
        all = (await (await request.get(`/api/projects/${project}/assets`)).json()) as Asset[];
        return all.filter((a) => a.state !== 'ready').map((a) => `${a.name}: ${a.problem ?? a.state}`);
      },
      { timeout: 120_000, intervals: [100] },
    )
    .toEqual([]);
  return new Map(all.map((a) => [a.id, a]));
}

const itemOf = ({ id, kind, name, info }: Asset): FootageItem =>
  footageItem(id, kind === 'photo' ? 'photo' : 'clip', name, { ...info, focus: undefined });

/** A montage whose film is made quickly, where its size is not what a test is about. */
export const SMALL: Command = { do: 'setShape', shape: { width: 320, height: 180, rate: { num: 30, den: 1 } } };

/** A project with a marked song and footage, made over HTTP, so that a test can start where its subject starts. */
export async function preparedProject(
  request: APIRequestContext,
  wish: { name: string; clips: readonly string[]; seconds?: number; song?: string; then?: (montage: Montage) => readonly Command[] },
): Promise<{ id: string; montage: Montage }> {
  const { id } = (await (await request.post('/api/projects', { data: { name: wish.name } })).json()) as { id: string };
  const songId = await upload(request, id, 'song', wish.song ?? made.song(wish.seconds));
  const clipIds: string[] = [];
  for (const path of wish.clips) clipIds.push(await upload(request, id, 'footage', path));
  const assets = await readyAssets(request, id);
  const song = assets.get(songId)!;
  const clips = clipIds.map((clip) => assets.get(clip)!);
  const length = song.info.length!;
  const times = Array.from({ length: Math.floor(length * 2) }, (_, i) => i * 0.5);
  let montage = emptyMontage();
  for (const command of [
    { do: 'setSong', assetId: song.id, name: song.name, length },
    { do: 'takeBeatTimes', times, metre: 4 },
    { do: 'addFootage', items: clips.map(itemOf) },
  ] satisfies Command[])
    montage = carryOut(montage, command);
  for (const command of wish.then?.(montage) ?? []) montage = carryOut(montage, command);
  const response = await request.put(`/api/projects/${id}/montage`, { data: { revision: 1, document: montage } });
  expect(response.status()).toBe(200);
  return { id, montage };
}

/** The film of the first seconds of a project, as it is made for who asks over HTTP. @returns where it was written */
export async function filmOfBeginning(request: APIRequestContext, project: string, seconds: number, folder: string): Promise<string> {
  const stretch = { from: 0, to: seconds };
  const { id } = (await (await request.post(`/api/projects/${project}/exports`, { data: { stretch } })).json()) as { id: string };
  await expect
    .poll(async () => ((await (await request.get(`/api/jobs/${id}`)).json()) as { state: string }).state, {
      timeout: 180_000,
      intervals: [200],
    })
    .toBe('done');
  const film = join(folder, `${id}.mp4`);
  writeFileSync(film, await (await request.get(`/api/exports/${id}/film`)).body());
  return film;
}

/** The project that a page is showing. */
export const projectOf = (page: Page): string => /projects\/([0-9a-f-]+)/.exec(page.url())![1]!;

/** Waits until everything on the page is saved; looks often, since nearly every test waits for it again and again, and asks for no frames. */
export async function whenSaved(page: Page): Promise<void> {
  await page.waitForFunction(() => document.querySelector('[data-testid="save-state"]')?.textContent?.startsWith('Saved'), null, {
    timeout: 30_000,
    polling: 20,
  });
}

/** Waits until the playhead stands at `seconds` or later; looks at every frame, so that what follows comes soon after. */
export async function playedTo(page: Page, seconds: number): Promise<void> {
  await page.waitForFunction((least) => {
    const [minutes, rest] = document.querySelector('[data-testid="time"]')?.textContent?.split(':') ?? [];
    return Number(minutes) * 60 + Number(rest) >= least;
  }, seconds);
}

/** The montage as the server has it, once everything on the page is saved. */
export async function savedMontage(page: Page): Promise<Montage> {
  await whenSaved(page);
  const response = await page.request.get(`/api/projects/${projectOf(page)}/montage`);
  return ((await response.json()) as { document: Montage }).document;
}

/** Waits until what a view shows is there: all is saved, and the song can be played where the view plays it. */
async function whenReady(page: Page, view: string): Promise<void> {
  await whenSaved(page);
  if (['song', 'score', 'finish'].includes(view)) await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeEnabled();
}

/** Opens one of a project's views and waits until its song can be played. */
export async function openView(page: Page, project: string, view: string): Promise<void> {
  await page.goto(`/projects/${project}/${view}`);
  await whenReady(page, view);
}

/** Goes over to another view of the project that is open, as a person does, and waits until its song can be played. */
export async function goToView(page: Page, view: string): Promise<void> {
  const link = page.getByRole('link', { name: new RegExp(`^${view}`, 'i') });
  await link.click();
  // The address changes before the view does: until its code has come, what is seen is the view before, and keys are for that.
  await expect(link).toHaveAttribute('aria-current', 'page');
  await whenReady(page, view);
}

/** Presses a key with its modifiers many times without waiting for the page to be painted in between, as a key that is held down. */
export async function holdKey(
  page: Page,
  key: { key: string; code: string; ctrlKey?: boolean; shiftKey?: boolean },
  times: number,
): Promise<void> {
  await page.evaluate(
    ([init, count]) => {
      for (let i = 0; i < count; i++)
        for (const type of ['keydown', 'keyup'])
          document.body.dispatchEvent(new KeyboardEvent(type, { ...init, bubbles: true, cancelable: true }));
    },
    [key, times] as const,
  );
}

/** Fills the slots by the button, and waits until they are. */
export async function fillSlots(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Fill slots' }).click();
  await expect(page.locator('[data-sonner-toast]').filter({ hasText: 'filled' })).toBeVisible();
}

/** Drops files of the disk onto an element, as a person drags them from a folder. */
export async function dropFiles(page: Page, selector: string, paths: readonly string[]): Promise<void> {
  const files = paths.map((path) => ({ name: basename(path), base64: readFileSync(path).toString('base64') }));
  const transfer = await page.evaluateHandle((given) => {
    const data = new DataTransfer();
    for (const { name, base64 } of given) data.items.add(new File([Uint8Array.from(atob(base64), (c) => c.charCodeAt(0))], name));
    return data;
  }, files);
  for (const type of ['dragenter', 'dragover', 'drop']) await page.dispatchEvent(selector, type, { dataTransfer: transfer });
}

/** Middle of an element, page pixels. */
export async function middleOf(page: Page, selector: string, nth = 0): Promise<{ x: number; y: number; width: number; height: number }> {
  const box = (await page.locator(selector).nth(nth).boundingBox())!;
  return { x: box.x + box.width / 2, y: box.y + box.height / 2, width: box.width, height: box.height };
}

/** Drags the mouse from one place to another in small steps. */
export async function drag(page: Page, from: { x: number; y: number }, to: { x: number; y: number }): Promise<void> {
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(from.x + (to.x - from.x) / 4, from.y + (to.y - from.y) / 4, { steps: 4 });
  await page.mouse.move(to.x, to.y, { steps: 12 });
  await page.mouse.up();
}
