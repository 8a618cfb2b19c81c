import { z } from 'zod';
import { DRESSING_PARTS } from '../../document/schema.ts';
import { schemaProblem } from '../../document/schema-problem.ts';
import { Refusal } from '../../refusal/refusal.ts';
import { EFFECT_TRIGGERS } from '../effects/triggers.ts';

const { ducking, effect, letterbox, look, moveRule, table, title, titleLook, transition } = DRESSING_PARTS;

/** Sections are meant by their name: another song has others, and mostly some that are called the same. */
const section = z.string().min(1).max(80).nullable();
const beats = z.number().gt(0).max(256);

/** What a montage is dressed in, without its material: what is kept by name and laid on another one. */
export const dressingSchema = z.object({
  format: z.literal('bluster-dressing'),
  version: z.literal(1),
  name: z.string().min(1).max(60),
  /** on every mark or cut of a kind */
  effects: z.array(effect.omit({ id: true, on: true, assetId: true }).extend({ what: z.enum(EFFECT_TRIGGERS), section })).max(60),
  /** on every cut */
  transitions: z.array(z.object({ section, transition })).max(60),
  /** of all pictures or a section's */
  looks: z.array(look.omit({ id: true, section: true, span: true }).extend({ section })).max(60),
  tables: z.array(table).max(40),
  moveRule: moveRule.nullable(),
  /** bars over all of it, or over so many beats from the start on */
  letterboxes: z.array(letterbox.pick({ aspect: true }).extend({ beats: beats.nullable(), fall: z.number().min(0).max(64) })).max(10),
  pictureFades: z.object({ in: z.number().min(0).max(30), out: z.number().min(0).max(30) }),
  styles: z.array(z.object({ name: z.string().min(1).max(60), look: titleLook })).max(200),
  /** how titles look and where they stand, in their order; those beyond the last are as the last */
  titles: z.array(title.pick({ place: true, at: true }).extend({ look: titleLook, style: z.string().max(60).optional() })).max(60),
  ducking,
});

export type Dressing = z.infer<typeof dressingSchema>;

/** Raised when something that should be a dressing is none. */
export class DressingError extends Refusal {}

/** Reads a dressing from parsed JSON. @throws DressingError with the first thing that is wrong */
export function readDressing(value: unknown): Dressing {
  const result = dressingSchema.safeParse(value);
  if (!result.success) throw new DressingError(`This is not a Bluster dressing: ${schemaProblem(result.error.issues[0])}.`);
  const tables = new Set(result.data.tables.map((t) => t.id));
  if (result.data.looks.some((l) => l.table !== undefined && !tables.has(l.table)))
    throw new DressingError('This is not a whole Bluster dressing: a look names a table of colours that is not there.');
  return result.data;
}

/** A dressing with what is not said left bare. */
export function dressing(worn: Pick<Dressing, 'name'> & Partial<Dressing>): Dressing {
  return {
    format: 'bluster-dressing',
    version: 1,
    effects: [],
    transitions: [],
    looks: [],
    tables: [],
    moveRule: null,
    letterboxes: [],
    pictureFades: { in: 0, out: 0 },
    styles: [],
    titles: [],
    ducking: { by: 12, beats: 0.5 },
    ...worn,
  };
}
