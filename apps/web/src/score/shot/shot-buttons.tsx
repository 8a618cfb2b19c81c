import { scoreOf, slotOf, type PlacedShot, type Slot } from '@bluster/core';
import { Button } from '../../interface/button.tsx';
import { Menu, MenuItem } from '../../interface/menu.tsx';
import { useEditor, useMontage } from '../../document/editor.ts';
import { PanelRow } from '../../interface/panel-row.tsx';
import { goOnDifferent } from './shot-actions.ts';

/** The slot: longer, shorter, divided. */
export function SlotButtons({ slot }: { slot: Slot }): React.JSX.Element | null {
  const { run } = useEditor.getState();
  if (slot.placed?.shot.over) return null;
  const startPeg = slot.start.id;
  return (
    <PanelRow label="Slot">
      <Button
        tight
        onClick={() => run({ do: 'divideSlot', startPeg, by: 'half' })}
        hotkey="S"
        hint="Divide it in half, on a beat where one is there"
      >
        Halve
      </Button>
      <Button tight className="ml-1" onClick={() => run({ do: 'divideSlot', startPeg, by: 'beats' })} hint="A cut on each of its beats">
        By beats
      </Button>
      <Button
        tight
        className="ml-1"
        onClick={() => run({ do: 'divideSlot', startPeg, by: [true, false, false, true, false, false, true, false] })}
        hint="Three, three, two"
      >
        ● ○ ○ ● ○ ○ ● ○
      </Button>
      <Button
        tight
        className="ml-1"
        onClick={() => run({ do: 'joinSlots', startPeg })}
        hint="Takes the next peg away; this shot covers both"
      >
        Join with the next
      </Button>
    </PanelRow>
  );
}

/** What can be done with a shot among the others. */
export function ShotButtons({ slot, placed }: { slot: Slot; placed: PlacedShot }): React.JSX.Element {
  const montage = useMontage();
  const { run, select } = useEditor.getState();
  const more = useEditor((state) => state.selection.moreSlots);
  const { shot, item } = placed;
  const { slots, pegs } = scoreOf(montage);
  const covered = pegs.findIndex((p) => p.id === slot.end.id) - pegs.findIndex((p) => p.id === slot.start.id);
  const next = slots[slot.index + 1];
  const other = more.length === 1 ? slots.find((s) => s.start.id === more[0])?.placed?.shot.id : undefined;
  const goOn = (skip: number): void => void run({ do: 'goOnShot', id: shot.id, slots: 4, skip });
  return (
    <div className="flex flex-wrap gap-1.5 border-t border-edge pt-2.5">
      {!shot.over && (
        <>
          <span className="inline-flex items-center gap-1 text-[12px] text-soft">
            over
            <Button
              tight
              aria-label="Over one slot less"
              disabled={covered < 2}
              onClick={() => run({ do: 'extendShot', id: shot.id, slots: covered - 1 })}
            >
              −
            </Button>
            <b className="figures text-ink">{covered}</b>
            <Button
              tight
              aria-label="Over one slot more"
              disabled={!next}
              onClick={() => run({ do: 'extendShot', id: shot.id, slots: covered + 1 })}
            >
              +
            </Button>
            {covered === 1 ? 'slot' : 'slots'}
          </span>
          <Button
            tight
            aria-label="Slide to the beat before"
            hint="The shot moves a beat back; its neighbours give and take"
            hotkey="Alt ["
            onClick={() => run({ do: 'slideShot', id: shot.id, to: 'before' })}
          >
            ‹ slide
          </Button>
          <Button
            tight
            aria-label="Slide to the beat after"
            hint="The shot moves a beat on; its neighbours give and take"
            hotkey="Alt ]"
            onClick={() => run({ do: 'slideShot', id: shot.id, to: 'after' })}
          >
            slide ›
          </Button>
          <Button
            tight
            disabled={!other && !next?.placed}
            hint={other ? 'The two chosen shots change places' : 'Changes places with the next shot'}
            onClick={() => run({ do: 'swapShots', a: shot.id, b: other ?? next!.placed!.shot.id })}
          >
            Swap
          </Button>
          {item.kind === 'clip' && (
            <Menu
              trigger={
                <Button tight hint="The same clip in the next four slots, each time a jump further">
                  Go on with it
                </Button>
              }
            >
              {[0, 10, 30, 60].map((skip) => (
                <MenuItem key={skip} onSelect={() => goOn(skip)}>
                  {skip === 0 ? 'without a jump' : `skipping ${skip} frames`}
                </MenuItem>
              ))}
              <MenuItem onSelect={() => void goOnDifferent(slotOf(montage, shot.id), 4)}>to the next clearly different picture</MenuItem>
            </Menu>
          )}
          <Button
            tight
            hint="Takes it out; the shots after it move back by one slot"
            hotkey="Shift Del"
            onClick={() => run({ do: 'removeShot', id: shot.id })}
          >
            Take out, close up
          </Button>
        </>
      )}
      <Button
        tight
        look="danger"
        hint="The slot becomes empty; nothing else moves"
        hotkey="Del"
        onClick={() => {
          run({ do: 'takeDownShot', id: shot.id });
          if (shot.over) select({ slotStart: null });
        }}
      >
        Take it down
      </Button>
    </div>
  );
}
