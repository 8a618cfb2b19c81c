import { Star, X } from 'lucide-react';
import { useState } from 'react';
import type { FootageItem } from '@bluster/core';
import { useKeys } from '../interface/use-keys.ts';
import { useEditor, useMontage } from '../document/editor.ts';

/** What a person says about footage: rating, tags, a note. With several picked it is said about all of them. */
export function Description({ item, picked }: { item: FootageItem; picked: readonly string[] }): React.JSX.Element {
  const montage = useMontage();
  const { run } = useEditor.getState();
  const [tag, setTag] = useState('');
  const assetIds = picked.length > 1 ? picked : [item.assetId];
  const rate = (rating: number): void => void run({ do: 'describeFootage', assetIds, rating });
  useKeys('0,1,2,3,4,5', (event) => rate(Number(event.key)), true);
  const known = [...new Set(montage.footage.flatMap((f) => f.tags))].sort();
  const addTag = (): void => {
    if (tag.trim()) run({ do: 'describeFootage', assetIds, addTags: [tag] });
    setTag('');
  };
  return (
    <div className="flex flex-wrap items-center gap-x-3 gap-y-1.5 text-[12px]">
      <span role="group" aria-label="Rating" className="inline-flex" title="Keys 0 to 5">
        {[1, 2, 3, 4, 5].map((n) => (
          <button
            key={n}
            aria-label={`Rate ${n}`}
            aria-pressed={item.rating === n}
            onClick={() => rate(item.rating === n ? 0 : n)}
            className={`px-[1px] ${n <= item.rating ? 'text-gold-text' : 'text-edge hover:text-gold-text'}`}
          >
            <Star size={15} fill={n <= item.rating ? 'currentColor' : 'none'} />
          </button>
        ))}
      </span>
      <span className="inline-flex flex-wrap items-center gap-1">
        {item.tags.map((t) => (
          <span key={t} className="inline-flex items-center gap-0.5 rounded-full bg-cloth-2 py-0.5 pr-1 pl-2 text-[11.5px]">
            {t}
            <button aria-label={`Take the tag ${t} away`} onClick={() => run({ do: 'describeFootage', assetIds, removeTags: [t] })}>
              <X size={11} />
            </button>
          </span>
        ))}
        <input
          aria-label="Add a tag"
          placeholder="tag"
          list="known-tags"
          value={tag}
          maxLength={40}
          onChange={(e) => setTag(e.target.value)}
          onKeyDown={(e) => e.key === 'Enter' && addTag()}
          onBlur={addTag}
          className="w-20 rounded border border-edge bg-paper px-1.5 py-0.5"
        />
        <datalist id="known-tags">
          {known.map((t) => (
            <option key={t} value={t} />
          ))}
        </datalist>
      </span>
      <Note key={item.assetId} item={item} />
      {picked.length > 1 && <span className="text-soft">for all {picked.length} that are picked</span>}
    </div>
  );
}

/** A note is one step of the history, however long it was typed. */
function Note({ item }: { item: FootageItem }): React.JSX.Element {
  const [text, setText] = useState(item.note);
  const keep = (): void => {
    if (text !== item.note) useEditor.getState().run({ do: 'describeFootage', assetIds: [item.assetId], note: text });
  };
  return (
    <input
      aria-label="Note"
      placeholder="note"
      value={text}
      maxLength={2000}
      onChange={(e) => setText(e.target.value)}
      onBlur={keep}
      onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
      className="min-w-24 flex-1 rounded border border-edge bg-paper px-1.5 py-0.5"
    />
  );
}
