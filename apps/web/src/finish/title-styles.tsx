import { PencilLine, Trash2 } from 'lucide-react';
import { useState } from 'react';
import type { Montage, Title } from '@bluster/core';
import { Button } from '../interface/button.tsx';
import { PanelRow } from '../interface/panel-row.tsx';
import { NameDialog } from '../interface/name-dialog.tsx';
import { useEditor } from '../document/editor.ts';

/** The style that a title wears: changed in one place, for all that wear it. */
export function TitleStyles({ title, montage }: { title: Title; montage: Montage }): React.JSX.Element {
  const [naming, setNaming] = useState<'new' | 'again' | null>(null);
  const { run } = useEditor.getState();
  const worn = montage.styles.find((s) => s.id === title.style);
  const wearers = montage.titles.filter((t) => t.style === title.style).length;
  return (
    <PanelRow label="Style">
      <span className="flex flex-wrap items-center gap-1.5">
        {montage.styles.length > 0 && (
          <select
            aria-label="Style of the title"
            className="max-w-40 rounded border border-edge bg-paper px-1.5 py-1 text-[12px]"
            value={worn?.id ?? ''}
            onChange={(e) => run({ do: 'wearStyle', ids: [title.id], style: e.target.value === '' ? null : e.target.value })}
          >
            <option value="">its own</option>
            {montage.styles.map((style) => (
              <option key={style.id} value={style.id}>
                {style.name}
              </option>
            ))}
          </select>
        )}
        {worn ? (
          <>
            <span className="text-[12px] text-soft" data-testid="style-wearers">
              {wearers === 1 ? 'worn by this title' : `changes are for all ${wearers} titles that wear it`}
            </span>
            <Button tight look="quiet" aria-label="Rename the style" hint="Rename the style" onClick={() => setNaming('again')}>
              <PencilLine size={12} />
            </Button>
            <Button
              tight
              look="quiet"
              aria-label="Remove the style"
              hint="Remove the style; its titles keep how they look"
              onClick={() => run({ do: 'removeStyle', id: worn.id })}
            >
              <Trash2 size={12} />
            </Button>
          </>
        ) : (
          <Button tight onClick={() => setNaming('new')}>
            Keep as a style
          </Button>
        )}
      </span>
      {naming && (
        <NameDialog
          title={naming === 'new' ? 'Keep as a style' : 'Rename the style'}
          initial={naming === 'new' ? '' : worn!.name}
          onClose={() => setNaming(null)}
          onName={(name) => {
            const done =
              naming === 'new' ? run({ do: 'keepStyle', titleId: title.id, name }) : run({ do: 'renameStyle', id: worn!.id, name });
            if (done) setNaming(null);
          }}
        />
      )}
    </PanelRow>
  );
}
