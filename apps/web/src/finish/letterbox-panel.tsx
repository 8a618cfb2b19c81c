import { Trash2 } from 'lucide-react';
import type { Letterbox, Montage } from '@bluster/core';
import { Button } from '../interface/button.tsx';
import { NumberField } from '../interface/number-field.tsx';
import { useEditor } from '../document/editor.ts';
import { SpanFields } from './span-fields.tsx';

const ASPECTS = ['1', '1.33', '1.85', '2', '2.39'] as const;

/** Bars around the picture, which may open and close. */
export function LetterboxPanel({ montage }: { montage: Montage }): React.JSX.Element {
  const { run } = useEditor.getState();
  const { width, height } = montage.shape;
  // One that is the picture's own shape would cover nothing.
  const offered = ASPECTS.filter((aspect) => Math.abs(Number(aspect) - width / height) > 0.02);
  return (
    <section className="space-y-2 border-t border-edge pt-3" aria-label="Letterbox">
      <p className="flex flex-wrap items-center gap-1.5 text-[12.5px]">
        <span className="text-soft">Letterbox</span>
        {offered.map((aspect) => (
          <Button
            key={aspect}
            tight
            onClick={() => run({ do: 'addLetterbox', aspect: Number(aspect) })}
            aria-label={`Lay a letterbox of ${aspect}`}
          >
            {aspect}
          </Button>
        ))}
        {montage.letterboxes.length === 0 && <span className="text-[12px] text-soft">none yet</span>}
      </p>
      {montage.letterboxes.map((letterbox) => (
        <Laid key={letterbox.id} letterbox={letterbox} own={width / height} />
      ))}
    </section>
  );
}

/** @param own width to height of the picture itself */
function Laid({ letterbox: { id, aspect, span }, own }: { letterbox: Letterbox; own: number }): React.JSX.Element {
  const { run } = useEditor.getState();
  const left = Math.round(100 * Math.min(own / aspect, aspect / own));
  return (
    <div className="space-y-1 text-[12.5px]" data-testid="laid-letterbox">
      <div className="flex items-center gap-2">
        <span className="text-soft">width to height</span>
        <NumberField
          label="Shape of the letterbox, width to height"
          value={aspect}
          from={0.3}
          to={4}
          step={0.01}
          atOnce={false}
          onChange={(to) => run({ do: 'changeLetterbox', id, aspect: to })}
        />
        <span className="text-[12px] text-soft">leaves {left} % of the picture</span>
        <Button
          look="quiet"
          tight
          className="ml-auto"
          aria-label="Remove the letterbox"
          hint="Remove it"
          onClick={() => run({ do: 'removeLetterboxes', ids: [id] })}
        >
          <Trash2 size={13} />
        </Button>
      </div>
      <SpanFields name="The letterbox" span={span} onChange={(to) => run({ do: 'changeLetterbox', id, span: to })} />
    </div>
  );
}
