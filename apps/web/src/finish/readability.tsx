import { hardToRead, titlesAt, type Montage, type Title } from '@bluster/core';
import { Button } from '../interface/button.tsx';
import { useBehind } from './use-behind.ts';

/** So much of a title may be hard to read before it is said. */
const WORTH_SAYING = 0.15;

/** Says where a title cannot be read for what lies behind it, and offers a plate. */
export function Readability({
  title,
  montage,
  onPlate,
}: {
  title: Title;
  montage: Montage;
  onPlate: () => void;
}): React.JSX.Element | null {
  const seen = useBehind(title, montage);
  const item = seen && titlesAt(montage, seen.frame).find((t) => t.titleId === title.id);
  if (!item) return null;
  const part = hardToRead(item, seen.pixels, montage.shape);
  if (part < WORTH_SAYING) return null;
  return (
    <p className="flex flex-wrap items-center gap-2 text-[12px] text-gold-text" role="status" data-testid="hard-to-read">
      {Math.round(100 * part)} % of it is hard to read: the picture behind is too much like its letters.
      <Button tight onClick={onPlate}>
        Lay a plate behind
      </Button>
    </p>
  );
}
