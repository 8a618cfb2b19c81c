import { readFile } from 'node:fs/promises';
import { basename } from 'node:path';
import type { NestExpressApplication } from '@nestjs/platform-express';
import {
  ANALYSIS_RATE,
  carriedOver,
  carryOut,
  detectIn,
  FILL_DEFAULTS,
  fill,
  isRefusal,
  knowledgeFrom,
  footageItem,
  ORDERS,
  OnsetMeter,
  peaks,
  readMontage,
  Refusal,
  scoreOf,
  shortClock,
  type FillKnowledge,
  type Montage,
  type SeenMaterial,
  withFoundHits,
} from '@bluster/core';
import { hearAll, hearSound } from '@bluster/media/sound/sound';
import type { ClipLook } from '@bluster/wire';
import { AssetFiles } from '../assets/asset-files.ts';
import { AssetsService } from '../assets/assets.service.ts';
import { BundlesService } from '../bundles/bundles.service.ts';
import { MontagesService } from '../montages/montages.service.ts';
import { ShippedTemplates } from '../templates/shipped-templates.ts';
import { TemplatesService } from '../templates/templates.service.ts';
import { makeFilms } from './films.ts';
import { isFile } from './given-files.ts';
import { configFor, dataFolder, incomingCopy, inScratch, prepared, within } from './running.ts';
import type { FromTemplate } from './template-words.ts';
import { EXIT, say } from './usage.ts';

/** The templates that ship and those of the data folder, one a line. */
export function listTemplates(): Promise<number> {
  return within(dataFolder, async (app) => {
    for (const { id, name, length, slots } of await app.get(TemplatesService).list())
      process.stdout.write(`${id}\t${shortClock(length)}\t${slots} slots\t${name}\n`);
    return EXIT.ok;
  });
}

/** Where a template is: one that ships, by its short name, or a file. */
type Source = { readonly ships: string } | { readonly file: string };

/** Finds a template by its file, or by its id or name among those that ship and those of the data folder. @throws Refusal */
async function sourceOf(template: string): Promise<Source> {
  if (await isFile(template)) return { file: template };
  const isMeant = ({ id, name }: { id: string; name: string }): boolean => id === template || name === template;
  const ships = (await new ShippedTemplates(configFor(dataFolder)).list()).find(isMeant);
  if (ships) return { ships: ships.id };
  return within(dataFolder, async (app) => {
    const templates = app.get(TemplatesService);
    const kept = (await templates.list()).find(isMeant);
    if (!kept) throw new Refusal(`There is no template "${template}". ./bluster template list names them.`);
    return { file: templates.file(kept.id) };
  });
}

/** Opens a template as a project. */
async function opened(app: NestExpressApplication, source: Source, name: string | undefined): Promise<{ id: string; name: string }> {
  const opening =
    'ships' in source
      ? app.get(TemplatesService).begin(source.ships, name)
      : app.get(BundlesService).open(await incomingCopy(app, source.file), name);
  return (await opening).project;
}

/** Takes footage in; what cannot be used is said and left out. @throws Refusal where nothing is left */
async function takenIn(app: NestExpressApplication, projectId: string, paths: readonly string[]): Promise<void> {
  let taken = 0;
  for (const path of paths)
    try {
      await app.get(AssetsService).takeIn(projectId, await incomingCopy(app, path), basename(path), 'footage');
      taken++;
    } catch (error) {
      if (!isRefusal(error) || paths.length === 1) throw error;
      say(`left out: ${error.message}`);
    }
  if (taken === 0) throw new Refusal('None of the footage can be used.');
}

/** The song's marks, as they are found. */
async function detected(montage: Montage, assetId: string, path: string): Promise<Montage> {
  say('marking the song');
  const heard = new OnsetMeter(ANALYSIS_RATE);
  await hearSound(path, (samples) => heard.push(samples));
  const { signal, onsets } = heard.finish();
  const detection = detectIn(signal, onsets);
  const bare = carryOut(montage, { do: 'setSong', assetId, name: basename(path), length: detection.length });
  return carryOut(bare, { do: 'takeDetection', detection });
}

/** What best match needs to know of the song and the footage, with the hits that were found taken. */
async function seen(app: NestExpressApplication, montage: Montage, song: string): Promise<{ montage: Montage; knowledge: FillKnowledge }> {
  const files = app.get(AssetFiles);
  const looks = new Map<string, ClipLook>();
  for (const { assetId, kind } of montage.footage)
    if (kind === 'clip') looks.set(assetId, JSON.parse(await readFile(files.path(assetId, 'look'), 'utf8')) as ClipLook);
  const outline = peaks({ samples: await hearAll(song), rate: ANALYSIS_RATE });
  const known: SeenMaterial = { peaks: outline, clips: Object.fromEntries(looks) };
  const withHits = withFoundHits(montage, known);
  return { montage: withHits, knowledge: knowledgeFrom(withHits, known) };
}

/** Fills a template with footage, over another song where one is given, and makes films of it. */
export async function filmFromTemplate(template: string, wanted: FromTemplate): Promise<number> {
  const { order, reach, footage } = wanted;
  const seed = wanted.seed ?? FILL_DEFAULTS.seed;
  const source = await sourceOf(template);
  return inScratch(async (app) => {
    const [assets, montages, files] = [app.get(AssetsService), app.get(MontagesService), app.get(AssetFiles)];
    const project = await opened(app, source, wanted.name);
    const stored = await montages.load(project.id);
    let montage = readMontage(JSON.parse(stored.facts.text));
    if (wanted.song !== undefined) {
      const { id } = await assets.takeIn(project.id, await incomingCopy(app, wanted.song), basename(wanted.song), 'song');
      const marked = await detected(montage, id, wanted.song);
      const { montage: carried, left, counts } = carriedOver(montage, marked, { reach });
      say(`${counts.pegs} cuts go over to ${basename(wanted.song)}${left.length > 0 ? `; ${left.length} things find no place` : ''}`);
      montage = carried;
    }
    await takenIn(app, project.id, footage);
    await prepared(app, project.id);
    const pictures = (await assets.list(project.id)).filter((a) => a.kind === 'clip' || a.kind === 'photo');
    for (const { name, problem, state } of pictures) if (state !== 'ready') say(`left out: ${problem ?? name}`);
    const items = pictures
      .filter((a) => a.state === 'ready')
      .map(({ id, kind, name, info }) => footageItem(id, kind === 'photo' ? 'photo' : 'clip', name, info));
    montage = carryOut(montage, { do: 'addFootage', items });
    const options = { ...FILL_DEFAULTS, order, seed, scope: 'empty', tooShort: 'next', apart: 4 } as const;
    if (ORDERS[order].matches) {
      const song = files.path(montage.song!.assetId, 'original');
      const { montage: hit, knowledge } = await seen(app, montage, song);
      montage = fill(hit, options, knowledge);
    } else montage = fill(montage, options);
    const { slots } = scoreOf(montage);
    const empty = slots.filter((slot) => !slot.placed).length;
    say(`${slots.length - empty} of ${slots.length} slots filled`);
    await montages.save(project.id, stored.revision, await montages.read(JSON.stringify(montage)));
    return makeFilms(app, project, wanted);
  });
}
