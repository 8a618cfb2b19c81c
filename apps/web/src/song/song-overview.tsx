import { useEffect, useRef, useState } from 'react';
import { LONGEST_SECTION_NAME, type Peaks, type Section } from '@bluster/core';
import { useTheme } from '../interface/theme.ts';
import { useSize } from '../interface/use-size.ts';
import { themeColours } from '../lines/colours.ts';
import { player } from '../playback/player.ts';
import { usePlayhead } from '../playback/use-player.ts';
import { useEditor, useMontage } from '../document/editor.ts';

const HEIGHT = 58;
/** How wide a letter of a section's name is at the most, and what is left free beside it, pixels. */
const [LETTER, MARGIN] = [9, 8];
/** As many letters of a longer name tell it. */
const FEW = 4;

/**
 * The whole song at a glance, with its sections; a click goes there, on a section to where it begins.
 * @param loading while the song is still on its way, which is said where its outline will be
 */
export function SongOverview({ peaks, loading }: { peaks: Peaks | null; loading: boolean }): React.JSX.Element {
  const montage = useMontage();
  const song = montage.song!;
  const { theme } = useTheme();
  const [hold, { width }] = useSize<HTMLDivElement>();
  const canvas = useRef<HTMLCanvasElement>(null);
  const head = useRef<HTMLDivElement>(null);
  usePlayhead((time) => {
    if (head.current) head.current.style.transform = `translateX(${(time / song.length) * width}px)`;
  });
  useEffect(() => {
    const c = canvas.current?.getContext('2d');
    if (!canvas.current || !c || width === 0) return;
    canvas.current.width = width * devicePixelRatio;
    canvas.current.height = HEIGHT * devicePixelRatio;
    c.scale(devicePixelRatio, devicePixelRatio);
    const colour = themeColours();
    if (!peaks) return;
    for (let x = 0; x < width; x += 2) {
      const a = Math.floor((x / width) * peaks.all.length);
      const b = Math.max(a + 1, Math.floor(((x + 2) / width) * peaks.all.length));
      let top = 0;
      for (let i = a; i < b; i++) top = Math.max(top, peaks.all[i]!);
      const time = (x / width) * song.length;
      const inUse = song.pieces.some((p) => time >= p.from && time < p.to);
      c.globalAlpha = inUse ? 1 : 0.25;
      c.fillStyle = colour('wave');
      const h = Math.max(1, (top * HEIGHT) / 2.1);
      c.fillRect(x, HEIGHT / 2 - h, 1.3, 2 * h);
    }
  }, [peaks, width, song, theme]);
  return (
    <div className="relative border-b border-edge px-5 pt-2 pb-1.5">
      <div className="relative h-4">
        {song.sections.map((section, i) => {
          const end = song.sections[i + 1]?.from ?? song.length;
          return (
            <SectionLabel
              key={section.id}
              section={section}
              room={((end - section.from) / song.length) * width}
              style={{
                left: `${(section.from / song.length) * 100}%`,
                width: `calc(${((end - section.from) / song.length) * 100}% - 2px)`,
              }}
            />
          );
        })}
      </div>
      <div
        ref={hold}
        className="relative mt-1 cursor-pointer"
        style={{ height: HEIGHT }}
        onPointerDown={(e) => player.seek((e.nativeEvent.offsetX / width) * song.length)}
        data-testid="overview"
      >
        <canvas ref={canvas} className="pointer-events-none absolute inset-0" style={{ width, height: HEIGHT }} aria-hidden />
        {loading && !peaks && (
          <p role="status" className="late pointer-events-none absolute inset-0 grid place-items-center text-soft">
            The song is loading…
          </p>
        )}
        <div ref={head} className="pointer-events-none absolute -top-1 left-0 h-[66px] w-0.5 bg-coral will-change-transform" />
      </div>
    </div>
  );
}

/** A section's name over a bar as high as its energy; a click goes to where it begins, a double click, or Enter, names it. */
function SectionLabel({
  section,
  room,
  style,
}: {
  section: Section;
  /** how wide it is, pixels: half a name would be another one */
  room: number;
  style: React.CSSProperties;
}): React.JSX.Element {
  const [naming, setNaming] = useState(false);
  const { id, name, energy } = section;
  const words = LETTER * name.length;
  const take = (text: string): void => {
    setNaming(false);
    if (text.trim() !== '' && text !== name) useEditor.getState().run({ do: 'nameSection', id, name: text });
  };
  if (naming)
    return (
      <input
        autoFocus
        aria-label="Name of the section"
        defaultValue={name}
        maxLength={LONGEST_SECTION_NAME}
        className="absolute z-10 h-4 min-w-20 border border-spruce bg-paper px-1 text-[11px] leading-4"
        style={style}
        onFocus={(e) => e.currentTarget.select()}
        onBlur={(e) => take(e.currentTarget.value)}
        onKeyDown={(e) => {
          if (e.key === 'Enter') take(e.currentTarget.value);
          if (e.key === 'Escape') setNaming(false);
        }}
      />
    );
  const full = energy === undefined ? 0 : Math.round(100 * energy);
  return (
    <button
      type="button"
      title={`${name}${energy === undefined ? '' : ` · energy ${full} %`} · click to go there, double-click to name it`}
      aria-label={`Section ${name}${energy === undefined ? '' : `, energy ${full} percent`}; Enter names it`}
      data-testid="section"
      className={`absolute h-4 truncate bg-cloth-2 text-[11px] leading-4 ${room > words + 3 * MARGIN ? 'px-2 text-left' : 'text-center'}`}
      style={{
        ...style,
        backgroundImage: `linear-gradient(to top, color-mix(in srgb, var(--gold) 38%, transparent) ${full}%, transparent ${full}%)`,
      }}
      onPointerDown={() => player.seek(section.from)}
      onDoubleClick={() => setNaming(true)}
      onKeyDown={(e) => {
        if (e.key !== 'Enter') return;
        e.preventDefault();
        setNaming(true);
      }}
    >
      {room > Math.min(words, FEW * LETTER) ? name : ''}
    </button>
  );
}
