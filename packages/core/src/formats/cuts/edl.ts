import { framesPerSecond } from '../../time/rate.ts';
import type { Montage } from '../../document/montage.ts';
import { transitionsOf } from '../../finish/placed-transitions.ts';
import { cutFormat } from './cut-format.ts';
import { cutList, type CutPiece } from './cut-list.ts';
import { readEdl } from './read-edl.ts';
import { dressing, easedRetimes, titlesLost } from './dressed-with.ts';

/** An event list counts no further. */
const MOST_EVENTS = 999;
/** The hour at which a programme begins, by the custom of the trade. */
const PROGRAMME_START_H = 1;

/**
 * Frames as time code without dropped numbers: hours, minutes, seconds and frames, two figures each.
 * @param base frames counted to a second: 30 also where 29.97 are shown
 */
export function timeCode(frames: number, base: number): string {
  const two = (value: number): string => String(value).padStart(2, '0');
  const seconds = Math.floor(frames / base);
  return [Math.floor(seconds / 3600), Math.floor(seconds / 60) % 60, seconds % 60, frames % base].map(two).join(':');
}

/** Names of reels: eight capital letters and figures, each of its own. */
function reelsOf(montage: Montage): ReadonlyMap<string, string> {
  const taken = new Set<string>();
  return new Map(
    montage.footage.map(({ assetId, name }) => {
      const plain =
        name
          .replace(/[.][^.]*$/, '')
          .toUpperCase()
          .replace(/[^A-Z0-9]/g, '')
          .slice(0, 8) || 'CLIP';
      let reel = plain;
      for (let n = 2; taken.has(reel); n++) reel = `${plain.slice(0, 8 - String(n).length)}${n}`;
      taken.add(reel);
      return [assetId, reel];
    }),
  );
}

export const edl = cutFormat({
  title: 'Edit decision list',
  says: 'The cuts of the main line in the old form of the trade (CMX 3600), which nearly everything reads.',
  ending: 'edl',
  type: 'text/plain',
  write(montage, { name }) {
    const list = cutList(montage);
    const fps = framesPerSecond(list.rate);
    const base = Math.round(fps);
    const reels = reelsOf(montage);
    const start = PROGRAMME_START_H * 3600 * base;
    const dissolves = new Map(
      transitionsOf(montage)
        .filter((t) => t.transition.kind === 'dissolve')
        .map((t) => [t.cut, t]),
    );
    const source = (piece: CutPiece): [string, string] => {
      const first = Math.max(
        0,
        Math.round(Math.min(piece.sourceIn, piece.sourceIn + Math.min(0, piece.speed) * (piece.frames / fps)) * fps),
      );
      const length = Math.max(1, Math.round(piece.frames * Math.abs(piece.speed)));
      return [timeCode(first, base), timeCode(first + length, base)];
    };
    const record = (frame: number): string => timeCode(start + frame, base);
    const reelOf = (piece: CutPiece): string => (piece.item ? reels.get(piece.item.assetId)! : 'BL').padEnd(8);
    const lines = [`TITLE: ${name.replaceAll(/[\r\n]/g, ' ').slice(0, 70)}`, 'FCM: NON-DROP FRAME', ''];
    list.main.slice(0, MOST_EVENTS).forEach((piece, i) => {
      const number = String(i + 1).padStart(3, '0');
      const [from, to] = source(piece);
      const place = `${from} ${to} ${record(piece.frame)} ${record(piece.frame + piece.frames)}`;
      const before = list.main[i - 1];
      const dissolve = before ? dissolves.get(piece.frame) : undefined;
      if (dissolve && before) {
        // What goes out is named first, with no length of its own.
        const out = source(before)[1];
        lines.push(`${number}  ${reelOf(before)} V     C        ${out} ${out} ${record(piece.frame)} ${record(piece.frame)}`);
        lines.push(`${number}  ${reelOf(piece)} V     D    ${String(dissolve.to - dissolve.from).padStart(3, '0')} ${place}`);
        lines.push(`* FROM CLIP NAME: ${before.item?.name ?? 'BLACK'}`, `* TO CLIP NAME: ${piece.item?.name ?? 'BLACK'}`);
      } else {
        lines.push(`${number}  ${reelOf(piece)} V     C        ${place}`);
        if (piece.item) lines.push(`* FROM CLIP NAME: ${piece.item.name}`);
      }
      if (piece.item?.kind === 'clip' && Math.abs(piece.speed - 1) > 1e-9)
        lines.push(`M2   ${reelOf(piece)}       ${(piece.speed * fps).toFixed(1).padStart(5, '0')}                ${from}`);
    });
    return `${lines.join('\r\n')}\r\n`;
  },
  read: readEdl,
  loses(montage) {
    const { main, over, rate } = cutList(montage);
    const others = transitionsOf(montage).filter((t) => t.transition.kind !== 'dissolve').length;
    const clips = montage.footage.filter((item) => item.kind === 'clip' && framesPerSecond(item.rate) !== framesPerSecond(rate)).length;
    return [
      ...(main.length > MOST_EVENTS ? [`${main.length - MOST_EVENTS} cuts after the first ${MOST_EVENTS}`] : []),
      ...(over.length > 0 ? ['the over line'] : []),
      ...(others > 0
        ? [
            `${others === 1 ? 'a transition that is no dissolve (it becomes a cut)' : `${others} transitions that are no dissolves (they become cuts)`}`,
          ]
        : []),
      ...(clips > 0
        ? [`the frame ${clips === 1 ? 'rate of a clip' : `rates of ${clips} clips`} (times are counted at the montage's)`]
        : []),
      ...titlesLost(montage),
      ...dressing(montage),
      ...easedRetimes(montage),
      'the song and its marks',
    ];
  },
});
