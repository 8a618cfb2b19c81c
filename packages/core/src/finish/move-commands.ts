import { CommandError } from '../document/command-error.ts';
import { command } from '../document/command.ts';
import type { Montage, Move, MoveRule, Shot } from '../document/montage.ts';
import { isInShape, type ShapeView } from '../document/reshaped.ts';
import { changeShots } from '../shots/shot-commands.ts';
import { momentAt, type At } from './moment-at.ts';
import type { View } from './motion/view.ts';

/** A move that is asked for; what is left out is the slot's start or end. */
export type AskedMove = Omit<Move, 'from' | 'to'> & { readonly from?: At | null; readonly to?: At | null };

function moveOf(montage: Montage, { from, to, ...move }: AskedMove): Move {
  return { ...move, from: from ? momentAt(montage, from) : null, to: to ? momentAt(montage, to) : null };
}

export const moveCommands = {
  /** null is as the framing makes it */
  setView: command<{ ids: readonly string[]; view: View | null }>('Frame a shot by hand', (montage, { ids, view }) =>
    changeShots(montage, ids, ({ view: _, ...shot }): Shot =>
      view ? { ...shot, view: { x: view.x, y: view.y, zoom: view.zoom, turn: view.turn } } : shot,
    ),
  ),

  /** in films of another shape, as "9:16"; null is as in the montage's own */
  setShapeView: command<{ ids: readonly string[]; shape: string; stands: Omit<ShapeView, 'shape'> | null }>(
    'Frame a shot for another shape',
    (montage, { ids, shape, stands }) => {
      if (isInShape(shape, montage.shape)) throw new CommandError('That is the montage’s own shape. Frame it under Finish.');
      return changeShots(montage, ids, ({ shapeViews = [], ...shot }): Shot => {
        const others = shapeViews.filter((v) => v.shape !== shape);
        const { framing, view } = stands ?? {};
        const own: ShapeView[] = framing ? [{ shape, framing, ...(view ? { view: { ...view } } : {}) }] : [];
        const all = [...others, ...own];
        return all.length > 0 ? { ...shot, shapeViews: all } : shot;
      });
    },
  ),

  /** 'blurred', a colour #rrggbb, or null for black */
  setBorder: command<{ ids: readonly string[]; border: string | null }>('Change what lies beside a picture', (montage, { ids, border }) =>
    changeShots(montage, ids, ({ border: _, ...shot }): Shot => (border === null ? shot : { ...shot, border })),
  ),

  /** none lets it stand; null lets the rule for moves decide */
  setMoves: command<{ ids: readonly string[]; moves: readonly AskedMove[] | null }>('Move over a picture', (montage, { ids, moves }) => {
    const own = moves?.map((move) => moveOf(montage, move));
    return changeShots(montage, ids, ({ moves: _, ...shot }): Shot => (own ? { ...shot, moves: own } : shot));
  }),

  /** one move a shot, by turns, so that neighbours differ */
  moveByTurns: command<{ ids: readonly string[]; moves: readonly AskedMove[] }>(
    'Move over pictures by turns',
    (montage, { ids, moves }) => {
      if (moves.length === 0) throw new CommandError('Choose at least one way to move.');
      const own = moves.map((move) => moveOf(montage, move));
      return ids.reduce((m, id, i) => changeShots(m, [id], (shot) => ({ ...shot, moves: [own[i % own.length]!] })), montage);
    },
  ),

  setMoveRule: command<{ rule: MoveRule | null }>('Move over all photos', (montage, { rule }) => ({ ...montage, moveRule: rule })),
};
