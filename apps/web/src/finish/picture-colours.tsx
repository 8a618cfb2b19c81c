import { extractColorsFromImageData } from 'extract-colors';
import { useMemo } from 'react';
import type { Title } from '@bluster/core';
import { useMontage } from '../document/editor.ts';
import { useBehind } from './use-behind.ts';

/** As many colours of a picture are offered. */
const OFFERED = 5;

/** The colours that are most of the picture behind a title, to be taken for its letters. */
export function PictureColours({ title, onChoose }: { title: Title; onChoose: (colour: string) => void }): React.JSX.Element | null {
  const seen = useBehind(title, useMontage());
  const colours = useMemo(
    () => (seen ? extractColorsFromImageData(seen.pixels, { pixels: seen.pixels.width * seen.pixels.height }).map((c) => c.hex) : []),
    [seen],
  );
  if (colours.length === 0) return null;
  return (
    <span className="ml-1 inline-flex items-center gap-1 border-l border-edge pl-2" role="group" aria-label="Colours of the picture">
      {colours.slice(0, OFFERED).map((colour) => (
        <button
          key={colour}
          type="button"
          aria-label={`The picture's ${colour}`}
          title={`From the picture: ${colour}`}
          className="size-5 rounded border border-edge"
          style={{ background: colour }}
          onClick={() => onChoose(colour)}
        />
      ))}
    </span>
  );
}
