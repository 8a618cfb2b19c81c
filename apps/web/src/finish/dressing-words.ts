import { FACES, LOOKS, ships, TRANSITIONS, EFFECTS, triggerTitle, type Dressing } from '@bluster/core';

const few = (words: readonly string[], most: number): string[] => [...new Set(words)].slice(0, most);

/** What is in a dressing, in a line. */
export function dressingWords({ effects, transitions, looks, moveRule, letterboxes, titles }: Dressing): string {
  const parts = [
    ...few(
      effects.map((e) => `${EFFECTS[e.kind].title} on every ${triggerTitle(e.what)}`),
      2,
    ),
    ...few(
      transitions.map((t) => TRANSITIONS[t.transition.kind].title),
      2,
    ),
    few(
      looks.map((l) => LOOKS[l.kind].title),
      3,
    ).join(' and '),
    moveRule ? `moves over ${moveRule.what === 'photos' ? 'photos' : 'all pictures'}` : '',
    letterboxes.length > 0 ? 'letterbox' : '',
    ...few(
      titles.map(({ look: { face } }) => (face !== undefined && ships(face) ? `titles in ${FACES[face].title}` : '')),
      1,
    ),
  ].filter(Boolean);
  return parts.length > 0 ? parts.join(' · ') : 'nothing: as it was cut';
}
