import type { Montage } from '../../document/montage.ts';
import { cutList } from './cut-list.ts';

const counted = (count: number, one: string, many = `${one}s`): string[] =>
  count === 0 ? [] : [count === 1 ? `a ${one}` : `${count} ${many}`];

/** What of a montage's dressing only Bluster draws, a few words each. */
export function dressing(montage: Montage): string[] {
  const { shots } = montage;
  return [
    ...counted(montage.effects.length, 'effect on marks', 'effects on marks'),
    ...counted(shots.filter((s) => (s.moves ?? []).length > 0).length, 'shot that moves', 'shots that move'),
    ...counted(shots.filter((s) => s.view).length, 'framing by hand', 'framings by hand'),
    ...counted(montage.looks.length + shots.filter((s) => (s.looks ?? []).length > 0).length, 'look'),
    ...counted(montage.letterboxes.length, 'letterbox', 'letterboxes'),
    ...counted(montage.fades.length, 'fade of the picture', 'fades of the picture'),
  ];
}

/** Retimings that change on the way. */
export function easedRetimes(montage: Montage): string[] {
  const { main, over } = cutList(montage);
  return counted(
    [...main, ...over.flat()].filter((piece) => piece.eased).length,
    'speed that changes on the way (its mean is kept)',
    'speeds that change on the way (their mean is kept)',
  );
}

export const titlesLost = ({ titles }: Montage): string[] => counted(titles.length, 'title');
