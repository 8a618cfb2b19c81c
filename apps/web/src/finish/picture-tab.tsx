import { Link } from 'react-router';
import { scoreOf, sectionStretches, isInSection, toSongTime, type Montage } from '@bluster/core';
import { Button } from '../interface/button.tsx';
import { useEditor, useMontage } from '../document/editor.ts';
import { player } from '../playback/player.ts';
import { slotInSight, useChosenSlots, type FilledSlot } from './chosen-shots.ts';
import { useFinishing } from './finishing.ts';
import { FramingPanel } from './framing-panel.tsx';
import { MovePanel } from './move-panel.tsx';
import { MoveRulePanel } from './move-rule-panel.tsx';
import { OverPanel } from './over-panel.tsx';
import { ShotLooksPanel } from './shot-looks-panel.tsx';
import { secondsWords } from './slot-words.ts';

/** Chooses other slots that go with the chosen ones. */
function choose(slots: readonly FilledSlot[]): void {
  const [first, ...more] = slots.map((s) => s.start.id);
  if (first !== undefined) {
    useEditor.getState().select({ slotStart: first });
    useEditor.getState().select({ moreSlots: more });
  }
}

const filled = (montage: Montage): FilledSlot[] => scoreOf(montage).slots.filter((s): s is FilledSlot => s.placed !== null);

/** All shots of the clips of some, of their section, or all photos. */
function likewise(montage: Montage, slots: readonly FilledSlot[], what: 'clip' | 'section' | 'photos'): FilledSlot[] {
  const all = filled(montage);
  if (what === 'photos') return all.filter((s) => s.placed.item.kind === 'photo');
  if (what === 'clip') {
    const assets = new Set(slots.map((s) => s.placed.item.assetId));
    return all.filter((s) => assets.has(s.placed.item.assetId));
  }
  const pieces = montage.song?.pieces ?? [];
  const songTime = (s: FilledSlot): number => toSongTime(pieces, s.start.time);
  const stretches = sectionStretches(montage).filter((stretch) => slots.some((s) => isInSection(stretch, songTime(s))));
  return all.filter((s) => stretches.some((stretch) => isInSection(stretch, songTime(s))));
}

/** The pictures of the chosen shots: how their frame travels, how they are framed, what they look like. */
export function PictureTab(): React.JSX.Element {
  const montage = useMontage();
  const slots = useChosenSlots();
  const part = useFinishing((state) => state.part);
  const photos = filled(montage).filter((s) => s.placed.item.kind === 'photo');
  if (filled(montage).length === 0)
    return (
      <p className="px-3.5 text-[12.5px] text-soft">
        Nothing hangs yet.{' '}
        <Link className="text-spruce underline" to="../score" relative="path">
          Fill the slots in Score
        </Link>{' '}
        first.
      </p>
    );
  return (
    <div className="space-y-3 px-3.5 pb-4">
      {slots.length === 0 ? (
        <div className="space-y-2 text-[12.5px]">
          <p className="text-soft">Choose a shot on the right; with Ctrl one more, with Shift all up to it.</p>
          <p className="flex flex-wrap gap-1.5">
            <Button
              onClick={() => {
                const slot = slotInSight(montage, Math.floor(player.time() * (montage.shape.rate.num / montage.shape.rate.den) + 1e-3));
                if (slot) choose([slot]);
              }}
            >
              The one in sight
            </Button>
            {photos.length > 0 && <Button onClick={() => choose(photos)}>All {photos.length} photos</Button>}
          </p>
        </div>
      ) : (
        <>
          <p className="text-[12.5px]">
            {slots.length === 1 ? (
              <>
                <b className="font-semibold">{slots[0]!.placed.item.name}</b>{' '}
                <span className="text-soft">
                  · {slots[0]!.placed.item.kind} · {slots[0]!.placed.shot.over ? 'cutaway' : `slot ${slots[0]!.index + 1}`} ·{' '}
                  {secondsWords(slots[0]!)}
                </span>
              </>
            ) : (
              <b className="font-semibold">{slots.length} shots</b>
            )}
          </p>
          <p className="flex flex-wrap items-center gap-1.5 text-[12px] text-soft">
            choose also
            <Button tight onClick={() => choose(likewise(montage, slots, 'clip'))}>
              all of {slots.length === 1 ? 'this clip' : 'these clips'}
            </Button>
            <Button tight onClick={() => choose(likewise(montage, slots, 'section'))}>
              this section
            </Button>
            {photos.length > 0 && (
              <Button tight onClick={() => choose(likewise(montage, slots, 'photos'))}>
                all photos
              </Button>
            )}
          </p>
          <div role="tablist" aria-label="Of the picture" className="flex gap-3 border-b border-edge text-[12.5px]">
            {(
              [
                ['move', 'Move'],
                ['framing', 'Framing'],
                ['look', 'Look'],
                ['over', 'Over'],
              ] as const
            ).map(([key, text]) => (
              <button
                key={key}
                role="tab"
                aria-selected={part === key}
                className={`-mb-px border-b-2 pb-1 ${part === key ? 'border-spruce font-semibold' : 'border-transparent text-soft'}`}
                onClick={() => useFinishing.setState({ part: key })}
              >
                {text}
              </button>
            ))}
          </div>
          {part === 'move' && <MovePanel montage={montage} slots={slots} />}
          {part === 'framing' && <FramingPanel slots={slots} />}
          {part === 'over' && <OverPanel montage={montage} slots={slots} />}
          {part === 'look' && <ShotLooksPanel montage={montage} slots={slots} />}
          <p className="text-[12px] text-soft">
            Hold <kbd className="figures">Z</kbd> to see it undressed.
          </p>
        </>
      )}
      <MoveRulePanel montage={montage} />
    </div>
  );
}
