import { CutReadError, readCutOf, type ReadCut, type ReadPiece } from './read-cut.ts';

type Json = Readonly<Record<string, unknown>>;

const isJson = (value: unknown): value is Json => typeof value === 'object' && value !== null && !Array.isArray(value);
const textOf = (value: unknown): string => (typeof value === 'string' ? value : '');
const schemaOf = (value: Json): string => textOf(value['OTIO_SCHEMA']);
const isOf = (value: unknown, kind: string): value is Json => isJson(value) && schemaOf(value).startsWith(`${kind}.`);
const listOf = (value: unknown): readonly unknown[] => (Array.isArray(value) ? value : []);

/** Tracks within tracks beyond this are no cut of anybody's. */
const DEEPEST = 20;

/** Seconds of a RationalTime. @throws CutReadError where its rate does not fit */
function seconds(time: unknown): number {
  if (!isJson(time)) return 0;
  const [value, rate] = [Number(time['value']), Number(time['rate'])];
  if (!Number.isFinite(value) || !Number.isFinite(rate) || rate <= 0 || rate > 1e6)
    throw new CutReadError(
      `This cut has a time that cannot be: ${String(time['value'])} at ${String(time['rate'])} a second. Save it anew.`,
    );
  return value / rate;
}

interface Range {
  readonly start: number;
  readonly length: number;
}

const rangeOf = (value: unknown): Range | null =>
  isJson(value) ? { start: seconds(value['start_time']), length: seconds(value['duration']) } : null;

/** The media of a clip: of the newer form one of several, of the older the only one. */
function mediaOf(clip: Json): Json | null {
  const several = clip['media_references'];
  const active = textOf(clip['active_media_reference_key']) || 'DEFAULT_MEDIA';
  const one = isJson(several) ? several[active] : clip['media_reference'];
  return isJson(one) ? one : null;
}

/** What a file is called, by where it lies. */
function fileName(url: string): string {
  const last =
    url
      .replace(/[?#].*$/, '')
      .replaceAll('\\', '/')
      .split('/')
      .at(-1) ?? '';
  try {
    return decodeURIComponent(last);
  } catch {
    return last;
  }
}

function clipPiece(clip: Json, notes: string[]): ReadPiece {
  const media = mediaOf(clip);
  const available = rangeOf(media?.['available_range']);
  const used = rangeOf(clip['source_range']) ?? available;
  const url = media?.['target_url'];
  const name = typeof url === 'string' && fileName(url) !== '' ? fileName(url) : textOf(media?.['name']) || textOf(clip['name']);
  if (!used) throw new CutReadError(`The cut does not say how long "${name}" is seen. Save it anew.`);
  let speed = 1;
  for (const effect of listOf(clip['effects'])) {
    if (isOf(effect, 'FreezeFrame')) speed = 0;
    else if (isOf(effect, 'LinearTimeWarp')) speed *= Number(effect['time_scalar']);
    else notes.push('effects');
  }
  if (!Number.isFinite(speed)) throw new CutReadError(`"${name}" runs at a speed that cannot be. Save the cut anew.`);
  // Media may count from another time than their file's start.
  const first = Math.max(0, used.start - (available?.start ?? 0));
  const from = speed < 0 ? first - speed * used.length : first;
  return { name, length: used.length, from, speed, mediaLength: available && available.length > 0 ? available.length : null };
}

const black = (length: number): ReadPiece => ({ name: null, length, from: 0, speed: 1, mediaLength: null });

/** How long a composition is: its own range, or all that is in it. */
function lengthOf(child: Json, depth: number): number {
  const own = rangeOf(child['source_range']);
  if (own) return own.length;
  const lengths = listOf(child['children']).map((inner) => (isJson(inner) && depth < DEEPEST ? lengthOf(inner, depth + 1) : 0));
  return isOf(child, 'Stack') ? Math.max(0, ...lengths) : lengths.reduce((a, b) => a + b, 0);
}

function piecesOf(track: Json, notes: string[]): ReadPiece[] {
  return listOf(track['children']).flatMap((child): ReadPiece[] => {
    if (isOf(child, 'Clip')) return [clipPiece(child, notes)];
    if (isOf(child, 'Gap')) return [black(rangeOf(child['source_range'])?.length ?? 0)];
    if (isOf(child, 'Transition')) {
      notes.push('transitions');
      return [];
    }
    if (isOf(child, 'Stack') || isOf(child, 'Track')) {
      notes.push('cuts within the cut');
      return [black(lengthOf(child, 0))];
    }
    throw new CutReadError(
      `This cut holds something unknown (${isJson(child) ? schemaOf(child) || 'without a schema' : typeof child}). Save it without that.`,
    );
  });
}

/** The first picture track below something. */
function pictureTracks(root: Json, depth = 0): Json[] {
  if (isOf(root, 'Timeline')) return isJson(root['tracks']) ? pictureTracks(root['tracks'], depth + 1) : [];
  if (isOf(root, 'Track')) return root['kind'] === 'Audio' ? [] : [root];
  if (depth > DEEPEST || !(isOf(root, 'Stack') || isOf(root, 'SerializableCollection'))) return [];
  return listOf(root['children']).flatMap((child) => (isJson(child) ? pictureTracks(child, depth + 1) : []));
}

/**
 * Reads a cut from an OpenTimelineIO document: its first picture track.
 * @throws CutReadError with what is wrong
 */
export function readOtio(text: string): ReadCut {
  let root: unknown;
  try {
    root = JSON.parse(text.replace(/^\uFEFF/, ''));
  } catch {
    throw new CutReadError('This is no OpenTimelineIO document: it is not valid JSON, or it was cut off.');
  }
  if (!isJson(root) || schemaOf(root) === '') throw new CutReadError('This is no OpenTimelineIO document: it names no schema.');
  const tracks = pictureTracks(root);
  const [first] = tracks;
  if (!first) throw new CutReadError(`There is no picture track in this document (${schemaOf(root)}). Save the timeline itself.`);
  const notes = tracks.length > 1 ? [`${tracks.length - 1} ${tracks.length === 2 ? 'track' : 'tracks'} over the first`] : [];
  return readCutOf(
    piecesOf(first, notes).filter((piece) => piece.length > 0),
    notes,
  );
}
