import { Slider } from 'radix-ui';
import { useRef, useState } from 'react';

interface LiveSliderProps {
  readonly label: string;
  readonly value: number;
  readonly from: number;
  readonly to: number;
  readonly step?: number;
  /** what stands beside it; per cent where nothing is said */
  readonly shown?: (value: number) => string;
  readonly disabled?: boolean;
  readonly wide?: boolean;
  /** @param again it goes on with the same drag, so that all of it is one step to undo; without this, it is told once at its end */
  readonly onMove?: (value: number, again: boolean) => void;
  readonly onEnd?: (value: number) => void;
}

/** A slider with its value beside it; what it changes can be seen while it is dragged, and is one step to undo. */
export function LiveSlider({
  label,
  value,
  from,
  to,
  step = 0.05,
  shown = (v) => `${Math.round(100 * v)} %`,
  disabled = false,
  wide = false,
  onMove,
  onEnd,
}: LiveSliderProps): React.JSX.Element {
  const [moving, setMoving] = useState<number | null>(null);
  const again = useRef(false);
  return (
    <span className="flex items-center gap-2">
      <Slider.Root
        className={`relative flex h-5 touch-none items-center ${wide ? 'w-40' : 'w-28'}`}
        min={from}
        max={to}
        step={step}
        disabled={disabled}
        value={[moving ?? value]}
        // Its arrows, Home and End are its own, not the playhead's.
        onKeyDown={(event) => /^(Arrow|Home|End|Page)/.test(event.key) && event.stopPropagation()}
        onValueChange={([next]) => {
          setMoving(next!);
          onMove?.(next!, again.current);
          again.current = true;
        }}
        onValueCommit={([next]) => {
          setMoving(null);
          again.current = false;
          onEnd?.(next!);
        }}
      >
        <Slider.Track className="relative h-1 grow rounded bg-edge">
          <Slider.Range className="absolute h-1 rounded bg-spruce/40" />
        </Slider.Track>
        <Slider.Thumb className="block size-3.5 rounded-full border border-spruce bg-paper data-[disabled]:opacity-40" aria-label={label} />
      </Slider.Root>
      {shown(moving ?? value) && <span className="figures w-10 text-[11px] text-soft">{shown(moving ?? value)}</span>}
    </span>
  );
}
