import { Lock } from 'lucide-react';
import { memo, useRef, useState } from 'react';
import { type Line, type PlacedShot, type Slot } from '@bluster/core';
import type { AssetAnswer as Asset } from '@bluster/wire';
import { filmFrame } from '../../tiles/film-frame.ts';
import { StripTiles } from '../../tiles/strip-tiles.tsx';
import { tileKey } from '../../tiles/tiles.ts';
import { player } from '../../playback/player.ts';
import { CurveOver } from './curve-over.tsx';
import { useHanging } from './hanging.ts';
import { NARROWEST_PRINT, PRINT_EDGE, PRINT_HEIGHT, printPictures, printPlace } from '../../lines/print-layout.ts';
import { chooseSlot } from '../../lines/choose-slot.ts';
import { DressedSigns } from '../../lines/dressed-signs.tsx';
import { useEditor } from '../../document/editor.ts';

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
  /** of the film, pixels */
  readonly screen: { readonly width: number; readonly height: number };
}

/** How a shot runs, in a word or two; nothing where it runs as recorded. */
function paceNote({ shot, ties }: PlacedShot, percent: number): string | null {
  if (shot.retime.kind === 'freeze') return 'stands';
  if (ties.length > 0) return `${ties.length} tied`;
  if (percent < 0) return `backwards ${-percent} %`;
  return percent < 100 ? `slowed ${percent} %` : percent > 100 ? `sped up ${percent} %` : null;
}

/** What an empty slot says, as far as there is room: on the lines after its first that it goes on. */
function emptyNote(length: number, goesOn: boolean, wide: number): string {
  const seconds = length.toFixed(2);
  if (wide > 190) return goesOn ? `the slot goes on · ${seconds} s in all` : `empty slot · ${seconds} s · drop a clip or Fill`;
  if (wide > 84) return `${goesOn ? 'goes on' : 'empty'} · ${seconds} s`;
  return wide > 34 ? seconds : '';
}

/** The part of a slot that lies on one line: a print with a white edge, or the dashed outline of a gap. */
export const ShotPrint = memo(function ShotPrint({
  slot,
  line,
  width,
  asset,
  chosen,
  fps,
  screen,
}: ShotPrintProps): React.JSX.Element | null {
  const isOver = useHanging((state) => state.dropOn === slot.start.id);
  const held = useRef<{ x: number; moved: boolean } | null>(null);
  const [slip, setSlip] = useState<number | null>(null);
  const place = printPlace(slot, line, width, fps);
  const { to, left, wide, starts, ends } = place;
  if (wide < NARROWEST_PRINT) return null;
  const { placed } = slot;
  const choose = (event?: { shiftKey: boolean; ctrlKey: boolean; metaKey: boolean }): void => {
    chooseSlot(slot, event);
    if (!player.state.playing) player.seek(slot.start.frame / fps + 0.0005);
  };
  const style = { left: left + 2, width: Math.max(1, wide - 4), height: PRINT_HEIGHT };
  const ring = isOver ? 'ring-[3px] ring-gold' : chosen ? 'ring-[2.5px] ring-spruce' : '';

  if (!placed)
    return (
      <button
        type="button"
        style={style}
        onClick={choose}
        data-testid="empty-slot"
        data-slot={slot.index}
        data-start-peg={slot.start.id}
        className={`absolute grid place-items-center rounded-[3px] border border-dashed border-gold text-[11px] whitespace-nowrap text-gold-text ${ring}`}
        aria-label={`Empty slot ${slot.index + 1}, ${slot.length.toFixed(2)} seconds`}
      >
        {emptyNote(slot.length, !starts, wide)}
      </button>
    );

  const { item, shot, speed } = placed;
  const pictures = printPictures(slot as Slot & { placed: PlacedShot }, line, width, fps, place, screen.width / screen.height);
  const { coveredTo } = pictures;
  const percent = Math.round(speed * 100);
  const note = slip !== null ? `slip ${slip > 0 ? '−' : '+'}${Math.abs(slip).toFixed(2)} s` : paceNote(placed, percent);
  const { kind } = shot.retime;
  const runs = placed.ties.length > 1 || speed < 0 || (kind === 'tied' && shot.retime.ease === 'eased');
  const curved =
    item.kind === 'clip' && starts && ends && wide > 30 && slip === null && (runs || (chosen && (kind === 'tied' || kind === 'fit')));
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
  const up = (event: React.PointerEvent): void => {
    const now = held.current;
    held.current = null;
    if (!now) return;
    if (now.moved && slip !== null) useEditor.getState().run({ do: 'slipShot', id: shot.id, by: -slip });
    choose(event);
    setSlip(null);
  };
  return (
    <>
      <button
        type="button"
        style={style}
        data-testid="shot"
        data-clip={item.name}
        data-slot={slot.index}
        data-start-peg={slot.start.id}
        onPointerDown={down}
        onPointerMove={move}
        onPointerUp={up}
        onPointerCancel={() => {
          held.current = null;
          setSlip(null);
        }}
        onKeyDown={(e) => e.key === 'Enter' && choose(e)}
        title={`${item.name} · ${slot.length.toFixed(2)} s${percent === 100 ? '' : ` · ${percent} %`} · drag inside it to show another part`}
        aria-label={`Slot ${slot.index + 1}: ${item.name}, ${slot.length.toFixed(2)} seconds${percent === 100 ? '' : `, at ${percent} percent`}`}
        className={`absolute flex touch-none rounded-[3px] border-2 border-transparent ${ring}`}
      >
        {(slip !== null || !asset || tileKey(asset, 0) === null) && pictures.width >= 1 && (
          <StripTiles
            asset={asset}
            width={pictures.width}
            height={PRINT_HEIGHT - 2 * PRINT_EDGE}
            times={pictures.times.map((t) => t - (slip ?? 0))}
            framed={filmFrame(item, screen, shot.framing)}
          />
        )}
        {placed.missing > 0 && coveredTo < to && shot.whenShort === 'gap' && (
          <span
            className="absolute -inset-y-[2px] -right-[2px] grid place-items-center overflow-hidden border border-dashed border-gold bg-cloth text-[10px] whitespace-nowrap text-gold-text"
            style={{ left: pictures.width >= 1 ? pictures.width : -PRINT_EDGE }}
          >
            {placed.missing.toFixed(2)} s missing{coveredTo <= line.from ? ' in all' : ''}
          </span>
        )}
        {starts && wide > 30 && <DressedSigns placed={placed} />}
        {shot.locked && (
          <span className="absolute top-0.5 left-0.5 rounded-sm bg-ink/70 p-0.5 text-white">
            <Lock size={9} aria-label="locked" />
          </span>
        )}
        {shot.sound > 0 && <span className="absolute right-1 bottom-0.5 rounded-sm bg-ink/70 px-1 text-[9px] text-white">sound</span>}
      </button>
      {curved && (
        <CurveOver
          slot={slot}
          placed={placed}
          width={wide - 8}
          height={PRINT_HEIGHT - 2 * PRINT_EDGE}
          held={chosen}
          style={{ left: left + 4, top: PRINT_EDGE }}
        />
      )}
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
});
