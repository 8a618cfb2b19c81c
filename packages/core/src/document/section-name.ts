/** Names of sections have so many letters at most. */
export const LONGEST_SECTION_NAME = 40;

/** A section's name as it stands in a file, on one line and without spaces around it; null where it is none. */
export function sectionName(text: unknown): string | null {
  const name = typeof text === 'string' ? text.replace(/\s+/g, ' ').trim().slice(0, LONGEST_SECTION_NAME).trim() : '';
  return name === '' ? null : name;
}
