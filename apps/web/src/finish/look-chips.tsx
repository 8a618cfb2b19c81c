import { Plus } from 'lucide-react';
import { useRef } from 'react';
import { LOOKS, LOOK_KINDS, type LookKind, type Montage } from '@bluster/core';
import { readCubeFile } from './read-cube-file.ts';

interface LookChipsProps {
  readonly montage: Montage;
  /** those that are laid */
  readonly on: (kind: LookKind, table?: string) => boolean;
  readonly onLay: (kind: LookKind, table?: string) => void;
}

const CHIP = 'rounded-full border px-2.5 py-0.5 text-[12px] whitespace-nowrap';

/** Every look as a chip to be laid or taken away; tables of colours each by its name, and a way to read one. */
export function LookChips({ montage, on, onLay }: LookChipsProps): React.JSX.Element {
  const input = useRef<HTMLInputElement>(null);
  const chip = (key: string, text: string, says: string, is: boolean, lay: () => void): React.JSX.Element => (
    <button
      key={key}
      type="button"
      aria-pressed={is}
      title={says}
      className={`${CHIP} ${is ? 'border-spruce bg-spruce text-on-spruce' : 'border-edge bg-paper hover:bg-cloth-2'}`}
      onClick={lay}
    >
      {text}
    </button>
  );
  return (
    <div className="flex flex-wrap gap-1" role="group" aria-label="Looks">
      {LOOK_KINDS.filter((kind) => kind !== 'table').map((kind) =>
        chip(kind, LOOKS[kind].title, LOOKS[kind].says, on(kind), () => onLay(kind)),
      )}
      {montage.tables.map((table) => chip(table.id, table.name, LOOKS.table.says, on('table', table.id), () => onLay('table', table.id)))}
      <button type="button" className={`${CHIP} border-dashed border-edge text-soft hover:text-ink`} onClick={() => input.current?.click()}>
        <Plus size={11} className="inline" /> .cube
      </button>
      <input
        ref={input}
        type="file"
        accept=".cube"
        aria-label="File of a table of colours"
        data-testid="cube-file"
        className="sr-only"
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) void readCubeFile(file).then((table) => table !== null && onLay('table', table));
          event.target.value = '';
        }}
      />
    </div>
  );
}
