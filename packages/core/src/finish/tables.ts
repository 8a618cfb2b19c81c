import { onceFor } from '../lists/once-for.ts';
import type { Montage, Table } from '../document/montage.ts';
import type { ColourCube } from './looks/look-parts.ts';

/** Colours along each edge of a table as the document holds it. */
export const TABLE_EDGE = 17;

const cubeIn = onceFor((table: Table): ColourCube => {
  const binary = atob(table.colours);
  return { size: TABLE_EDGE, colours: Uint8Array.from({ length: 3 * TABLE_EDGE ** 3 }, (_, i) => binary.charCodeAt(i)) };
});

/** The table of colours of an id; null where there is none. */
export function tableNamed(montage: Pick<Montage, 'tables'>, id: string): ColourCube | null {
  const table = montage.tables.find((t) => t.id === id);
  return table ? cubeIn(table) : null;
}

/** A table of colours as the document holds it: base64. */
export function tableText({ colours }: ColourCube): string {
  let binary = '';
  for (const byte of colours) binary += String.fromCharCode(byte);
  return btoa(binary);
}
