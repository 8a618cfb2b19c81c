import { useDroppable } from '@dnd-kit/core';
import { useRef, useState } from 'react';
import type { Line, Slot } from '@bluster/core';
import type { Asset } from '../api/wire.ts';
import { StripTiles } from '../footage/strip-tiles.tsx';
import { lineX } from '../lines/line-wave.tsx';
import { player } from '../playback/player.ts';
import { useEditor } from '../project/editor.ts';

export const PRINT_HEIGHT = 46;
const TILE_PX = 78;
/** A note needs this much room, so that neighbours' notes do not run into each other. */
const NOTE_PX = 70;

interface ShotPrintProps {
  readonly slot: Slot;
  readonly line: Line;
  readonly width: number;
  readonly asset: Asset | undefined;
  readonly chosen: boolean;
  /** drag on the print shows another part of the clip */
  readonly fps: number;
}

/** The part of a slot that lies on one line: a print with a white edge, or the dashed outline of a gap. */
export function ShotPrint({ slot, line, width, asset, chosen, fps }: ShotPrintProps): React.JSX.Element | null {
  const { setNodeRef, isOver } = useDroppable({ id: `${slot.start.id}@${line.index}`, data: { startPeg: slot.start.id } });
  const held = useRef<{ x: number; moved: boolean } | null>(null);
  const [slip, setSlip] = useState<number | null>(null);
  const from = Math.max(line.from, slot.start.frame / fps);
  const to = Math.min(line.to, slot.end.frame / fps);
  const left = lineX(line, from, width);
  const wide = lineX(line, to, width) - left;
  if (wide < 4) return null; // the frame or so by which a cut and its mark differ at the end of a line
  const { placed } = slot;
  const choose = (): void => {
    useEditor.getState().select({ slotStart: slot.start.id, pegId: null, markIds: [] });
    if (!player.state.playing) player.seek(slot.start.frame / fps + 0.0005);
  };
  const style = { left: left + 2, width: Math.max(1, wide - 4), height: PRINT_HEIGHT };
  const ring = isOver ? 'ring-[3px] ring-gold' : chosen ? 'ring-[2.5px] ring-spruce' : '';

  if (!placed)
    return (
      <button
        ref={setNodeRef}
        type="button"
        style={style}
        onClick={choose}
        data-testid="empty-slot"
        className={`absolute grid place-items-center overflow-hidden rounded-[3px] border border-dashed border-gold text-[11px] whitespace-nowrap text-gold-text ${ring}`}
        aria-label={`Empty slot ${slot.index + 1}, ${slot.length.toFixed(2)} seconds`}
      >
        {wide > 190
          ? `empty slot · ${slot.length.toFixed(2)} s · drop a clip or Fill`
          : wide > 84
            ? `empty · ${slot.length.toFixed(2)} s`
            : wide > 34
              ? slot.length.toFixed(2)
              : ''}
      </button>
    );

  const { item, shot, speed } = placed;
  const coveredTo = Math.min(to, (slot.start.frame + placed.coveredFrames) / fps);
  const pictures = Math.max(0, lineX(line, Math.max(from, coveredTo), width) - left);
  const tiles = Math.max(1, Math.round(pictures / TILE_PX));
  const timeAt = (i: number): number =>
    shot.sourceIn - (slip ?? 0) + (from - slot.start.frame / fps + ((i + 0.4) / tiles) * (coveredTo - from)) * speed;
  const percent = Math.round(speed * 100);
  const starts = slot.start.frame / fps >= line.from - 1e-6;
  const note =
    slip !== null
      ? `slip ${slip > 0 ? '−' : '+'}${Math.abs(slip).toFixed(2)} s`
      : percent < 100
        ? `slowed ${percent} %`
        : percent > 100
          ? `sped up ${percent} %`
          : null;
  const down = (event: React.PointerEvent<HTMLButtonElement>): void => {
    held.current = { x: event.clientX, moved: false };
    event.currentTarget.setPointerCapture(event.pointerId);
  };
  const move = (event: React.PointerEvent<HTMLButtonElement>): void => {
    const now = held.current;
    if (!now || item.kind === 'photo') return;
    const dx = event.clientX - now.x;
    now.moved ||= Math.abs(dx) > 4;
    if (now.moved) setSlip((dx / width) * line.span * speed);
  };
  const up = (): void => {
    const now = held.current;
    held.current = null;
    if (!now) return;
    if (now.moved && slip !== null) useEditor.getState().run({ do: 'slipShot', id: shot.id, by: -slip });
    choose();
    setSlip(null);
  };
  return (
    <>
      <button
        ref={setNodeRef}
        type="button"
        style={style}
        data-testid="shot"
        data-clip={item.name}
        onPointerDown={down}
        onPointerMove={move}
        onPointerUp={up}
        onPointerCancel={() => {
          held.current = null;
          setSlip(null);
        }}
        onKeyDown={(e) => e.key === 'Enter' && choose()}
        title={`${item.name} · ${slot.length.toFixed(2)} s${percent === 100 ? '' : ` · ${percent} %`} · drag inside it to show another part`}
        aria-label={`Slot ${slot.index + 1}: ${item.name}, ${slot.length.toFixed(2)} seconds${percent === 100 ? '' : `, at ${percent} percent`}`}
        className={`absolute flex touch-none overflow-hidden rounded-[3px] bg-print p-[2px] shadow-[0_1px_3px_rgba(27,39,51,.22)] ${ring}`}
      >
        {pictures > 5 && (
          <StripTiles
            asset={asset}
            width={Math.max(1, pictures - 8)}
            height={PRINT_HEIGHT - 4}
            times={Array.from({ length: tiles }, (_, i) => timeAt(i))}
          />
        )}
        {placed.missing > 0 && coveredTo < to && shot.whenShort === 'gap' && (
          <span className="m-[-2px] ml-0 grid flex-1 place-items-center overflow-hidden border border-dashed border-gold bg-cloth text-[10px] whitespace-nowrap text-gold-text">
            {placed.missing.toFixed(2)} s missing
          </span>
        )}
        {shot.sound > 0 && <span className="absolute right-1 bottom-0.5 rounded-sm bg-ink/70 px-1 text-[9px] text-white">sound</span>}
      </button>
      {note && starts && (wide > NOTE_PX || slip !== null) && (
        <span
          className="figures pointer-events-none absolute text-[10px] whitespace-nowrap text-gold-text"
          style={{ left: left + 4, top: PRINT_HEIGHT + 1 }}
        >
          {note}
        </span>
      )}
    </>
  );
}
