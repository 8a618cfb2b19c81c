import { lookKind } from './look-kind.ts';

export const table = lookKind({
  title: 'table of colours',
  says: 'Colours by a table from a .cube file',
  least: 0,
  usual: 1,
  parts: (strength, table) => (table === null ? {} : { tables: [{ id: table, part: strength }] }),
});
