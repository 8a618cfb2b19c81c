import { Pause, Play, SkipForward, StepBack, StepForward, Target, Volume2, VolumeX } from 'lucide-react';
import { clock, frameAt, type FootageItem } from '@bluster/core';
import { Button } from '../interface/button.tsx';
import { SizeButtons } from '../workbench/size-buttons.tsx';
import { SPEEDS, type ClipPlayer, type Speed } from '../clips/use-clip-player.ts';

/** Below a clip's picture: play, step, speed, and what is set at the frame that is seen. */
export function ClipTransport({
  item,
  player,
  ready,
  sound,
  onSound,
  onIn,
  onOut,
  onHit,
  onNextHit,
}: {
  item: FootageItem;
  player: ClipPlayer;
  ready: boolean;
  /** whether it is heard here */
  sound: boolean;
  onSound: (on: boolean) => void;
  onIn: () => void;
  onOut: () => void;
  onHit: () => void;
  /** none where nothing is proposed */
  onNextHit: (() => void) | null;
}): React.JSX.Element {
  const { time, playing, toggle, step } = player;
  const frame = item.rate.den / item.rate.num;
  return (
    <div className="flex flex-wrap items-center gap-1.5 border-b border-edge px-3 py-2">
      <button
        className="grid size-[30px] shrink-0 place-items-center rounded-full bg-ink text-cloth disabled:opacity-40"
        onClick={toggle}
        disabled={!ready}
        aria-label={playing ? 'Pause the clip' : 'Play the clip'}
        title="Space"
      >
        {playing ? <Pause size={13} fill="currentColor" /> : <Play size={13} fill="currentColor" className="ml-0.5" />}
      </button>
      <Button look="quiet" tight hint="One frame back" hotkey="," aria-label="One frame back" onClick={() => step(-1)}>
        <StepBack size={14} />
      </Button>
      <Button look="quiet" tight hint="One frame on" hotkey="." aria-label="One frame on" onClick={() => step(1)}>
        <StepForward size={14} />
      </Button>
      <b className="figures">{clock(time)}</b>
      <span className="text-[12px] whitespace-nowrap text-soft tabular-nums">frame {frameAt(time + frame / 4, item.rate)}</span>
      <select
        aria-label="Speed"
        title="J slower, K pause, L faster"
        className="figures ml-auto rounded border border-edge bg-paper px-0.5 py-0.5 text-[11.5px]"
        value={player.speed}
        onChange={(e) => player.setSpeed(Number(e.target.value) as Speed)}
      >
        {SPEEDS.map((s) => (
          <option key={s} value={s}>
            {s}×
          </option>
        ))}
      </select>
      <Button hint="The stretch worth using starts here" hotkey="I" onClick={onIn}>
        In
      </Button>
      <Button hint="It ends after this frame" hotkey="O" onClick={onOut}>
        Out
      </Button>
      <Button hint="The action happens in this frame; once more takes the hit away" hotkey="H" onClick={onHit}>
        <Target size={13} className="text-coral-text" /> Hit
      </Button>
      <Button
        look="quiet"
        tight
        hint="To the next frame where something may happen"
        hotkey="N"
        aria-label="Next proposed hit"
        disabled={onNextHit === null}
        onClick={onNextHit ?? undefined}
      >
        <SkipForward size={14} />
      </Button>
      {item.hasSound && (
        <Button
          look="quiet"
          tight
          aria-label={sound ? 'Mute the clip here' : 'Hear the clip here'}
          hint="Only here; in the montage a clip is silent until you want its sound"
          onClick={() => onSound(!sound)}
        >
          {sound ? <Volume2 size={15} /> : <VolumeX size={15} />}
        </Button>
      )}
      <SizeButtons />
    </div>
  );
}
