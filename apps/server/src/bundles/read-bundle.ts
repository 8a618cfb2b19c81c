import { createWriteStream } from 'node:fs';
import type { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { plainToInstance } from 'class-transformer';
import { validateSync } from 'class-validator';
import { openPromise, type Entry, type ZipFile } from 'yauzl';
import { Refusal } from '@bluster/core';
import { problemsOf } from '../http/validation.ts';
import {
  BUNDLE_VERSION,
  BundleManifest,
  LARGEST_DOCUMENT,
  MANIFEST,
  MEDIA,
  MONTAGE,
  MOST_MEDIA,
  type BundledFile,
} from './bundle-manifest.ts';

/** A bundle that cannot be opened; the message says why and what to do. */
export class BundleError extends Refusal {}

const broken = (why: string): BundleError =>
  new BundleError(`This bundle cannot be opened: ${why}. Copy it again, or have it saved anew where it comes from.`);

/** What the reader of the zip says, in words. */
function inWords(error: unknown): BundleError {
  if (error instanceof BundleError) return error;
  const said = error instanceof Error ? error.message : '';
  if (/invalid relative path|absolute path|invalid characters in fileName/i.test(said))
    return broken('it wants to write outside its place');
  if (/too many bytes|not enough bytes|sizes/i.test(said)) return broken('its files are not as large as it says');
  if (/end of central directory/i.test(said)) return broken('it is no zip file, or it was cut off');
  if (/encrypt|password/i.test(said)) return broken('it is locked with a password');
  return broken('it is damaged');
}

/** A bundle that lies on the disk, open. */
export class OpenBundle {
  private constructor(
    private readonly zip: ZipFile,
    private readonly entries: ReadonlyMap<string, Entry>,
    readonly manifest: BundleManifest,
    /** the document as JSON */
    readonly montage: string,
  ) {}

  /** @throws BundleError */
  static async open(path: string): Promise<OpenBundle> {
    let zip: ZipFile | null = null;
    try {
      zip = await openPromise(path, { lazyEntries: true, autoClose: false });
      if (zip.entryCount > MOST_MEDIA + 2) throw broken(`it holds ${zip.entryCount} files, and ${MOST_MEDIA} are the most`);
      const entries = new Map<string, Entry>();
      for await (const entry of zip.eachEntry()) entries.set(entry.fileName, entry);
      const manifest = manifestOf(await documentIn(zip, entries, MANIFEST));
      for (const file of manifest.files) checkFile(file, entries);
      return new OpenBundle(zip, entries, manifest, await documentIn(zip, entries, MONTAGE));
    } catch (error) {
      zip?.close();
      throw inWords(error);
    }
  }

  /** Writes one of its files to a path. @throws BundleError where it is not what the bundle says of it */
  async extract({ file }: BundledFile, to: string): Promise<void> {
    let from: Readable;
    try {
      from = await this.zip.openReadStreamPromise(this.entries.get(file!)!);
    } catch (error) {
      throw inWords(error);
    }
    let failed: unknown = null;
    from.once('error', (error) => (failed = error));
    try {
      await pipeline(from, createWriteStream(to, { flags: 'wx' }));
    } catch (error) {
      // A full disk is said as such.
      throw failed === null ? error : inWords(failed);
    }
  }

  close(): void {
    this.zip.close();
  }
}

function manifestOf(text: string): BundleManifest {
  let said: unknown;
  try {
    said = JSON.parse(text);
  } catch {
    throw broken('what it says of itself cannot be read');
  }
  if (typeof said !== 'object' || said === null || Array.isArray(said)) throw broken('what it says of itself cannot be read');
  const { version } = said as { version?: unknown };
  if (typeof version === 'number' && version > BUNDLE_VERSION)
    throw new BundleError(
      `This bundle was saved by a newer Bluster (form ${version}, this one reads ${BUNDLE_VERSION}). Open it with that one.`,
    );
  const manifest = plainToInstance(BundleManifest, said);
  const problems = problemsOf(validateSync(manifest, { whitelist: true, forbidNonWhitelisted: true, forbidUnknownValues: true }));
  if (problems !== null) throw broken(problems.replace(/[.]$/, ''));
  return manifest;
}

/** Each file lies among the media, and is as large as is said twice. */
function checkFile({ file, name, size }: BundledFile, entries: ReadonlyMap<string, Entry>): void {
  if (file === null) return;
  const entry = entries.get(file);
  if (!file.startsWith(MEDIA) || !entry) throw broken(`"${name}" is not in it`);
  if (entry.uncompressedSize !== size) throw broken(`"${name}" is not as large as it says`);
}

/** A document in the bundle, held whole. */
async function documentIn(zip: ZipFile, entries: ReadonlyMap<string, Entry>, name: string): Promise<string> {
  const entry = entries.get(name);
  if (!entry) throw broken(`there is no ${name} in it`);
  if (entry.uncompressedSize > LARGEST_DOCUMENT) throw broken(`its ${name} is too large`);
  const chunks: Buffer[] = [];
  for await (const chunk of await zip.openReadStreamPromise(entry)) chunks.push(chunk as Buffer);
  return Buffer.concat(chunks).toString('utf8');
}
