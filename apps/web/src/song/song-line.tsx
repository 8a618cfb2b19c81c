import { markUnder } from './mark-under.ts';
import { memo, useMemo, useRef } from 'react';
import { doubtfulMarks, marksInUse, type Line, type Mark, type Peaks } from '@bluster/core';
import { DropLabels, dropLabels } from '../lines/drop-labels.tsx';
import { LinePlayhead } from '../lines/line-playhead.tsx';
import { LineWave } from '../lines/line-wave.tsx';
import { lineX } from '../lines/line-x.ts';
import { CARETS_HEIGHT } from '../lines/wave-drawing.ts';
import { sectionAt } from '../lines/sections.ts';
import { player } from '../playback/player.ts';
import { montageNow, useEditor, useMontage } from '../document/editor.ts';
import { placeLabels } from './place-labels.ts';

export const SONG_LINE_HEIGHT = 128;
export const SONG_WAVE_HEIGHT = 84;
/** Room left of the lines, for the names of the bands. */
export const SONG_LINE_LEFT = 48;
const NONE: readonly string[] = [];
/** A pointer that moves less than this means one place. */
const RANGE_PX = 5;

/** The time under a place of the page, on whichever line of the song it lies; null beside them. */
function timeUnder(clientX: number, clientY: number): number | null {
  for (const element of document.elementsFromPoint(clientX, clientY)) {
    const { lineFrom, lineSpan, lineTo } = (element as HTMLElement).dataset;
    if (lineFrom === undefined) continue;
    const box = element.getBoundingClientRect();
    return Math.min(Number(lineTo), Number(lineFrom) + ((clientX - box.left) / box.width) * Number(lineSpan));
  }
  return null;
}

