import { FRAME_RATES, rateLabel, sameRate } from '@bluster/core';
import { useEditor, useMontage } from '../project/editor.ts';

const SIZES: readonly (readonly [number, number, string])[] = [
  [1280, 720, '1280×720 wide'],
  [1920, 1080, '1920×1080 wide'],
  [3840, 2160, '3840×2160 wide'],
  [720, 1280, '720×1280 upright'],
  [1080, 1920, '1080×1920 upright'],
  [1080, 1080, '1080×1080 square'],
  [1080, 1350, '1080×1350 portrait'],
];

/** Frame size and rate of the montage. */
export function ShapePanel(): React.JSX.Element {
  const { shape } = useMontage();
  const { run } = useEditor.getState();
  const size = `${shape.width}x${shape.height}`;
  const sizes = SIZES.some(([w, h]) => `${w}x${h}` === size)
    ? SIZES
    : [...SIZES, [shape.width, shape.height, `${shape.width}×${shape.height}`] as const];
  return (
    <div className="flex items-center gap-3 border-t border-edge bg-paper px-3 py-2.5">
      <b className="font-semibold">The montage</b>
      <select
        aria-label="Frame size"
        className="rounded border border-edge bg-cloth px-1.5 py-1"
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
            {rateLabel(rate)}
          </option>
        ))}
      </select>
      <span className="text-soft">frames a second</span>
    </div>
  );
}
