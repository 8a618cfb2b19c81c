import type { Montage } from '../../document/montage.ts';
import { cutList } from './cut-list.ts';

/** @param one with its article */
const counted = (count: number, one: string, many: string): string[] => (count === 0 ? [] : [count === 1 ? one : `${count} ${many}`]);

/** What of a montage's dressing only Bluster draws, a few words each. */
export function dressing(montage: Montage): string[] {
  const { shots } = montage;
  return [
    ...counted(montage.effects.length, 'an effect on marks', 'effects on marks'),
    ...counted(shots.filter((s) => (s.moves ?? []).length > 0).length, 'a shot that moves', 'shots that move'),
    ...counted(shots.filter((s) => s.view).length, 'a framing by hand', 'framings by hand'),
    ...counted(montage.looks.length + shots.filter((s) => (s.looks ?? []).length > 0).length, 'a look', 'looks'),
    ...counted(montage.letterboxes.length, 'a letterbox', 'letterboxes'),
    ...counted(montage.fades.length, 'a fade of the picture', 'fades of the picture'),
  ];
}

/** Retimings that change on the way. */
export function easedRetimes(montage: Montage): string[] {
  const { main, over } = cutList(montage);
  return counted(
    [...main, ...over.flat()].filter((piece) => piece.eased).length,
    'a speed that changes on the way (its mean is kept)',
    'speeds that change on the way (their mean is kept)',
  );
}

export const titlesLost = ({ titles }: Montage): string[] => counted(titles.length, 'a title', 'titles');
