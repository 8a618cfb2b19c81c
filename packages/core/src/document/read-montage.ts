import { Refusal } from '../refusal/refusal.ts';
import { FACE_NAMES } from '../finish/faces/faces.ts';
import { END_PEG, START_PEG, type Montage } from './montage.ts';
import { upgradeMontage } from './migrations/all.ts';
import { montageSchema } from './schema.ts';
import { schemaProblem } from './schema-problem.ts';
import { MONTAGE_VERSION } from './version.ts';

/** Raised when something that should be a montage is none; says where and why in one sentence. */
export class MontageFormatError extends Refusal {}

/**
 * Reads a montage from parsed JSON.
 * @throws MontageFormatError with the first thing that is wrong, or where it is of a newer version: nothing of it would be lost unseen.
 * @example
 * readMontage(JSON.parse(JSON.stringify(montage))).version // 7
 */
export function readMontage(value: unknown): Montage {
  const { format, version } = (value ?? {}) as { format?: unknown; version?: unknown };
  if (format === 'bluster-montage' && typeof version === 'number' && version > MONTAGE_VERSION)
    throw new MontageFormatError(
      `This montage was made by a newer Bluster (version ${version} of the document; this one knows ${MONTAGE_VERSION}). Open it with that one.`,
    );
  const result = montageSchema.safeParse(upgradeMontage(value));
  if (result.success) {
    const problem = brokenReference(result.data);
    if (problem) throw new MontageFormatError(`This is not a whole Bluster montage: ${problem}.`);
    return result.data;
  }
  throw new MontageFormatError(`This is not a Bluster montage: ${schemaProblem(result.error.issues[0])}.`);
}

function brokenReference(montage: Montage): string | null {
  const ids = new Set<string>();
  const sections = montage.song?.sections ?? [];
  const selects = montage.footage.flatMap((item) => item.selects);
  for (const { id } of [
    ...montage.marks,
    ...montage.pegs,
    ...montage.shots,
    ...montage.effects,
    ...montage.titles,
    ...montage.styles,
    ...montage.levels,
    ...montage.looks,
    ...montage.tables,
    ...montage.fades,
    ...montage.letterboxes,
    ...sections,
    ...selects,
  ]) {
    if (ids.has(id)) return `the id ${id} stands for two things`;
    ids.add(id);
  }
  const footage = new Set(montage.footage.map((item) => item.assetId));
  if (footage.size !== montage.footage.length) return 'the same clip is listed twice in its footage';
  const marks = new Set(montage.marks.map((m) => m.id));
  for (const p of montage.pegs) if (p.markId !== null && !marks.has(p.markId)) return `peg ${p.id} names a mark that is not there`;
  for (const { id, from, until } of montage.titles)
    for (const end of [from, until])
      if (end && end !== 'cut' && end.markId !== null && !marks.has(end.markId)) return `title ${id} names a mark that is not there`;
  const styles = new Set(montage.styles.map((s) => s.id));
  for (const { id, style } of montage.titles)
    if (style !== undefined && !styles.has(style)) return `title ${id} wears a style that is not there`;
  const faces = new Set<string>([...FACE_NAMES, ...montage.faces.map((f) => f.assetId)]);
  for (const { face } of [...montage.titles, ...montage.styles.map((s) => s.look)])
    if (face !== undefined && !faces.has(face)) return 'a title is written in a typeface that is not there';
  for (const { id, at } of montage.levels)
    if (at.markId !== null && !marks.has(at.markId)) return `level ${id} names a mark that is not there`;
  const spans = [...montage.looks, ...montage.fades, ...montage.letterboxes].flatMap(({ id, span }) => (span ? [{ id, span }] : []));
  for (const { id, span } of spans)
    for (const end of [span.from, span.to])
      if (end && end.markId !== null && !marks.has(end.markId)) return `${id} names a mark that is not there`;
  for (const { id, moves } of montage.shots)
    for (const end of (moves ?? []).flatMap(({ from, to }) => [from, to]))
      if (end && end.markId !== null && !marks.has(end.markId)) return `a move of shot ${id} names a mark that is not there`;
  const tables = new Set(montage.tables.map((t) => t.id));
  for (const { table } of [...montage.looks, ...montage.shots.flatMap((s) => s.looks ?? [])])
    if (table !== undefined && !tables.has(table)) return `a look names a table of colours that is not there`;
  const sounds = new Set(montage.sounds.map((s) => s.assetId));
  for (const { id, kind, assetId } of montage.effects)
    if (kind === 'sound' && !sounds.has(assetId ?? '')) return `effect ${id} is a sound that is not there`;
  for (const { id, on } of montage.effects)
    if (on.kind === 'moment' && on.markId !== null && !marks.has(on.markId)) return `effect ${id} names a mark that is not there`;
  const pegs = new Set([START_PEG, END_PEG, ...montage.pegs.map((p) => p.id)]);
  for (const s of montage.shots) {
    if (!footage.has(s.assetId)) return `shot ${s.id} shows a clip that is not in the footage`;
    if (!pegs.has(s.startPeg) || !pegs.has(s.endPeg)) return `shot ${s.id} hangs from a peg that is not there`;
  }
  return null;
}
