import { ROUTES } from '@bluster/wire/routes';
import type { AssetAnswer, LoudnessAnswer } from '@bluster/wire';
import { useEffect, useRef } from 'react';
import useSWR from 'swr';
import { fetchJson } from '../api/request.ts';
import { useEditor } from '../document/editor.ts';
import { player } from '../playback/player.ts';
import { usePlayer } from '../playback/use-player.ts';

const said = (value: number | null, unit: string): string => (value === null ? 'silence' : `${value.toFixed(1)} ${unit}`);

interface LoudnessPanelProps {
  readonly projectId: string;
  readonly assets: ReadonlyMap<string, AssetAnswer>;
}

/** How loud the montage is: its film's numbers (EBU R 128), and what is heard now. */
export function LoudnessPanel({ projectId, assets }: LoudnessPanelProps): React.JSX.Element {
  const { revision, save } = useEditor();
  const waits = [...assets.values()].some((a) => a.state === 'working');
  const saved = save.is === 'saved' && !waits;
  const { data, error, isLoading } = useSWR<LoudnessAnswer, Error>(
    saved ? [ROUTES.loudness(projectId), revision] : null,
    () => fetchJson<LoudnessAnswer>(ROUTES.loudness(projectId)),
    { keepPreviousData: true, revalidateOnFocus: false },
  );
  return (
    <section aria-label="Loudness" className="space-y-1.5 text-[12.5px]">
      <p className="flex items-center gap-2">
        <b className="font-semibold">Loudness</b>
        <span className="text-[12px] text-soft">EBU R 128, as the film will be</span>
      </p>
      {error ? (
        <p className="text-[12px] text-gold-text">{error.message}</p>
      ) : data ? (
        <dl
          className={`figures grid grid-cols-[auto_1fr] gap-x-3 gap-y-0.5 text-[12px] ${saved && !isLoading ? '' : 'opacity-50'}`}
          data-testid="loudness"
          data-revision={data.revision}
        >
          <dt className="text-soft">all of it</dt>
          <dd>{said(data.loudness.integrated, 'LUFS')}</dd>
          <dt className="text-soft">its loudest 3 s</dt>
          <dd>{said(data.loudness.shortTerm, 'LUFS')}</dd>
          <dt className="text-soft">soft to loud</dt>
          <dd>{data.loudness.range.toFixed(1)} LU</dd>
          <dt className="text-soft">highest peak</dt>
          <dd>{said(data.loudness.peak, 'dBTP')}</dd>
        </dl>
      ) : (
        <p className="text-[12px] text-soft">{waits ? 'It is measured when all files are ready.' : 'Being measured…'}</p>
      )}
      {data && data.turnedDown > 0.05 && (
        <p className="text-[12px] text-gold-text">
          Song and clips together are up to {data.turnedDown.toFixed(1)} dB too loud in places. The film turns those places down, so that
          nothing is clipped.
        </p>
      )}
      <NowHeard />
    </section>
  );
}

/** The quietest that the bar shows, LUFS. */
const QUIETEST = -50;

/** What is heard now, as a bar. */
function NowHeard(): React.JSX.Element {
  const playing = usePlayer((state) => state.playing);
  const bar = useRef<HTMLSpanElement>(null);
  const figure = useRef<HTMLSpanElement>(null);
  useEffect(() => {
    if (!playing) return;
    const meter = player.meter();
    let next = 0;
    const show = (): void => {
      const now = meter.now();
      if (bar.current) bar.current.style.width = `${100 * Math.max(0, 1 - (now ?? QUIETEST) / QUIETEST)}%`;
      if (figure.current) figure.current.textContent = now === null ? '–' : now.toFixed(1);
      next = requestAnimationFrame(show);
    };
    show();
    return () => cancelAnimationFrame(next);
  }, [playing]);
  return (
    <p className="flex items-center gap-2 text-[12px] text-soft">
      now
      <span className="relative h-2 flex-1 overflow-hidden rounded-full bg-cloth-2">
        <span ref={bar} className="absolute inset-y-0 left-0 rounded-full bg-spruce" style={{ width: 0 }} />
      </span>
      <span ref={figure} className="figures w-12 text-right" data-testid="loudness-now">
        –
      </span>
      LUFS
    </p>
  );
}
