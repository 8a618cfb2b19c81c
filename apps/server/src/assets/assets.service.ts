import { Injectable, NotFoundException, PayloadTooLargeException, type OnModuleInit } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { createHash, randomUUID } from 'node:crypto';
import { createReadStream, existsSync } from 'node:fs';
import { copyFile, link, mkdir, readFile, readdir, rename, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { In, Not, Repository } from 'typeorm';
import { Config } from '../config.ts';
import { CALLED_OFF, JobsService } from '../jobs/jobs.service.ts';
import type { JobKind } from '@bluster/wire';
import { stripPictures } from '@bluster/media/clip/filmstrip';
import { UNFINISHED } from '@bluster/media/program/whole-file';
import { readPacked, writePack } from '@bluster/media/clip/picture-pack';
import { ChangesService } from '../changes/changes.service.ts';
import { WriteAheadLog } from '../database/write-ahead-log.ts';
import { DiskRoom, spoken } from '../keeping/disk-room.ts';
import { MontagesService } from '../montages/montages.service.ts';
import { AssetEntity } from './asset.entity.ts';
import { AssetFiles, displayName, type AssetPart } from './asset-files.ts';
import { PREPARED_AS } from './asset-preparation.ts';
import { lookAtFile, type AssetRole, type FileLook } from './look-at-file.ts';
import { MediaProbes } from './media-probes.ts';

/** Places in the order of bringing in are counted in these parts of a millisecond. */
export const PLACES_A_MS = 1000;

/** A file that comes for one that is missing may be longer or shorter by so much, seconds. */
const LENGTH_TOLERANCE_S = 0.1;
/** The turns in which files are made ready. */
const MAKING_READY: readonly JobKind[] = ['prepare', 'look', 'proxy'];

/** Clips longer than this are looked at after the others, seconds. */
const SLOW_CLIP_S = 60;

/** Takes files in, and has them made ready. */
@Injectable()
export class AssetsService implements OnModuleInit {
  /** the last file that is being taken in */
  private taking: Promise<unknown> = Promise.resolve();
  /** filmstrips that are being cut into their pictures, by asset */
  private readonly packing = new Map<string, Promise<void>>();

  constructor(
    @InjectRepository(AssetEntity) private readonly assets: Repository<AssetEntity>,
    private readonly files: AssetFiles,
    private readonly probes: MediaProbes,
    private readonly jobs: JobsService,
    private readonly montages: MontagesService,
    private readonly config: Config,
    private readonly changes: ChangesService,
    private readonly room: DiskRoom,
    private readonly database: WriteAheadLog,
  ) {}

  async onModuleInit(): Promise<void> {
    this.montages.afterSave((projectId, { assets }) => this.taken(projectId, assets));
    // Plain uploads that were cut off when the server stopped last are of no use; resumable ones lie in a folder of their own.
    for (const entry of await readdir(this.config.incomingFolder, { withFileTypes: true }))
      if (entry.isFile()) await rm(join(this.config.incomingFolder, entry.name), { force: true });
  }

  list(projectId: string): Promise<AssetEntity[]> {
    return this.assets.find({ where: { projectId }, order: { createdAt: 'ASC' } });
  }

  async find(id: string): Promise<AssetEntity> {
    const asset = await this.assets.findOneBy({ id });
    if (!asset) throw new NotFoundException('There is no such file.');
    return asset;
  }

  /** Where a part of a file lies, once it is there and will not become another: what is handed out may be kept for a year. */
  finishedPart({ id, state, info }: AssetEntity, part: AssetPart): string | null {
    const whole = state === 'ready' || (state === 'working' && info.looked === true && part !== 'proxy');
    const path = this.files.path(id, part);
    return whole && existsSync(path) ? path : null;
  }

  /** Which of these files have their small picture, and which will have it soon. */
  async smallPictures(ids: readonly string[]): Promise<ReadonlyMap<string, 'there' | 'coming'>> {
    const assets = await this.assets.find({ where: { id: In([...ids]) }, select: { id: true, state: true, info: true } });
    return new Map(
      assets.flatMap((asset): [string, 'there' | 'coming'][] => {
        if (this.finishedPart(asset, 'thumb')) return [[asset.id, 'there']];
        return asset.state === 'working' ? [[asset.id, 'coming']] : [];
      }),
    );
  }

  /**
   * Makes sure that a project can take a file, before any of it comes.
   * @param bytes how large it is
   * @param what it is, as the beginning of a sentence
   * @throws NoRoomError where the disk has no room for it; PayloadTooLargeException where the project would hold too much
   */
  async requireRoom(projectId: string, bytes: number, what: string): Promise<void> {
    const held = (await this.assets.sum('size', { projectId })) ?? 0;
    const { projectQuota } = this.config;
    if (held + bytes > projectQuota)
      throw new PayloadTooLargeException(
        `This project holds ${spoken(held)} of files, and may hold ${spoken(projectQuota)}. What comes now would be too much. Take out what you do not use, or start Bluster with a larger BLUSTER_PROJECT_GB.`,
      );
    await this.room.require(bytes, what);
  }

  /**
   * Takes in a file that lies in the incoming folder; it is moved from there, or removed when it cannot be used. A file
   * that the project has already, by its hash, is kept once: what comes back is the asset that is there. One that was made ready in
   * another project is ready at once. Until a montage is saved that names it, it awaits being taken into one.
   * @param place in which order it was brought in
   * @throws UnusableMediaError (media/probe.ts) with the reason and the way out
   */
  async takeIn(
    projectId: string,
    incoming: string,
    rawName: string,
    role: AssetRole,
    place = Date.now() * PLACES_A_MS,
  ): Promise<AssetEntity> {
    // One after the other, so that the same file coming twice at once is seen to be the same.
    const taken = this.taking.then(() => this.takeOne(projectId, incoming, rawName, role, place));
    this.taking = taken.catch(() => undefined);
    return taken;
  }

  private async takeOne(projectId: string, incoming: string, rawName: string, role: AssetRole, place: number): Promise<AssetEntity> {
    const name = displayName(rawName);
    let id: string = randomUUID();
    try {
      const hash = await hashOf(incoming);
      const there = await this.assets.findBy({ projectId, hash, state: Not('failed') });
      const same = there.find((a) => (a.kind === 'song') === (role === 'song'));
      if (same) {
        await rm(incoming, { force: true });
        // It may have been taken out of the montage since: it is brought in again.
        const again = await this.assets.save({ ...same, awaits: true, info: { ...same.info, place } });
        this.changes.tell('asset', projectId, again.id);
        return again;
      }
      const { size } = await stat(incoming);
      const twin = await this.twinOf(hash, role);
      const looked: FileLook = twin ?? (await lookAtFile(incoming, name, role));
      const awaited = await this.awaitedAs(projectId, name, looked);
      if (awaited) id = awaited.id;
      const common = { id, projectId, name, size, problem: null, hash, awaits: !awaited, createdAt: Date.now() };
      if (twin && (await this.shareReady(twin, id))) {
        await rm(incoming, { force: true });
        const asset = await this.assets.save({ ...common, kind: twin.kind, state: 'ready' as const, info: { ...twin.info, place } });
        this.changes.tell('asset', projectId, id);
        return asset;
      }
      const { kind, info, media } = twin ? await lookAtFile(incoming, name, role) : looked;
      if (media) this.probes.keep(id, media);
      await mkdir(this.files.folder(id), { recursive: true });
      await rename(incoming, this.files.path(id, 'original'));
      const asset = await this.assets.save({ ...common, kind, state: 'working' as const, info: { ...info, place } });
      this.changes.tell('asset', projectId, id);
      // Photos and sounds do not wait for clips that came before them, nor short clips for long ones.
      await this.jobs.add(projectId, 'prepare', { assetId: id, slow: kind === 'clip' && (info.length ?? 0) > SLOW_CLIP_S });
      return asset;
    } catch (error) {
      await rm(incoming, { force: true });
      // The disk may have run full between the file and its row.
      if (!(await this.assets.existsBy({ id }))) await rm(this.files.folder(id), { recursive: true, force: true });
      throw error;
    }
  }

  /** An asset of the same bytes that any project has ready, made as it would be made now; null where there is none. */
  private async twinOf(hash: string, role: AssetRole): Promise<AssetEntity | null> {
    const ready = await this.assets.find({ where: { hash, state: 'ready' }, order: { createdAt: 'DESC' } });
    return ready.find((a) => (a.kind === 'song') === (role === 'song') && a.info.preparedAs === PREPARED_AS) ?? null;
  }

  /** Gives an asset the parts of its twin. @returns whether it has them */
  private async shareReady(twin: AssetEntity, id: string): Promise<boolean> {
    try {
      await this.shareParts(twin.id, id);
      return true;
    } catch {
      // It was removed meanwhile: the file is made ready anew.
      await rm(this.files.folder(id), { recursive: true, force: true });
      return false;
    }
  }

  /** The missing file whose place one takes: of the same name and kind, and as long. */
  private async awaitedAs(
    projectId: string,
    name: string,
    { kind, info }: Pick<AssetEntity, 'kind' | 'info'>,
  ): Promise<AssetEntity | null> {
    const failed = await this.assets.findBy({ projectId, kind, state: 'failed' });
    const alike = (a: number | undefined, b: number | undefined): boolean =>
      a === undefined || b === undefined || Math.abs(a - b) <= LENGTH_TOLERANCE_S;
    return failed.find((a) => a.info.missing && a.name === name && alike(a.info.length, info.length)) ?? null;
  }

  /** Keeps a place for a file that is not there: whoever brings it in by its name fills it. */
  async await(projectId: string, { kind, name, info }: Pick<AssetEntity, 'kind' | 'name' | 'info'>): Promise<AssetEntity> {
    const clean = displayName(name);
    return this.assets.save({
      id: randomUUID(),
      projectId,
      kind,
      name: clean,
      size: 0,
      state: 'failed' as const,
      problem: `"${clean}" was not in the bundle. Bring it in by this name, and it takes its place.`,
      info: { ...info, missing: true },
      hash: null,
      awaits: false,
      createdAt: Date.now(),
    });
  }

  /** Gives an asset all parts of another, sharing the files' bytes where the disk can. */
  private async shareParts(from: string, to: string): Promise<void> {
    await mkdir(this.files.folder(to), { recursive: true });
    for (const part of (await readdir(this.files.folder(from))).filter((name) => !UNFINISHED.test(name))) {
      const [source, target] = [join(this.files.folder(from), part), join(this.files.folder(to), part)];
      await link(source, target).catch(() => copyFile(source, target));
    }
  }

  /** A montage was saved that names these: they await nothing more. */
  private async taken(projectId: string, ids: readonly string[]): Promise<void> {
    const waiting = await this.assets.findBy({ projectId, awaits: true });
    const now = waiting.filter((asset) => ids.includes(asset.id)).map((asset) => asset.id);
    if (now.length > 0) await this.assets.update({ id: In(now) }, { awaits: false });
    for (const id of now) this.changes.tell('asset', projectId, id);
  }

  /** One picture of a filmstrip, JPEG. @throws NotFoundException where there is none */
  async tile(id: string, picture: number): Promise<Buffer> {
    const path = this.files.path(id, 'tiles');
    if (!existsSync(path)) await this.packTiles(id);
    const tile = await readPacked(path, picture);
    if (!tile) throw new NotFoundException('There is no such picture in its filmstrip.');
    return tile;
  }

  /** Several small pictures at once, in the order asked for; null where there is none. */
  tiles(wanted: readonly { readonly id: string; readonly picture: number }[]): Promise<(Buffer | null)[]> {
    return Promise.all(wanted.map(({ id, picture }) => this.tile(id, picture).catch(() => null)));
  }

  /** Cuts a filmstrip that was made before its pictures were kept one by one; asked for many at once, it is done once. */
  private async packTiles(id: string): Promise<void> {
    const { strip } = (await this.find(id)).info;
    const thumb = this.files.path(id, 'thumb');
    if (!strip && !existsSync(thumb)) throw new NotFoundException('This file has no pictures.');
    let packing = this.packing.get(id);
    if (!packing) {
      const pictures = strip ? stripPictures(this.files.path(id, 'strip'), strip) : readFile(thumb).then((only) => [only]);
      packing = pictures.then((all) => writePack(this.files.path(id, 'tiles'), all));
      this.packing.set(id, packing);
      void packing.catch(() => undefined).finally(() => this.packing.delete(id));
    }
    await packing;
  }

  /** Has a file made ready before those that wait. */
  async hurry(id: string): Promise<void> {
    await this.find(id);
    await this.jobs.hurry((job) => job.payload['assetId'] === id && job.kind !== 'export');
  }

  /** Calls off the work on a file and removes it. */
  async discard(id: string): Promise<void> {
    const { projectId } = await this.find(id);
    const own = (await this.jobs.list(projectId)).filter((job) => job.payload['assetId'] === id);
    for (const job of own) if (job.state === 'queued' || job.state === 'running') await this.jobs.cancel(job.id);
    await this.assets.delete(id);
    // A power cut leaves files without a row, which are found and removed, and no row without its files.
    await this.database.kept();
    this.probes.forget(id);
    await rm(this.files.folder(id), { recursive: true, force: true });
    this.changes.tell('asset', projectId, id);
  }

  /** Copies a project's assets for another project, sharing the files' bytes where the disk can. Returns old to new ids. */
  async copyAll(from: string, to: string): Promise<Map<string, string>> {
    const ids = new Map<string, string>();
    for (const asset of await this.list(from)) {
      const id = randomUUID();
      ids.set(asset.id, id);
      await this.shareParts(asset.id, id);
      await this.assets.save({ ...asset, id, projectId: to });
      if (asset.state === 'working') await this.jobs.add(to, 'prepare', { assetId: id });
    }
    return ids;
  }

  /** Has those files of a project made ready whose work was called off. */
  async prepareAgain(projectId: string): Promise<void> {
    const calledOff = [
      { projectId, state: 'working' as const },
      { projectId, state: 'failed' as const, problem: CALLED_OFF },
    ];
    for (const { id } of await this.assets.findBy(calledOff)) {
      const own = ({ payload }: { payload: Record<string, unknown> }): boolean => payload['assetId'] === id;
      const underWay = await Promise.all(MAKING_READY.map((kind) => this.jobs.isUnderWay(kind, own)));
      if (!underWay.includes(true)) await this.jobs.add(projectId, 'prepare', { assetId: id });
      await this.assets.update(id, { state: 'working', problem: null });
      this.changes.tell('asset', projectId, id);
    }
  }

  /** Removes the files of a project for good. */
  async removeAll(projectId: string): Promise<void> {
    for (const asset of await this.list(projectId)) {
      await rm(this.files.folder(asset.id), { recursive: true, force: true });
      await this.assets.delete(asset.id);
    }
  }
}

/** SHA-256 of a file. */
async function hashOf(path: string): Promise<string> {
  const hash = createHash('sha256');
  await pipeline(createReadStream(path, { highWaterMark: 1 << 20 }), hash);
  return hash.digest('hex');
}
