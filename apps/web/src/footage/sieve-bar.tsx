import { Plus, Search, X } from 'lucide-react';
import { ALL_FOOTAGE, type FootageOrder, type FootageSieve } from '@bluster/core';
import { Button } from '../interface/button.tsx';

const ORDERS: readonly (readonly [FootageOrder, string])[] = [
  ['story', 'story order'],
  ['name', 'by name'],
  ['length', 'longest first'],
  ['taken', 'by time taken'],
  ['movement', 'most movement first'],
  ['brightness', 'brightest first'],
  ['rating', 'best rated first'],
];
const SELECT = 'rounded border border-edge bg-paper px-1 py-1 text-[12px]';

interface BarProps {
  readonly sieve: FootageSieve;
  readonly shown: number;
  readonly all: number;
  readonly onSieve: (sieve: FootageSieve) => void;
  readonly onAdd: () => void;
  readonly onKeepOrder: () => void;
}

/** Finds and sorts footage. */
export function SieveBar({ sieve, shown, all, onSieve, onAdd, onKeepOrder }: BarProps): React.JSX.Element {
  const change = (to: Partial<FootageSieve>): void => onSieve({ ...sieve, ...to });
  const sifted = shown < all;
  return (
    <div className="flex flex-wrap items-center gap-2 border-b border-edge px-5 py-2">
      <h1 className="sr-only">Footage</h1>
      <label className="relative min-w-0 flex-1">
        <Search size={13} className="absolute top-2 left-2 text-soft" aria-hidden />
        <input
          type="search"
          role="searchbox"
          aria-label="Find footage"
          placeholder="name, note or tag"
          value={sieve.text}
          onChange={(e) => change({ text: e.target.value })}
          onKeyDown={(e) => e.key === 'Escape' && change({ text: '' })}
          className="w-full rounded border border-edge bg-paper py-1 pr-1 pl-7 text-[12.5px]"
        />
      </label>
      <select
        aria-label="Which footage"
        className={SELECT}
        value={sieve.kind !== 'any' ? sieve.kind : sieve.use}
        onChange={(e) => {
          const v = e.target.value;
          change(v === 'clip' || v === 'photo' ? { kind: v, use: 'any' } : { kind: 'any', use: v as FootageSieve['use'] });
        }}
      >
        <option value="any">all</option>
        <option value="unused">not used yet</option>
        <option value="used">used</option>
        <option value="clip">clips</option>
        <option value="photo">photos</option>
      </select>
      <select
        aria-label="Least rating"
        className={SELECT}
        value={sieve.leastRating}
        onChange={(e) => change({ leastRating: Number(e.target.value) })}
      >
        <option value={0}>any rating</option>
        {[1, 2, 3, 4, 5].map((n) => (
          <option key={n} value={n}>
            {n === 5 ? 'rated 5' : `rated ${n} or more`}
          </option>
        ))}
      </select>
      <select aria-label="Order" className={SELECT} value={sieve.order} onChange={(e) => change({ order: e.target.value as FootageOrder })}>
        {ORDERS.map(([order, text]) => (
          <option key={order} value={order}>
            {text}
          </option>
        ))}
      </select>
      {sieve.order !== 'story' && !sifted && (
        <Button onClick={onKeepOrder} hint="The story is told in the order that is shown now; undo brings the old one back">
          Make it the story
        </Button>
      )}
      {sifted && (
        <Button look="quiet" tight onClick={() => onSieve({ ...ALL_FOOTAGE, order: sieve.order })} hint="Show all of it again">
          <span className="figures">
            {shown} of {all}
          </span>
          <X size={13} />
        </Button>
      )}
      <Button look="main" onClick={onAdd}>
        <Plus size={14} /> Add footage
      </Button>
    </div>
  );
}
