import { otherShapes, rateLabel, type OtherShape } from '@bluster/core';
import type { AssetAnswer as Asset } from '@bluster/wire';
import { Button } from '../interface/button.tsx';
import { Choice } from '../interface/choice.tsx';
import { Dialog } from '../interface/dialog.tsx';
import { useEditor, useMontage } from '../document/editor.ts';
import { filmFrame } from '../tiles/film-frame.ts';
import { StripTiles } from '../tiles/strip-tiles.tsx';

const percent = (part: number): string => `${Math.round(part * 100)} %`;

/** What is done to a piece of footage, in words. */
function whatIsDone({ item, cropped, empty, enlarged, framesEach }: OtherShape): string {
  const size =
    item.framing === 'fill'
      ? cropped >= 0.01
        ? `${percent(cropped)} of it cropped${item.kind === 'photo' ? ', around its focus point' : ''}`
        : ''
      : empty >= 0.01
        ? `${percent(empty)} of the screen empty`
        : '';
  const scale = enlarged > 1.01 ? `enlarged ${enlarged.toFixed(2)}×` : '';
  const rate =
    framesEach === null
      ? ''
      : framesEach > 1
        ? `shows every ${framesEach.toFixed(2)}th frame`
        : `shows frames ${(1 / framesEach).toFixed(2)} times`;
  return [size, scale, rate].filter(Boolean).join(' · ') || 'nothing is lost';
}

/** Footage that is of another size or rate than the montage, and what is done to it: for all, or one by one. */
export function OtherShapesDialog({ assets, onClose }: { assets: ReadonlyMap<string, Asset>; onClose: () => void }): React.JSX.Element {
  const { footage, shape } = useMontage();
  const { run } = useEditor.getState();
  const others = otherShapes(footage, shape);
  const shaped = others.filter((o) => o.cropped >= 0.01 || o.empty >= 0.01);
  const all = (framing: 'fill' | 'fit'): void =>
    void run({ do: 'setFootageFraming', assetIds: shaped.map((o) => o.item.assetId), framing });
  return (
    <Dialog open wide onClose={onClose} title={`Footage that is not ${shape.width}×${shape.height} at ${rateLabel(shape.rate)} fps`}>
      {shaped.length > 0 && (
        <p className="mb-3 flex items-center gap-2">
          <span className="text-soft">Fill crops what hangs over; fit shows all of it with ground beside it.</span>
          <Button className="ml-auto" onClick={() => all('fill')}>
            Fill with all
          </Button>
          <Button onClick={() => all('fit')}>Fit all</Button>
        </p>
      )}
      <ul className="space-y-2">
        {others.map((other) => (
          <li key={other.item.assetId} className="flex items-center gap-3" data-testid="other-shape">
            <StripTiles
              asset={assets.get(other.item.assetId)}
              width={72}
              height={48}
              times={[other.item.selects[0]?.in ?? 0]}
              framed={filmFrame(other.item, shape)}
              within="contain"
            />
            <span className="min-w-0 flex-1">
              <span className="block truncate">
                {other.item.name}{' '}
                <span className="figures text-[11.5px] text-soft">
                  {other.item.width}×{other.item.height}
                  {other.item.kind === 'clip' && ` · ${rateLabel(other.item.rate)} fps`}
                </span>
              </span>
              <span className="block text-[12px] text-soft">{whatIsDone(other)}</span>
            </span>
            {shaped.includes(other) && (
              <Choice
                label={`Framing of ${other.item.name}`}
                value={other.item.framing}
                options={[
                  ['fill', 'fill'],
                  ['fit', 'fit'],
                ]}
                onChoose={(framing) => run({ do: 'setFootageFraming', assetIds: [other.item.assetId], framing })}
              />
            )}
          </li>
        ))}
      </ul>
    </Dialog>
  );
}
