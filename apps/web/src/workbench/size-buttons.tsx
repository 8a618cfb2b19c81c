import { Expand, Maximize, Shrink } from 'lucide-react';
import { Button } from '../interface/button.tsx';
import { turnDisplay, turnWindow, usePictureSize } from './picture-size.ts';

/** The picture over the whole window or display, and back. */
export function SizeButtons(): React.JSX.Element {
  const { size } = usePictureSize();
  return (
    <>
      <Button
        look="quiet"
        tight
        on={size === 'window'}
        hint={size === 'window' ? 'The picture back into its place' : 'The picture over the whole window'}
        hotkey="Shift W"
        aria-label="The picture over the whole window"
        onClick={turnWindow}
      >
        {size === 'window' ? <Shrink size={14} /> : <Expand size={14} />}
      </Button>
      <Button
        look="quiet"
        tight
        on={size === 'display'}
        hint="The picture on the whole display"
        hotkey="Shift E"
        aria-label="The picture on the whole display"
        onClick={turnDisplay}
      >
        <Maximize size={14} />
      </Button>
    </>
  );
}
