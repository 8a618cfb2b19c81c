import { validateSync } from 'class-validator';
import { CUT_FORMATS, MontageFormatError, isRefusal, readMontage, templateOf, type Montage } from '@bluster/core';
import { KeepVersionRequest, SaveMontageRequest } from '@bluster/wire';
import { problemsOf } from '../../http/validation.ts';
import { montageFacts, type MontageFacts } from './montage-facts.ts';
import { replaceAssets } from './replace-assets.ts';

/** What is read: a document as it is stored, one in which files get other ids, one without its pictures, or a request that brings one. */
export type Reading =
  | { readonly kind: 'stored'; readonly text: string }
  | { readonly kind: 'copy'; readonly text: string; readonly ids: ReadonlyMap<string, string> }
  | { readonly kind: 'otio'; readonly text: string; readonly name: string; readonly places: ReadonlyMap<string, string> }
  | { readonly kind: 'template'; readonly text: string }
  | { readonly kind: 'save' | 'keep'; readonly text: string };

/** What was read; for requests with what they say besides. */
export interface WasRead {
  readonly facts: MontageFacts;
  readonly revision: number;
  readonly reason: string;
  /** the document in another form, where that was asked for */
  readonly written?: string;
}

/** A request that is not what it should be. */
export class BadRequest extends Error {}

/** How the thread that reads answers. */
export type ReadingAnswer =
  | { readonly kind: 'read'; readonly read: WasRead }
  | { readonly kind: 'format' | 'request' | 'program'; readonly message: string };

/** An error as the thread says it. */
export function readingFailure(error: unknown): ReadingAnswer {
  if (error instanceof BadRequest) return { kind: 'request', message: error.message };
  if (isRefusal(error)) return { kind: 'format', message: error.message };
  return { kind: 'program', message: error instanceof Error ? (error.stack ?? error.message) : String(error) };
}

function parse(text: string, damaged: () => Error): unknown {
  try {
    return JSON.parse(text);
  } catch {
    throw damaged();
  }
}

const stored = (text: string): Montage =>
  readMontage(
    parse(text, () => new MontageFormatError('The montage of this project is damaged: it breaks off, or was changed from outside.')),
  );

/**
 * Reads a document, which for thousands of shots takes a while.
 * @throws MontageFormatError where it is none, or is of a newer version; BadRequest where a request is not what it should be
 */
export function readDocument(reading: Reading): WasRead {
  try {
    return read(reading);
  } catch (error) {
    if (error instanceof RangeError && /call stack/i.test(error.message)) throw new BadRequest('The request is nested too deeply.');
    throw error;
  }
}

/** The cut as OpenTimelineIO, with each file where it lies. */
function asOtio(montage: Montage, { name, places }: Extract<Reading, { kind: 'otio' }>): Pick<WasRead, 'facts' | 'written'> {
  const placeOf = (file: { assetId: string; name: string }): string => places.get(file.assetId) ?? file.name;
  return { facts: montageFacts(montage), written: CUT_FORMATS.otio.write(montage, { name, placeOf }) };
}

function read(reading: Reading): WasRead {
  const { kind, text } = reading;
  if (kind === 'stored') return { facts: montageFacts(stored(text)), revision: 0, reason: '' };
  if (kind === 'copy') return { facts: montageFacts(replaceAssets(stored(text), reading.ids)), revision: 0, reason: '' };
  if (kind === 'otio') return { ...asOtio(stored(text), reading), revision: 0, reason: '' };
  if (kind === 'template') return { facts: montageFacts(templateOf(stored(text))), revision: 0, reason: '' };
  const body = parse(text, () => new BadRequest('The request is not valid JSON.'));
  if (typeof body !== 'object' || body === null || Array.isArray(body)) throw new BadRequest('The request is not a JSON object.');
  const { document, revision: saidRevision, reason: saidReason, ...unknown } = body as Record<string, unknown>;
  const strangers = [...Object.keys(unknown), ...(kind === 'save' && saidReason !== undefined ? ['reason'] : [])];
  if (strangers.length > 0) throw new BadRequest(`"${strangers[0]!.slice(0, 40)}" is not known here.`);
  // What it says of the document is checked whole by core; here it only has to be there.
  const isThere = typeof document === 'object' && document !== null && !Array.isArray(document);
  const fields = { revision: saidRevision, document: isThere ? {} : document };
  // Filled by hand: whoever makes objects of what strangers send may be led astray by its keys.
  const sent =
    kind === 'save'
      ? Object.assign(new SaveMontageRequest(), fields)
      : Object.assign(new KeepVersionRequest(), fields, { reason: saidReason });
  const problems = problemsOf(validateSync(sent));
  if (problems !== null) throw new BadRequest(problems);
  const { revision } = sent;
  return { facts: montageFacts(readMontage(document)), revision, reason: sent instanceof KeepVersionRequest ? sent.reason : '' };
}
