import { Lock, LockOpen } from 'lucide-react';
import { Slider } from 'radix-ui';
import { rateLabel, sameRate, slotFrom, sourceFrame, type PlacedShot, type Slot } from '@bluster/core';
import { Button } from '../../interface/button.tsx';
import { Choice } from '../../interface/choice.tsx';
import { useEditor, useMontage } from '../../document/editor.ts';
import { PanelRow } from '../../interface/panel-row.tsx';
import { ShotButtons, SlotButtons } from './shot-buttons.tsx';
import { ShotTiming } from './shot-timing.tsx';

/** The chosen shot: what is seen of it, how fast, how it is framed, its sound. */
export function ShotPanel(): React.JSX.Element {
  const montage = useMontage();
  const slotStart = useEditor((state) => state.selection.slotStart);
  const more = useEditor((state) => state.selection.moreSlots.length);
  const slot = slotStart === null ? undefined : slotFrom(montage, slotStart);
  if (!slot) return <p className="p-6 text-center text-soft">Choose a shot in the score to see it here.</p>;
  return (
    <div className="space-y-2.5 p-3.5" data-testid="shot-panel">
      {more > 0 && <p className="rounded bg-cloth-2 px-2 py-1 text-[11.5px]">{more + 1} slots are chosen; this is the first of them.</p>}
      {slot.placed ? <PlacedPanel slot={slot} placed={slot.placed} /> : <EmptyPanel slot={slot} />}
    </div>
  );
}

function EmptyPanel({ slot }: { slot: Slot }): React.JSX.Element {
  return (
    <>
      <p className="font-semibold">Slot {slot.index + 1} is empty</p>
      <p className="text-soft">
        It lasts {slot.length.toFixed(2)} s, {slot.frames} frames. Drag a clip from the shelf onto it, or watch one and press D.
      </p>
      <SlotButtons slot={slot} />
    </>
  );
}

function PlacedPanel({ slot, placed }: { slot: Slot; placed: PlacedShot }): React.JSX.Element {
  const montage = useMontage();
  const { run } = useEditor.getState();
  const { shot, item } = placed;
  const clip = item.kind === 'clip';
  const last = sourceFrame(placed, slot.frames - 1, montage);
  return (
    <>
      <div>
        <div className="flex items-center gap-2">
          <p className="min-w-0 flex-1 truncate font-semibold">{item.name}</p>
          <Button
            tight
            on={shot.locked ?? false}
            aria-label={shot.locked ? 'Unlock the shot' : 'Lock the shot'}
            hint="A locked shot stays where it is when slots are filled or moved"
            onClick={() => run({ do: 'lockShots', ids: [shot.id], locked: !shot.locked })}
          >
            {shot.locked ? <Lock size={13} /> : <LockOpen size={13} />}
          </Button>
        </div>
        <p className="figures text-[11.5px] text-soft">
          {shot.over ? 'over the line' : `slot ${slot.index + 1}`} · {slot.length.toFixed(3)} s · frames {slot.start.frame}–
          {slot.end.frame - 1}
          {clip && ` · clip frames ${sourceFrame(placed, 0, montage)}–${last ?? 'end'}`}
        </p>
        {shot.why && <p className="text-[11.5px] text-soft">Chosen: {shot.why}.</p>}
        {placed.missing > 0 && (
          <p className="mt-1 text-gold-text">
            The clip ran short: {placed.missing.toFixed(2)} s {shot.whenShort === 'hold' ? 'hold its last frame' : 'are missing'}.
          </p>
        )}
        {clip && !sameRate(item.rate, montage.shape.rate) && (
          <p className="mt-1 text-[11.5px] text-soft">
            Filmed at {rateLabel(item.rate)} frames a second, shown at {rateLabel(montage.shape.rate)}.
          </p>
        )}
      </div>
      {clip && <ShotTiming slot={slot} placed={placed} item={item} />}
      <PanelRow label="Framing">
        <Choice
          narrow
          label="Framing"
          value={shot.framing}
          options={[
            ['fill', 'fill the frame'],
            ['fit', 'show all of it'],
          ]}
          onChoose={(framing) => run({ do: 'setFraming', ids: [shot.id], framing })}
        />
      </PanelRow>
      {clip && item.hasSound && <Sound placed={placed} />}
      <SlotButtons slot={slot} />
      <ShotButtons slot={slot} placed={placed} />
    </>
  );
}

function Sound({ placed }: { placed: PlacedShot }): React.JSX.Element {
  const { run } = useEditor.getState();
  const { shot } = placed;
  const stretched = placed.speed !== 1 || shot.retime.kind !== 'rate';
  return (
    <PanelRow label="Its own sound">
      <Slider.Root
        className="relative flex h-4 w-24 items-center"
        min={0}
        max={100}
        step={5}
        value={[Math.round(shot.sound * 100)]}
        onValueChange={([v]) => run({ do: 'setShotSound', ids: [shot.id], level: v! / 100 })}
      >
        <Slider.Track className="relative h-1.5 grow rounded-full bg-cloth-2">
          <Slider.Range className="absolute h-full rounded-full bg-spruce" />
        </Slider.Track>
        <Slider.Thumb aria-label="Level of the clip's own sound" className="block size-3.5 rounded-full bg-spruce" />
      </Slider.Root>
      <span className="figures mx-2 w-10">{shot.sound === 0 ? 'off' : `${Math.round(shot.sound * 100)} %`}</span>
      {stretched && shot.sound > 0 && (
        <Choice
          narrow
          label="Its sound when stretched"
          value={shot.stretchedSound ?? 'pitch-kept'}
          options={[
            ['pitch-kept', 'pitch kept'],
            ['muted', 'muted'],
          ]}
          onChoose={(to) => run({ do: 'setShotSound', ids: [shot.id], stretched: to })}
        />
      )}
    </PanelRow>
  );
}
