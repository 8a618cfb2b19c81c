import { scoreOf } from '@bluster/core';
import { Dialog } from '../../interface/dialog.tsx';
import { useMontage } from '../../document/editor.ts';
import { LayOut } from './lay-out.tsx';
import { ReadCutFile } from './read-cut.tsx';
import { Settle } from './settle.tsx';

/** A cut that was there before the music: laid out over the song as it is, then settled on its marks. */
export function SettleDialog({ open, onClose }: { open: boolean; onClose: () => void }): React.JSX.Element {
  return (
    <Dialog open={open} onClose={onClose} title="A cut that is there already" wide>
      {open && <Steps onClose={onClose} />}
    </Dialog>
  );
}

function Steps({ onClose }: { onClose: () => void }): React.JSX.Element {
  const montage = useMontage();
  const free = scoreOf(montage).pegs.filter((p) => p.peg && !p.mark).length;
  return (
    <div className="space-y-4 text-[12.5px]">
      <LayOut montage={montage} />
      <ReadCutFile montage={montage} />
      {free > 0 ? (
        <Settle montage={montage} free={free} onDone={onClose} />
      ) : (
        <p className="text-soft">Every cut of the score lies on a mark; there is nothing to settle yet.</p>
      )}
    </div>
  );
}
