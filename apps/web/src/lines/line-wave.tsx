import { memo } from 'react';
import { themeColours } from './colours.ts';
import { LineCanvas } from './line-canvas.tsx';
import { CARETS_HEIGHT, drawMarks, drawWave, type SoundOfLine } from './wave-drawing.ts';

/** The sound of one line in three bands, with its marks; drawn again only when something of it changes. */
export const LineWave = memo(function LineWave(props: Omit<SoundOfLine, 'bands'>): React.JSX.Element {
  const sound = { ...props, bands: true };
  return (
    <LineCanvas
      width={props.width}
      height={props.height + CARETS_HEIGHT}
      draw={(c) => {
        const colour = themeColours();
        drawWave(c, sound, colour);
        drawMarks(c, sound, colour);
        return undefined;
      }}
    />
  );
});
