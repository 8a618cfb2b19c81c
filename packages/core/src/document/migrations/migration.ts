/** A document of an earlier version, as it was parsed: an object that says its version, with nothing else known for sure. */
export type OldDocument = Readonly<Record<string, unknown>> & { readonly version: number };

/** One step from a version of the document to the next. It must cope with any rubbish, which is refused afterwards. */
export interface Migration {
  /** the version that it reads; it writes the one after it */
  readonly from: number;
  /** what was different, in a line */
  readonly what: string;
  readonly upgrade: (old: OldDocument) => Readonly<Record<string, unknown>>;
}

/** A list that may not be one. */
export function listIn(value: unknown): readonly unknown[] {
  return Array.isArray(value) ? (value as readonly unknown[]) : [];
}

/** An object that may not be one. */
export function recordIn(value: unknown): Readonly<Record<string, unknown>> {
  return typeof value === 'object' && value !== null && !Array.isArray(value) ? (value as Readonly<Record<string, unknown>>) : {};
}
