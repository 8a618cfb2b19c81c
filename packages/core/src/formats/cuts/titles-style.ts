import type { Montage } from '../../document/montage.ts';

/** Captions hold words and times alone. */
export const titlesStyle = ({ titles }: Montage): string[] =>
  titles.length === 0 ? ['everything: there are no titles'] : ['how the titles look, and how they come and go'];
