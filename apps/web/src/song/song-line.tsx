import { useRef } from 'react';
import { toMontageTime, type Line, type Mark, type Peaks } from '@bluster/core';
import { LinePlayhead } from '../lines/line-playhead.tsx';
import { LineWave, lineX } from '../lines/line-wave.tsx';
import { sectionAt } from '../lines/sections.ts';
import { player } from '../playback/player.ts';
import { montageNow, useEditor, useMontage } from '../project/editor.ts';

export const SONG_LINE_HEIGHT = 128;
export const SONG_WAVE_HEIGHT = 84;
/** Room left of the lines, for the names of the bands. */
export const SONG_LINE_LEFT = 48;
const GRAB_PX = 6;

/** One line of the song: three bands, beats and bars; marks are dragged here by eye. */
export function SongLine({ line, peaks, width }: { line: Line; peaks: Peaks | null; width: number }): React.JSX.Element {
  const montage = useMontage();
  const chosen = useEditor((state) => state.selection.markIds);
  const held = useRef<{ mark: Mark | null; fromX: number; moved: number } | null>(null);
  const ghost = useRef<HTMLDivElement>(null);
  const song = montage.song!;
  const pieces = [{ from: 0, to: song.length }];
  const marks = montage.marks.filter((m) => m.time >= line.from - 0.001 && m.time <= line.to + 0.001);
  const unused = (from: number, to: number): React.JSX.Element | null => {
    const left = Math.max(0, lineX(line, from, width));
    const right = Math.min(lineX(line, line.to, width), lineX(line, to, width));
    return right > left ? (
      <div
        key={from}
        className="pointer-events-none absolute top-0 bg-cloth/75"
        style={{ left, width: right - left, height: SONG_WAVE_HEIGHT }}
        title="not in use"
      />
    ) : null;
  };
  const used = song.pieces;

  const markAt = (x: number): Mark | null => {
    let best: Mark | null = null;
    let distance = GRAB_PX;
    for (const m of marks) {
      const d = Math.abs(lineX(line, toMontageTime(pieces, m.time) ?? -1, width) - x);
      if (d < distance) [best, distance] = [m, d];
    }
    return best;
  };
  const down = (event: React.PointerEvent<HTMLDivElement>): void => {
    const x = event.nativeEvent.offsetX;
    const mark = markAt(x);
    event.currentTarget.setPointerCapture(event.pointerId);
    held.current = { mark, fromX: x, moved: 0 };
    if (mark)
      useEditor
        .getState()
        .select({ markIds: event.shiftKey ? [...chosen.filter((id) => id !== mark.id), mark.id] : [mark.id], pegId: null });
  };
  const move = (event: React.PointerEvent<HTMLDivElement>): void => {
    if (!held.current?.mark || !ghost.current) return;
    held.current.moved = event.nativeEvent.offsetX - held.current.fromX;
    ghost.current.style.display = Math.abs(held.current.moved) > 2 ? 'block' : 'none';
    ghost.current.style.left = `${event.nativeEvent.offsetX}px`;
  };
  const up = (): void => {
    const now = held.current;
    held.current = null;
    if (ghost.current) ghost.current.style.display = 'none';
    if (!now) return;
    const { run, select } = useEditor.getState();
    if (now.mark && Math.abs(now.moved) > 2) run({ do: 'moveMarks', ids: [now.mark.id], by: (now.moved / width) * line.span });
    else {
      if (!now.mark) select({ markIds: [] });
      player.seek(now.mark ? now.mark.time : line.from + (now.fromX / width) * line.span);
    }
  };
  const add = (event: React.MouseEvent<HTMLDivElement>): void => {
    const time = line.from + (event.nativeEvent.offsetX / width) * line.span;
    if (markAt(event.nativeEvent.offsetX) || time > line.to) return;
    const { run, select } = useEditor.getState();
    if (run({ do: 'addMark', kind: 'beat', time })) select({ markIds: [montageNow().marks.find((m) => m.time === time)?.id ?? ''] });
  };

  return (
    <div className="relative" style={{ height: SONG_LINE_HEIGHT }}>
      <p className="flex h-5 gap-2 text-[11px] text-soft">
        <span className="figures">{line.bar > 0 ? `bar ${line.bar}` : ''}</span>
        <em>{sectionAt(montage, pieces, line)}</em>
      </p>
      <div
        className="pointer-events-none absolute top-5 -left-9 flex flex-col justify-around text-[10px] text-soft"
        style={{ height: SONG_WAVE_HEIGHT }}
        aria-hidden
      >
        <span>low</span>
        <span>mid</span>
        <span>high</span>
      </div>
      <div
        className="relative cursor-pointer touch-none"
        style={{ height: SONG_WAVE_HEIGHT }}
        data-testid={`song-line-${line.index}`}
        onPointerDown={down}
        onPointerMove={move}
        onPointerUp={up}
        onDoubleClick={add}
      >
        <LineWave line={line} pieces={pieces} peaks={peaks} marks={marks} chosen={chosen} width={width} height={SONG_WAVE_HEIGHT} bands />
        {unused(0, used[0]!.from)}
        {unused(used.at(-1)!.to, song.length)}
        <div ref={ghost} className="pointer-events-none absolute top-0 hidden w-0.5 bg-spruce" style={{ height: SONG_WAVE_HEIGHT }} />
        <LinePlayhead line={line} width={width} height={SONG_WAVE_HEIGHT + 6} />
      </div>
    </div>
  );
}
