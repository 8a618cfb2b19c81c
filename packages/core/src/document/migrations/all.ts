import { dressing } from './dressing.ts';
import { finish } from './finish.ts';
import { kindsOfRules } from './kinds-of-rules.ts';
import type { Migration, OldDocument } from './migration.ts';
import { sectionIds } from './section-ids.ts';
import { selects } from './selects.ts';
import { shapeViews } from './shape-views.ts';

/** Every step from the first version of the document to today's, in order. */
export const MIGRATIONS: readonly Migration[] = [selects, kindsOfRules, finish, sectionIds, dressing, shapeViews];

/** A montage of an earlier version in today's form; anything else as it is. */
export function upgradeMontage(value: unknown): unknown {
  if (typeof value !== 'object' || value === null || typeof (value as OldDocument).version !== 'number') return value;
  return MIGRATIONS.reduce<OldDocument>(
    (document, { from, upgrade }) => (document.version === from ? { ...upgrade(document), version: from + 1 } : document),
    value as OldDocument,
  );
}
