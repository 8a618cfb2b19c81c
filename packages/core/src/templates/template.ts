import { z } from 'zod';
import type { Montage } from '../document/montage.ts';
import { readMontage } from '../document/read-montage.ts';
import { schemaProblem } from '../document/schema-problem.ts';
import { Refusal } from '../refusal/refusal.ts';
import { pegsOf, scoreOf } from '../score/score.ts';

/** How long what a template is for may be told. */
export const LONGEST_NOTE = 300;

/**
 * A montage without its pictures: song, marks, slots, rules, titles and what dresses it. Where a shot hung over several slots
 * they are one. Cutaways go with their pegs: without a picture they are nothing.
 */
export function templateOf(montage: Montage): Montage {
  const { pegs, places } = pegsOf(montage);
  const inside = new Set(
    scoreOf(montage).slots.flatMap(({ start, end }) => pegs.slice(places.get(start.id)! + 1, places.get(end.id)).map((p) => p.id)),
  );
  return { ...montage, footage: [], shots: [], pegs: montage.pegs.filter((p) => !p.over && !inside.has(p.id)) };
}

/** A template that ships with Bluster: its montage names its song by the file that ships beside it. */
export interface ShippedTemplate {
  readonly name: string;
  /** what it is for, in a sentence */
  readonly note: string;
  readonly montage: Montage;
}

/** Raised when something that should be a template is none. */
export class TemplateError extends Refusal {}

const shippedSchema = z.object({
  format: z.literal('bluster-template'),
  version: z.literal(1),
  name: z.string().min(1).max(120),
  note: z.string().max(LONGEST_NOTE),
  montage: z.unknown(),
});

/** Reads a template from parsed JSON. @throws TemplateError, MontageFormatError */
export function readTemplate(value: unknown): ShippedTemplate {
  const result = shippedSchema.safeParse(value);
  if (!result.success) throw new TemplateError(`This is not a Bluster template: ${schemaProblem(result.error.issues[0])}.`);
  const { name, note, montage: document } = result.data;
  const montage = readMontage(document);
  if (montage.shots.length + montage.footage.length > 0)
    throw new TemplateError('This is not a Bluster template: it holds shots. Save it as a template anew.');
  return { name, note, montage };
}

/** A template as JSON. */
export function writeTemplate({ name, note, montage }: ShippedTemplate): string {
  return `${JSON.stringify({ format: 'bluster-template', version: 1, name, note, montage })}\n`;
}
