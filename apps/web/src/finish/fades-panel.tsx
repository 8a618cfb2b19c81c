import { Trash2 } from 'lucide-react';
import { placedMarks, type At, type Montage } from '@bluster/core';
import { Button } from '../interface/button.tsx';
import { player } from '../playback/player.ts';
import { useEditor } from '../document/editor.ts';
import { atPlayhead } from './moment-at-playhead.ts';
import { SpanFields } from './span-fields.tsx';

/** The bar after the next one, where a fade that is laid ends; the montage's end where there is none. */
function barAfter(montage: Montage, time: number): At | null {
  const bars = placedMarks(montage).filter((p) => p.mark.kind === 'bar' && p.time > time + 0.4);
  return bars[0] ? { markId: bars[0].mark.id } : null;
}

/** The picture goes into a colour and comes out of it, from one moment to another. */
export function FadesPanel({ montage }: { montage: Montage }): React.JSX.Element {
  const { run } = useEditor.getState();
  return (
    <section className="space-y-2 border-t border-edge pt-3" aria-label="Fades of the picture">
      <p className="flex flex-wrap items-center gap-1.5 text-[12.5px]">
        <span className="text-soft">Fades into a colour</span>
        <Button
          disabled={!montage.song}
          hint="From the mark at the playhead to the next bar"
          onClick={() => {
            const from = atPlayhead();
            if (from) run({ do: 'addFade', colour: '#000000', span: { from, to: barAfter(montage, player.time()), rise: 1, fall: 1 } });
          }}
        >
          Lay one here
        </Button>
      </p>
      {montage.fades.map(({ id, colour, span }) => (
        <div key={id} className="space-y-1" data-testid="laid-fade">
          <p className="flex items-center gap-2 text-[12.5px]">
            <input
              type="color"
              aria-label="Colour of the fade"
              className="h-6 w-8 rounded border border-edge bg-paper"
              value={colour}
              onChange={(e) => run({ do: 'changeFade', id, colour: e.target.value })}
            />
            <Button
              look="quiet"
              tight
              className="ml-auto"
              aria-label="Remove the fade"
              hint="Remove it"
              onClick={() => run({ do: 'removeFades', ids: [id] })}
            >
              <Trash2 size={13} />
            </Button>
          </p>
          <SpanFields name="The fade" span={span} onChange={(to) => run({ do: 'changeFade', id, span: to })} />
        </div>
      ))}
    </section>
  );
}
