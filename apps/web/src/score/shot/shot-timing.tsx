import { useState } from 'react';
import {
  clipLength,
  clock,
  frameAt,
  frameTime,
  handlesOf,
  nearestMark,
  speedsOf,
  stretchesOf,
  toSongTime,
  type FootageItem,
  type PlacedShot,
  type Slot,
} from '@bluster/core';
import { Button } from '../../interface/button.tsx';
import { Choice } from '../../interface/choice.tsx';
import { player } from '../../playback/player.ts';
import { montageNow, useEditor, useMontage } from '../../document/editor.ts';
import { PanelRow } from '../../interface/panel-row.tsx';
import { ShotCurve } from './shot-curve.tsx';

/** How fast a shot runs, which part of the clip it shows, and what is tied to marks. */
export function ShotTiming({ slot, placed, item }: { slot: Slot; placed: PlacedShot; item: FootageItem }): React.JSX.Element {
  const montage = useMontage();
  const { run } = useEditor.getState();
  const { shot, speed } = placed;
  const frame = item.rate.den / item.rate.num;
  const { before, after } = handlesOf(placed, montage);
  const speeds = speedsOf(placed);
  const still = shot.retime.kind === 'freeze';
  return (
    <>
      <PanelRow label="Speed">
        <SpeedField key={`${shot.id}${speed}`} speed={speed} still={still} onSet={(rate) => run({ do: 'setRate', id: shot.id, rate })} />
        <Button
          className="ml-1.5"
          tight
          hint="From its in to its out, stretched or squeezed into the slot"
          onClick={() => run({ do: 'fitShot', id: shot.id })}
        >
          Fit to slot
        </Button>
        <Button
          className="ml-1"
          tight
          disabled={speed === 1 && shot.retime.kind === 'rate'}
          onClick={() => run({ do: 'setRate', id: shot.id, rate: 1 })}
        >
          100 %
        </Button>
        <Button className="ml-1" tight hint="The same frames in the opposite order" onClick={() => run({ do: 'reverseShot', id: shot.id })}>
          Backwards
        </Button>
        <Button
          className="ml-1"
          tight
          hint="The frame at the playhead stands, or the shot's first"
          onClick={() => {
            const now = frameAt(player.time(), montage.shape.rate) - slot.start.frame;
            const source = now >= 0 && now < slot.frames ? placed.curve.source(frameTime(now, montage.shape.rate)) : shot.sourceIn;
            run({ do: 'freezeShot', id: shot.id, source });
          }}
        >
          Freeze
        </Button>
      </PanelRow>
      <ShotCurve slot={slot} placed={placed} montage={montage} />
      <div className="flex items-center gap-1.5 text-[11.5px] text-soft">
        {shot.retime.kind === 'tied' ? (
          <>
            <Choice
              narrow
              label="Between ties"
              value={shot.retime.ease}
              options={[
                ['hard', 'even'],
                ['eased', 'eased'],
              ]}
              onChoose={(ease) => run({ do: 'setEase', id: shot.id, ease })}
            />
            <span className="figures">
              {Math.round(speeds.slowest * 100)}–{Math.round(speeds.fastest * 100)} %
            </span>
          </>
        ) : (
          <TieHit placed={placed} item={item} />
        )}
        <label className="ml-auto flex items-center gap-1">
          <input
            type="checkbox"
            checked={shot.blend ?? false}
            onChange={(e) => run({ do: 'setBlend', ids: [shot.id], blend: e.target.checked })}
            className="accent-spruce"
          />
          mix between frames
        </label>
      </div>
      <PanelRow label="In the clip">
        <Button tight aria-label="Slip one frame earlier" onClick={() => run({ do: 'slipShot', id: shot.id, by: -frame })}>
          −1
        </Button>
        <span className="figures mx-2">{clock(shot.sourceIn)}</span>
        <Button tight aria-label="Slip one frame later" onClick={() => run({ do: 'slipShot', id: shot.id, by: frame })}>
          +1
        </Button>
        <span className="figures ml-2 text-[11px] text-soft">
          handles {before.toFixed(2)} and {after.toFixed(2)} s of {clipLength(item).toFixed(1)}
        </span>
      </PanelRow>
      {(placed.missing > 0 || shot.whenShort === 'hold') && (
        <PanelRow label="Where it runs short">
          <Choice
            narrow
            label="Where it runs short"
            value={shot.whenShort}
            options={[
              ['gap', 'leave a gap'],
              ['hold', 'hold the last frame'],
            ]}
            onChoose={(whenShort) => run({ do: 'setWhenShort', ids: [shot.id], whenShort })}
          />
        </PanelRow>
      )}
    </>
  );
}

/** Ties the select's hit to the mark at the playhead, or where it is seen now. */
function TieHit({ placed, item }: { placed: PlacedShot; item: FootageItem }): React.JSX.Element {
  const { run } = useEditor.getState();
  const hit =
    stretchesOf(item).find((s) => s.hit !== null && placed.shot.sourceIn >= s.in - 0.5 && placed.shot.sourceIn < s.out)?.hit ?? null;
  if (hit === null) return <span>Click a mark’s line in the curve to tie the frame that is seen there.</span>;
  const tie = (): void => {
    const montage = montageNow();
    const near = nearestMark(montage, toSongTime(montage.song!.pieces, player.time()), Infinity, (m) => m.kind !== 'accent');
    if (near) run({ do: 'tieFrame', id: placed.shot.id, markId: near.id, source: hit });
  };
  return (
    <Button tight onClick={tie} hint="The clip's hit is seen when the mark at the playhead is heard; the speed follows">
      Tie its hit to the mark at the playhead
    </Button>
  );
}

function SpeedField({ speed, still, onSet }: { speed: number; still: boolean; onSet: (rate: number) => boolean }): React.JSX.Element {
  const [text, setText] = useState(still ? '0' : String(Math.round(speed * 1000) / 10));
  const set = (): void => {
    const own = still ? '0' : String(Math.round(speed * 1000) / 10);
    const value = Number(text.replace(',', '.')) / 100;
    const asked = Number.isFinite(value) && value !== 0 && Math.abs(value - speed) > 5e-4;
    // A speed that is refused does not stay in the field as if it held.
    if (!asked || !onSet(value)) setText(own);
  };
  return (
    <label className="flex items-center gap-1">
      <input
        aria-label="Speed in percent"
        inputMode="decimal"
        role="spinbutton"
        aria-valuenow={Math.round(speed * 100)}
        value={text}
        onChange={(e) => setText(e.target.value)}
        onBlur={set}
        onKeyDown={(e) => e.key === 'Enter' && set()}
        className="figures w-14 rounded border border-edge bg-paper px-1 py-0.5 text-right"
      />
      %
    </label>
  );
}
