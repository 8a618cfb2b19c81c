import { createReadStream } from 'node:fs';
import { PassThrough, type Readable } from 'node:stream';
import { ZipFile } from 'yazl';
import { BUNDLE_VERSION, MANIFEST, MEDIA, MONTAGE, type BundledFile, type BundleManifest } from './bundle-manifest.ts';

/** What goes into a bundle. */
export interface Bundled {
  readonly name: string;
  /** of a template: what it is for */
  readonly template?: string;
  /** the document as JSON */
  readonly montage: string;
  /** each with the file that it is, or null to leave it out */
  readonly files: readonly (Omit<BundledFile, 'file'> & { readonly path: string | null })[];
}

/** Names in a bundle: of their own, whatever the files are called, and readable where it is opened by hand. */
export const nameIn = (id: string, name: string): string => `${MEDIA}${id}-${name.replace(/[^\p{L}\p{N} _.-]/gu, '_').slice(-120)}`;

/** The form of a bundle of OpenTimelineIO that is written. */
const OTIOZ_VERSION = '1.0.0';

/**
 * A cut with its media as one file: `content.otio`, what it names under `media/`, and the version of that form
 * (OpenTimelineIO's file bundles). Nothing of the media is held.
 */
export function otiozStream(
  otio: string,
  files: readonly { readonly place: string; readonly path: string; readonly size: number }[],
): Readable {
  const zip = new ZipFile();
  zip.addBuffer(Buffer.from(otio), 'content.otio');
  zip.addBuffer(Buffer.from(OTIOZ_VERSION), 'version.txt');
  for (const { place, path, size } of files)
    zip.addReadStreamLazy(place, { size, compress: false }, (done) => done(null, createReadStream(path)));
  return streamOf(zip);
}

/** What a zip file writes, from front to back. */
function streamOf(zip: ZipFile): Readable {
  const out = new PassThrough();
  zip.on('error', (error) => out.destroy(error as Error));
  zip.outputStream.pipe(out);
  zip.end();
  return out;
}

/** A bundle as it is written, from front to back: nothing of it is held. Media are stored as they are; they are packed already. */
export function bundleStream({ name, template, montage, files }: Bundled): Readable {
  const zip = new ZipFile();
  const listed = files.map(({ path, ...file }): BundledFile => ({ ...file, file: path === null ? null : nameIn(file.id, file.name) }));
  const manifest: BundleManifest = {
    format: 'bluster-bundle',
    version: BUNDLE_VERSION,
    name,
    ...(template === undefined ? {} : { template }),
    files: listed,
  };
  zip.addBuffer(Buffer.from(`${JSON.stringify(manifest, null, 2)}\n`), MANIFEST);
  zip.addBuffer(Buffer.from(montage), MONTAGE);
  files.forEach(({ path, size }, i) => {
    if (path === null) return;
    zip.addReadStreamLazy(listed[i]!.file!, { size, compress: false }, (done) => done(null, createReadStream(path)));
  });
  return streamOf(zip);
}
