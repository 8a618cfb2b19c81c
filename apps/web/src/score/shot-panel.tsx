import { Slider } from 'radix-ui';
import { clipLength, clock, rateLabel, sameRate, scoreOf, sourceFrame } from '@bluster/core';
import { Button } from '../interface/button.tsx';
import { Choice } from '../interface/choice.tsx';
import { useEditor, useMontage } from '../project/editor.ts';

/** The chosen shot: what is seen of it, how fast, how it is framed, its sound. */
export function ShotPanel(): React.JSX.Element {
  const montage = useMontage();
  const { run } = useEditor.getState();
  const slotStart = useEditor((state) => state.selection.slotStart);
  const slot = scoreOf(montage).slots.find((s) => s.start.id === slotStart);
  if (!slot) return <p className="p-6 text-center text-soft">Choose a shot in the score to see it here.</p>;
  if (!slot.placed)
    return (
      <div className="p-4">
        <p className="font-semibold">Slot {slot.index + 1} is empty</p>
        <p className="mt-1 text-soft">
          It lasts {slot.length.toFixed(2)} s, {slot.frames} frames. Drag a clip from the shelf onto it.
        </p>
      </div>
    );
  const { placed } = slot;
  const { shot, item, speed } = placed;
  const clip = item.kind === 'clip';
  const last = sourceFrame(placed, slot.frames - 1, montage);
  return (
    <div className="space-y-3 p-3.5" data-testid="shot-panel">
      <div>
        <p className="truncate font-semibold">{item.name}</p>
        <p className="figures text-[11.5px] text-soft">
          slot {slot.index + 1} · {slot.length.toFixed(3)} s · frames {slot.start.frame}–{slot.end.frame - 1}
          {clip && ` · clip frames ${sourceFrame(placed, 0, montage)}–${last ?? 'end'}`}
        </p>
        {placed.missing > 0 && (
          <p className="mt-1 text-gold-text">
            The clip ran short: {placed.missing.toFixed(2)} s {shot.whenShort === 'hold' ? 'hold its last frame' : 'are missing'}.
          </p>
        )}
        {clip && !sameRate(item.rate, montage.shape.rate) && (
          <p className="mt-1 text-soft">
            Filmed at {rateLabel(item.rate)} frames a second, shown at {rateLabel(montage.shape.rate)}.
          </p>
        )}
      </div>
      <Row label="Framing">
        <Choice
          label="Framing"
          value={shot.framing}
          options={[
            ['fill', 'fill the frame'],
            ['fit', 'show all of it'],
          ]}
          onChoose={(framing) => run({ do: 'setFraming', ids: [shot.id], framing })}
        />
      </Row>
      {clip && (
        <>
          <Row label="Speed">
            <span className="figures mr-2 font-semibold">{Math.round(speed * 100)} %</span>
            <Button
              hint="From its in to the clip's end, stretched or squeezed into the slot"
              onClick={() => run({ do: 'fitShot', id: shot.id })}
            >
              Fit to slot
            </Button>
            <Button className="ml-1.5" disabled={speed === 1} onClick={() => run({ do: 'setRate', id: shot.id, rate: 1 })}>
              100 %
            </Button>
          </Row>
          <Row label="In the clip">
            <Button
              tight
              aria-label="Slip one frame earlier"
              onClick={() => run({ do: 'slipShot', id: shot.id, by: -item.rate.den / item.rate.num })}
            >
              −1
            </Button>
            <span className="figures mx-2">{clock(shot.sourceIn)}</span>
            <Button
              tight
              aria-label="Slip one frame later"
              onClick={() => run({ do: 'slipShot', id: shot.id, by: item.rate.den / item.rate.num })}
            >
              +1
            </Button>
            <span className="figures ml-2 text-[11px] text-soft">of {clipLength(item).toFixed(2)} s</span>
          </Row>
          <Row label="Where it runs short">
            <Choice
              label="Where it runs short"
              value={shot.whenShort}
              options={[
                ['gap', 'leave a gap'],
                ['hold', 'hold the last frame'],
              ]}
              onChoose={(whenShort) => run({ do: 'setWhenShort', ids: [shot.id], whenShort })}
            />
          </Row>
          {item.hasSound && (
            <Row label="Its own sound">
              <Slider.Root
                className="relative flex h-4 w-32 items-center"
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
              <span className="figures ml-2 w-10">{shot.sound === 0 ? 'off' : `${Math.round(shot.sound * 100)} %`}</span>
            </Row>
          )}
        </>
      )}
      <Button
        look="danger"
        hint="The slot becomes empty; nothing else moves"
        hotkey="Del"
        onClick={() => run({ do: 'takeShot', id: shot.id })}
      >
        Take it down
      </Button>
    </div>
  );
}

function Row({ label, children }: { label: string; children: React.ReactNode }): React.JSX.Element {
  return (
    <div className="flex items-center">
      <span className="w-32 shrink-0 text-soft">{label}</span>
      {children}
    </div>
  );
}
