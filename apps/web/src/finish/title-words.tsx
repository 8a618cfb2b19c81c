import { useEffect, useRef, useState } from 'react';
import type { Title } from '@bluster/core';

/** The words of a title; each time the field is left is a step to undo. */
export function TitleWords({ title, onChange }: { title: Title; onChange: (text: string) => void }): React.JSX.Element {
  const [typed, setTyped] = useState<string | null>(null);
  const field = useRef<HTMLTextAreaElement>(null);
  useEffect(() => field.current?.select(), []);
  const leave = (): void => {
    if (typed !== null && typed.trim() !== '' && typed !== title.text) onChange(typed);
    setTyped(null);
  };
  return (
    <textarea
      ref={field}
      aria-label="Words of the title"
      rows={2}
      maxLength={400}
      className="w-full resize-y rounded border border-edge bg-paper px-2 py-1"
      value={typed ?? title.text}
      onChange={(e) => setTyped(e.target.value)}
      onBlur={leave}
      onKeyDown={(e) => {
        if (e.key === 'Enter' && (e.ctrlKey || e.metaKey)) leave();
        if (e.key === 'Escape') setTyped(null);
      }}
    />
  );
}
