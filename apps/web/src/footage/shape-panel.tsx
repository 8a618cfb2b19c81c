import { memo, useState } from 'react';
import { FRAME_RATES, otherShapes, rateLabel, sameRate, type FootageItem } from '@bluster/core';
import type { AssetAnswer as Asset } from '@bluster/wire';
import { Button } from '../interface/button.tsx';
import { useEditor, useMontage } from '../document/editor.ts';
import { OtherShapesDialog } from './other-shapes-dialog.tsx';

const SIZES: readonly (readonly [number, number, string])[] = [
  [1280, 720, '1280×720 wide 16:9'],
  [1920, 1080, '1920×1080 wide 16:9'],
  [3840, 2160, '3840×2160 wide 16:9'],
  [720, 1280, '720×1280 upright 9:16'],
  [1080, 1920, '1080×1920 upright 9:16'],
  [1080, 1080, '1080×1080 square 1:1'],
  [1440, 1080, '1440×1080 narrow 4:3'],
  [1080, 1350, '1080×1350 portrait 4:5'],
  [1920, 804, '1920×804 broad 2.39:1'],
  [2560, 1080, '2560×1080 broad 21:9'],
];

const MOST_OFFERED = 2;
const LARGEST_OFFERED = 3840;

/** Other sizes that much of the footage has, with how many files: to be taken in one click. */
function sizesOf(footage: readonly FootageItem[], but: string): [number, number, number][] {
  const counts = new Map<string, number>();
  for (const { width, height } of footage) {
    const size = `${2 * Math.round(width / 2)}x${2 * Math.round(height / 2)}`;
    counts.set(size, (counts.get(size) ?? 0) + 1);
  }
  return [...counts]
    .map(([size, files]) => [...(size.split('x').map(Number) as [number, number]), files] as [number, number, number])
    .filter(([w, h, files]) => `${w}x${h}` !== but && files > 1 && Math.max(w, h) <= LARGEST_OFFERED)
    .sort((a, b) => b[2] - a[2])
    .slice(0, MOST_OFFERED);
}

/** Frame size and rate of the montage. */
export const ShapePanel = memo(function ShapePanel({ assets }: { assets: ReadonlyMap<string, Asset> }): React.JSX.Element {
  const { shape, footage } = useMontage();
  const [listing, setListing] = useState(false);
  const others = otherShapes(footage, shape).length;
  const { run } = useEditor.getState();
  const size = `${shape.width}x${shape.height}`;
  const sizes = SIZES.some(([w, h]) => `${w}x${h}` === size)
    ? SIZES
    : [...SIZES, [shape.width, shape.height, `${shape.width}×${shape.height}`] as const];
  return (
    <div className="flex flex-wrap items-center gap-2 border-t border-edge bg-paper px-3 py-2.5">
      <b className="font-semibold">Montage</b>
      <select
        aria-label="Frame size"
        className="min-w-0 rounded border border-edge bg-cloth px-1.5 py-1"
        value={size}
        onChange={(e) => {
          const [width, height] = e.target.value.split('x').map(Number) as [number, number];
          run({ do: 'setShape', shape: { ...shape, width, height } });
        }}
      >
        {sizes.map(([w, h, text]) => (
          <option key={text} value={`${w}x${h}`}>
            {text}
          </option>
        ))}
      </select>
      <select
        aria-label="Frame rate"
        className="figures rounded border border-edge bg-cloth px-1.5 py-1"
        value={rateLabel(shape.rate)}
        onChange={(e) => {
          const rate = FRAME_RATES.find((r) => rateLabel(r) === e.target.value);
          if (rate && !sameRate(rate, shape.rate)) run({ do: 'setShape', shape: { ...shape, rate } });
        }}
      >
        {FRAME_RATES.map((rate) => (
          <option key={rateLabel(rate)} value={rateLabel(rate)}>
            {rateLabel(rate)} fps
          </option>
        ))}
      </select>
      {others > 0 && (
        <Button className="ml-auto shrink-0" onClick={() => setListing(true)} hint="What is done to footage of another size or rate">
          {others} of another shape…
        </Button>
      )}
      {sizesOf(footage, size).map(([width, height, files]) => (
        <Button
          key={`${width}x${height}`}
          className="figures h-6!"
          hint={`The montage takes the size of ${files === 1 ? 'this one file' : `these ${files} files`}`}
          onClick={() => run({ do: 'setShape', shape: { ...shape, width, height } })}
        >
          {width}×{height} · {files}
        </Button>
      ))}
      {listing && <OtherShapesDialog assets={assets} onClose={() => setListing(false)} />}
    </div>
  );
});
