import { lazy, Suspense, useEffect } from 'react';

const load = {
  song: () => import('../song/song-page.tsx').then(({ SongPage }) => ({ default: SongPage })),
  footage: () => import('../footage/footage-page.tsx').then(({ FootagePage }) => ({ default: FootagePage })),
  score: () => import('../score/score-page.tsx').then(({ ScorePage }) => ({ default: ScorePage })),
  finish: () => import('../finish/finish-page.tsx').then(({ FinishPage }) => ({ default: FinishPage })),
  export: () => import('../export/export-page.tsx').then(({ ExportPage }) => ({ default: ExportPage })),
};

const pages = {
  song: lazy(load.song),
  footage: lazy(load.footage),
  score: lazy(load.score),
  finish: lazy(load.finish),
  export: lazy(load.export),
};

export type ViewName = keyof typeof pages;

// The view that the address names is on its way while the project's data still is.
const named = /^\/projects\/[^/]+\/(\w+)/.exec(location.pathname)?.[1];
if (named && named in load) load[named as ViewName]().catch(() => undefined); // asked for again, and said, where it is shown

/** One of the five views. Its code comes when it is first shown. */
export function View({ name }: { name: ViewName }): React.JSX.Element {
  const Page = pages[name];
  return (
    <Suspense fallback={<main className="h-full" aria-busy="true" aria-label="Loading the view" />}>
      <Page />
    </Suspense>
  );
}

/** Fetches the code of all views once the page has nothing else to do, so that going to one needs no server. */
export function useViewsAtHand(): void {
  useEffect(() => {
    const fetchAll = (): void => void Promise.allSettled(Object.values(load).map((one) => one()));
    const waiting = requestIdleCallback(fetchAll, { timeout: 10_000 });
    return () => cancelIdleCallback(waiting);
  }, []);
}