/** One line of the song: three bands, beats and bars; marks are dragged here by eye. */
export const SongLine = memo(function SongLine({
  line,
  peaks,
  width,
}: {
  line: Line;
  peaks: Peaks | null;
  width: number;
}): React.JSX.Element {
  const montage = useMontage();
  const chosen = useEditor((state) => state.selection.markIds);
  const held = useRef<{ mark: Mark | null; fromX: number; moved: number; ranging: boolean } | null>(null);
  const ghost = useRef<HTMLDivElement>(null);
  const song = montage.song!;
  const pieces = useMemo(() => [{ from: 0, to: song.length }], [song.length]);
  const within = (time: number): boolean => time >= line.from - 0.001 && time <= line.to + 0.001;
  const marks = useMemo(
    () => marksInUse(montage).filter((m) => m.time >= line.from - 0.001 && m.time <= line.to + 0.001),
    [montage, line.from, line.to],
  );
  // Lines on which nothing is chosen need not be drawn again for what is chosen on others.
  const chosenHere = useMemo(() => {
    const here = chosen.filter((id) => marks.some((m) => m.id === id));
    return here.length > 0 ? here : NONE;
  }, [chosen, marks]);
  const drops = dropLabels(montage.marks, line, pieces, width);
  const doubtful = doubtfulMarks(montage).filter((d) => within(d.mark.time));
  const range = useEditor((state) => state.selection.range);
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

  const markAt = (x: number, y: number): Mark | null => markUnder(marks, { line, pieces, width, height: SONG_WAVE_HEIGHT }, x, y);
  const down = (event: React.PointerEvent<HTMLDivElement>): void => {
    const x = event.nativeEvent.offsetX;
    const mark = markAt(x, event.nativeEvent.offsetY);
    event.currentTarget.setPointerCapture(event.pointerId);
    held.current = { mark, fromX: x, moved: 0, ranging: false };
    if (mark)
      useEditor
        .getState()
        .select({ markIds: event.shiftKey ? [...chosen.filter((id) => id !== mark.id), mark.id] : [mark.id], pegId: null, range: null });
  };
  const move = (event: React.PointerEvent<HTMLDivElement>): void => {
    if (!held.current) return;
    if (!held.current.mark) {
      if (Math.abs(event.nativeEvent.offsetX - held.current.fromX) > RANGE_PX) held.current.ranging = true;
      const there = held.current.ranging ? timeUnder(event.clientX, event.clientY) : null;
      const start = line.from + (held.current.fromX / width) * line.span;
      if (there !== null) useEditor.getState().select({ range: { from: Math.min(start, there), to: Math.max(start, there) }, markIds: [] });
      return;
    }
    if (!ghost.current) return;
    held.current.moved = event.nativeEvent.offsetX - held.current.fromX;
    ghost.current.style.display = Math.abs(held.current.moved) > 2 ? 'block' : 'none';
    ghost.current.style.left = `${event.nativeEvent.offsetX}px`;
  };
  const up = (): void => {
    const now = held.current;
    held.current = null;
    if (ghost.current) ghost.current.style.display = 'none';
    if (!now || now.ranging) return;
    const { run, select } = useEditor.getState();
    if (now.mark && Math.abs(now.moved) > 2) run({ do: 'moveMarks', ids: [now.mark.id], by: (now.moved / width) * line.span });
    else {
      if (!now.mark) select({ markIds: [], range: null });
      player.seek(now.mark ? now.mark.time : line.from + (now.fromX / width) * line.span);
    }
  };
  const add = (event: React.MouseEvent<HTMLDivElement>): void => {
    const time = line.from + (event.nativeEvent.offsetX / width) * line.span;
    if (markAt(event.nativeEvent.offsetX, event.nativeEvent.offsetY) || time > line.to) return;
    const { run, select } = useEditor.getState();
    if (run({ do: 'addMark', kind: 'beat', time })) select({ markIds: [montageNow().marks.find((m) => m.time === time)?.id ?? ''] });
  };

  return (
    <div className="relative" style={{ height: SONG_LINE_HEIGHT }}>
      <p className="flex h-5 gap-2 text-[11px] text-soft">
        <span className="figures">{line.bar > 0 ? `bar ${line.bar}` : ''}</span>
        <em>{sectionAt(montage, pieces, line)}</em>
      </p>
      <DropLabels labels={drops} />
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
        className="relative cursor-pointer touch-none select-none"
        style={{ height: SONG_WAVE_HEIGHT + CARETS_HEIGHT }}
        data-testid={`song-line-${line.index}`}
        data-line-from={line.from}
        data-line-span={line.span}
        data-line-to={line.to}
        onPointerDown={down}
        onPointerMove={move}
        onPointerUp={up}
        onDoubleClick={add}
      >
        <LineWave line={line} pieces={pieces} peaks={peaks} marks={marks} chosen={chosenHere} width={width} height={SONG_WAVE_HEIGHT} />
        {unused(0, used[0]!.from)}
        {used.slice(1).map((piece, i) => unused(used[i]!.to, piece.from))}
        {unused(used.at(-1)!.to, song.length)}
        {range && range.to > line.from && range.from < line.to && (
          <div
            className="pointer-events-none absolute top-0 rounded-sm border-x border-spruce bg-spruce/15"
            data-testid="range"
            style={{
              left: Math.max(0, lineX(line, range.from, width)),
              width: Math.min(lineX(line, line.to, width), lineX(line, range.to, width)) - Math.max(0, lineX(line, range.from, width)),
              height: SONG_WAVE_HEIGHT,
            }}
          />
        )}
        {doubtful.map(({ mark, why }) => (
          <div
            key={mark.id}
            className="pointer-events-none absolute size-6 -translate-1/2 rounded-full border-2 border-gold"
            style={{ left: lineX(line, mark.time, width), top: SONG_WAVE_HEIGHT / 2 }}
            data-testid="doubtful"
          >
            <span className="sr-only">{why}</span>
          </div>
        ))}
        {placeLabels(
          doubtful.filter((d) => d.first),
          (d) => lineX(line, d.mark.time, width),
          width,
          drops,
        ).map(({ of, left }) => (
          <span
            key={of.mark.id}
            className="pointer-events-none absolute -top-4 text-[10px] leading-4 whitespace-nowrap text-gold-text"
            style={{ left }}
            aria-hidden
          >
            {of.why}
          </span>
        ))}
        <div ref={ghost} className="pointer-events-none absolute top-0 hidden w-0.5 bg-spruce" style={{ height: SONG_WAVE_HEIGHT }} />
        <LinePlayhead line={line} width={width} height={SONG_WAVE_HEIGHT + 6} />
      </div>
    </div>
  );
});
