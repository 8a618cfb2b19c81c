import { Plus, Trash2 } from 'lucide-react';
import {
  EASES,
  EASE_NAMES,
  MOVES,
  MOVE_KINDS,
  movesOf,
  type AskedMove,
  type At,
  type Moment,
  type Montage,
  type Move,
  type MoveKind,
} from '@bluster/core';
import { Button } from '../interface/button.tsx';
import { Chips } from '../interface/chips.tsx';
import { LiveSlider } from '../interface/live-slider.tsx';
import { PanelRow } from '../interface/panel-row.tsx';
import { useEditor } from '../document/editor.ts';
import type { FilledSlot } from './chosen-shots.ts';
import { useFinishing } from './finishing.ts';
import { MomentField } from './moment-field.tsx';
import { MoveSketch } from './move-sketch.tsx';
import { oneStep } from './one-step.ts';

/** How a move is when it is laid. */
const USUAL: AskedMove = { kind: 'closer', strength: 0.4, ease: 'in-and-out' };

const asAt = (moment: Moment | null): At | null =>
  moment === null ? null : moment.markId === null ? { time: moment.time } : { markId: moment.markId };
/** A move as it is asked for again. */
export const asked = ({ from, to, ...move }: Move): AskedMove => ({ ...move, from: asAt(from), to: asAt(to) });

const READY = MOVE_KINDS.filter((kind) => kind !== 'drawn');

/** How the frame of the chosen shots travels. */
export function MovePanel({ montage, slots }: { montage: Montage; slots: readonly FilledSlot[] }): React.JSX.Element {
  const { move: at, framing } = useFinishing();
  const { run } = useEditor.getState();
  const ids = slots.map((s) => s.placed.shot.id);
  const first = slots[0]!.placed.shot;
  const moves = movesOf(montage, first);
  const now = Math.min(at, Math.max(0, moves.length - 1));
  const move = moves[now];
  const byRule = !first.moves && moves.length > 0;
  /** The moves of all chosen shots with one changed, laid or taken away. */
  const setAll = (change: (moves: readonly AskedMove[]) => readonly AskedMove[], again = false): void =>
    oneStep({ do: 'setMoves', ids, moves: change(moves.map(asked)) }, again);
  const change = (to: Partial<AskedMove>, again = false): void =>
    setAll((all) => all.map((one, i) => (i === now ? { ...one, ...to } : one)), again);
  const lay = (kind: MoveKind | 'stands'): void => {
    if (kind === 'stands') return void run({ do: 'setMoves', ids, moves: [] });
    const { views: _, ...kept } = move ? asked(move) : USUAL;
    setAll((all) => (all.length === 0 ? [{ ...kept, kind }] : all.map((one, i) => (i === now ? { ...kept, kind } : one))));
    return undefined;
  };
  const byTurns = (): void => {
    const { views: _, ...kept } = move ? asked(move) : USUAL;
    const kinds: MoveKind[] = ['closer', 'left', 'wider', 'right'];
    run({ do: 'moveByTurns', ids, moves: kinds.map((kind) => ({ ...kept, kind })) });
  };
  return (
    <section className="space-y-2.5" aria-label="Move">
      {moves.length > 1 && (
        <Chips
          label="Which move"
          value={String(now)}
          options={moves.map((one, i) => [String(i), `${i + 1}. ${MOVES[one.kind].title}`] as const)}
          onChoose={(n) => useFinishing.setState({ move: Number(n) })}
        />
      )}
      <div className="grid grid-cols-[repeat(auto-fill,minmax(78px,1fr))] gap-1.5" role="radiogroup" aria-label="Move">
        {(['stands', ...READY] as const).map((kind) => {
          const on = kind === 'stands' ? moves.length === 0 : move?.kind === kind;
          const title = kind === 'stands' ? 'stands' : MOVES[kind].title;
          return (
            <button
              key={kind}
              role="radio"
              aria-checked={on}
              aria-label={title}
              title={kind === 'stands' ? 'The frame stands' : MOVES[kind].says}
              className={`grid justify-items-center gap-0.5 rounded-md border px-1 pt-1.5 pb-1 text-[11.5px] ${on ? 'border-spruce bg-paper font-semibold text-spruce' : 'border-edge bg-paper hover:bg-cloth-2'}`}
              onClick={() => lay(kind)}
            >
              <MoveSketch kind={kind} />
              {title}
            </button>
          );
        })}
      </div>
      {byRule && <p className="text-[12px] text-soft">It moves by the rule below; what is chosen here is for this shot alone.</p>}
      {move && (
        <>
          <PanelRow label="How far">
            <LiveSlider
              label="How far the move goes"
              value={move.strength}
              from={0.05}
              to={1}
              disabled={move.kind === 'drawn'}
              onMove={(strength, again) => change({ strength }, again)}
            />
            <label className="ml-3 inline-flex items-center gap-1.5 text-[12px] text-soft">
              <input type="checkbox" checked={move.byEnergy ?? false} onChange={(e) => change({ byEnergy: e.target.checked })} />
              by energy
            </label>
          </PanelRow>
          <PanelRow label="Eases">
            <Chips
              label="How the move eases"
              value={move.ease}
              options={EASE_NAMES.map((ease) => [ease, EASES[ease].title] as const)}
              onChoose={(ease) => change({ ease })}
            />
          </PanelRow>
          <PanelRow label="When">
            <span className="flex flex-wrap gap-x-3">
              <MomentField label="from" moment={move.from} none="its start" onChange={(from) => change({ from })} />
              <MomentField label="arrives" moment={move.to} none="at its end" onChange={(to) => change({ to })} />
            </span>
          </PanelRow>
        </>
      )}
      <p className="flex flex-wrap gap-1.5">
        {slots.length === 1 && (
          <Button on={framing} hint="Drag the frames on the picture" onClick={() => useFinishing.setState({ framing: !framing })}>
            Draw the frames
          </Button>
        )}
        {slots.length > 1 && (
          <Button hint="Closer, to the left, wider, to the right, so that neighbours differ" onClick={byTurns}>
            By turns
          </Button>
        )}
        {move && (
          <Button
            hint="From where this one arrives on"
            onClick={() => {
              setAll((all) => [
                ...all,
                { ...USUAL, from: all.at(-1)!.to ?? null, kind: all.at(-1)!.kind === 'closer' ? 'wider' : 'closer' },
              ]);
              useFinishing.setState({ move: moves.length });
            }}
          >
            <Plus size={13} /> One more
          </Button>
        )}
        {move && moves.length > 1 && (
          <Button tight look="danger" aria-label="Take this move away" onClick={() => setAll((all) => all.filter((_, i) => i !== now))}>
            <Trash2 size={13} />
          </Button>
        )}
        {first.moves && montage.moveRule && <Button onClick={() => run({ do: 'setMoves', ids, moves: null })}>As the rule says</Button>}
      </p>
    </section>
  );
}
