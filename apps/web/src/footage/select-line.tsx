import { ChevronDown, X } from 'lucide-react';
import { Slider } from 'radix-ui';
import { clock, framesPerSecond, stretchesByChanges, stretchesByHits, type FootageItem } from '@bluster/core';
import type { ClipLook } from '@bluster/wire';
import { Button } from '../interface/button.tsx';
import { Menu, MenuItem } from '../interface/menu.tsx';
import type { SelectWork } from './use-select-work.ts';

/** The select that is worked on: its ends to be drawn, its times, its hit, and how to make others. */
export function SelectLine({
  item,
  look,
  proposed,
  work,
  onBegin,
}: {
  item: FootageItem;
  look: ClipLook | undefined;
  /** how many hits are proposed */
  proposed: number;
  work: SelectWork;
  onBegin: () => void;
}): React.JSX.Element {
  const { select, setEnds, chop } = work;
  const fps = framesPerSecond(item.rate);
  const frame = 1 / fps;
  return (
    <>
      <Slider.Root
        className="relative flex h-4 touch-none items-center select-none"
        min={0}
        max={item.frames}
        step={1}
        minStepsBetweenThumbs={1}
        value={[Math.round(select.in / frame), Math.round(select.out / frame)]}
        onValueChange={([a, b]) => setEnds(a! * frame, b! * frame)}
      >
        <Slider.Track className="relative h-1.5 grow rounded-full bg-cloth-2">
          <Slider.Range className="absolute h-full rounded-full bg-gold" />
        </Slider.Track>
        <Slider.Thumb aria-label="In" className="block h-4 w-2 rounded-sm bg-gold-text" />
        <Slider.Thumb aria-label="Out" className="block h-4 w-2 rounded-sm bg-gold-text" />
      </Slider.Root>
      <div className="flex flex-wrap items-center gap-1.5 text-[12px]" data-testid="select-line">
        <span className="figures whitespace-nowrap" title={`${(select.out - select.in).toFixed(3)} s`}>
          {clock(select.in)}–{clock(select.out)}
        </span>
        {select.hit !== null && <span className="figures whitespace-nowrap text-coral-text">hit {clock(select.hit)}</span>}
        <span className="ml-auto flex items-center gap-1">
          {item.selects.length > 0 && (
            <Button
              look="quiet"
              tight
              hint={item.selects.length === 1 ? 'All of the clip is worth using again' : 'Take this select away'}
              aria-label="Take this select away"
              onClick={work.takeAway}
            >
              <X size={13} /> {item.selects.findIndex((s) => s.id === select.id) + 1} of {item.selects.length}
            </Button>
          )}
          <Button hint="Another stretch of this clip starts here" hotkey="Shift I" onClick={onBegin}>
            New select
          </Button>
          <Menu
            trigger={
              <Button disabled={!look}>
                Chop <ChevronDown size={12} />
              </Button>
            }
          >
            <MenuItem onSelect={() => chop('at picture changes', look ? stretchesByChanges(look, fps) : [])}>
              At its picture changes ({look?.changes.length ?? 0})
            </MenuItem>
            <MenuItem onSelect={() => chop('around hits', look ? stretchesByHits(look, fps) : [])}>Around its hits ({proposed})</MenuItem>
          </Menu>
        </span>
      </div>
    </>
  );
}
