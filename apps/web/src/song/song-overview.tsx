import { useEffect, useRef } from 'react';
import type { Peaks } from '@bluster/core';
import { useTheme } from '../interface/theme.ts';
import { useSize } from '../interface/use-size.ts';
import { themeColours } from '../lines/colours.ts';
import { player } from '../playback/player.ts';
import { usePlayhead } from '../playback/use-player.ts';
import { useMontage } from '../project/editor.ts';

/** A section's name is left out where it has less room than this. */
const NAME_PX = 52;
const HEIGHT = 58;

/** The whole song at a glance, with its sections; a click goes there. */
export function SongOverview({ peaks }: { peaks: Peaks | null }): React.JSX.Element {
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
      const section = song.sections.findLast((s) => s.from <= time)?.name;
      const inUse = song.pieces.some((p) => time >= p.from && time < p.to);
      c.globalAlpha = inUse ? 1 : 0.25;
      c.fillStyle = section === 'drop' ? colour('coral') : colour('wave');
      if (section === 'drop') c.globalAlpha *= 0.6;
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
            <span
              key={section.from}
              title={section.name}
              className={`absolute h-4 overflow-hidden px-2 text-[11px] leading-4 whitespace-nowrap ${section.name === 'drop' ? 'bg-coral/25' : 'bg-cloth-2'}`}
              style={{
                left: `${(section.from / song.length) * 100}%`,
                width: `calc(${((end - section.from) / song.length) * 100}% - 2px)`,
              }}
            >
              {((end - section.from) / song.length) * width > NAME_PX ? section.name : ''}
            </span>
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
        <div ref={head} className="pointer-events-none absolute -top-1 left-0 h-[66px] w-0.5 bg-coral" />
      </div>
    </div>
  );
}
