import { scoreOf } from '@bluster/core';
import type { AssetAnswer as Asset } from '@bluster/wire';
import { Button } from '../interface/button.tsx';
import { Choice } from '../interface/choice.tsx';
import { useEditor, useMontage } from '../document/editor.ts';
import { FadesPanel } from './fades-panel.tsx';
import { LetterboxPanel } from './letterbox-panel.tsx';
import { LooksPanel } from './looks-panel.tsx';
import { ShotRow } from './shot-row.tsx';

/** What lies over all pictures: looks, letterboxes and fades; and what is seen of odd-shaped footage. */
export function FrameTab({ assets }: { assets: ReadonlyMap<string, Asset> }): React.JSX.Element {
  const montage = useMontage();
  const { run } = useEditor.getState();
  const { width, height } = montage.shape;
  const placed = scoreOf(montage).slots.flatMap((slot) => (slot.placed ? [{ slot, ...slot.placed }] : []));
  const odd = placed.filter(({ item }) => Math.abs(item.width / item.height - width / height) > 0.01);
  const ids = odd.map((p) => p.shot.id);
  return (
    <div className="space-y-4 px-3.5 pb-4">
      <LooksPanel montage={montage} />
      <LetterboxPanel montage={montage} />
      <FadesPanel montage={montage} />
      {odd.length === 0 ? (
        <p className="border-t border-edge pt-3 text-[12.5px] text-soft">
          {placed.length === 0
            ? 'Nothing hangs yet. Shots of another shape than the montage are listed here once they do.'
            : `Everything that hangs has the montage's shape, ${width}×${height}. Nothing is cropped, nothing has borders.`}
        </p>
      ) : (
        <section aria-label="Framing" className="border-t border-edge pt-3">
          <p className="mb-1.5 text-[12.5px] text-soft">
            {odd.length} {odd.length === 1 ? 'shot has' : 'shots have'} another shape than {width}×{height}.
          </p>
          <p className="mb-3 flex gap-2">
            <Button onClick={() => run({ do: 'setFraming', ids, framing: 'fill' })}>All fill the frame</Button>
            <Button onClick={() => run({ do: 'setFraming', ids, framing: 'fit' })}>All shown whole</Button>
          </p>
          <ul className="space-y-2">
            {odd.map((one) => (
              <ShotRow key={one.shot.id} {...one} asset={assets.get(one.item.assetId)} about={`${one.item.width}×${one.item.height}`}>
                <Choice
                  label={`Framing of slot ${one.slot.index + 1}`}
                  narrow
                  value={one.shot.framing}
                  options={[
                    ['fill', 'fill the frame'],
                    ['fit', 'show all of it'],
                  ]}
                  onChoose={(framing) => run({ do: 'setFraming', ids: [one.shot.id], framing })}
                />
              </ShotRow>
            ))}
          </ul>
        </section>
      )}
    </div>
  );
}
