import { emptyMontage, layLines } from '@bluster/core';
import { LineWave } from '../lines/line-wave.tsx';
import { useSize } from '../interface/use-size.ts';
import { useEditor } from '../document/editor.ts';
import type { LocalOutline } from './local-outline.ts';
import { SONG_LINE_HEIGHT, SONG_LINE_LEFT, SONG_WAVE_HEIGHT } from './song-line.tsx';

/** The outline of a song that is being brought in, before it has marks. */
export function ArrivingLines({ outline }: { outline: LocalOutline }): React.JSX.Element {
  const [hold, { width, height }] = useSize<HTMLDivElement>();
  const barsALine = useEditor((state) => state.barsALine);
  const pieces = [{ from: 0, to: outline.length }];
  const lines = layLines(emptyMontage(), pieces, barsALine).slice(0, Math.ceil(height / SONG_LINE_HEIGHT));
  const inner = width - SONG_LINE_LEFT - 20;
  return (
    <div ref={hold} className="min-h-0 flex-1 overflow-hidden pt-7" role="img" aria-label="The song's outline" data-testid="arriving">
      {inner > 0 &&
        lines.map((line) => (
          <div key={line.index} className="relative" style={{ height: SONG_LINE_HEIGHT, marginLeft: SONG_LINE_LEFT, width: inner }}>
            <LineWave line={line} pieces={pieces} peaks={outline.peaks} marks={[]} chosen={[]} width={inner} height={SONG_WAVE_HEIGHT} />
          </div>
        ))}
    </div>
  );
}
