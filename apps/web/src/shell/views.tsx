import { useEffect } from 'react';
import type { RouteObject } from 'react-router';
import { LoadingView } from './loading-view.tsx';
import { viewCode } from './view-code.ts';

/** The five views. The code of each comes when it is first gone to; the one before stays until it is there. */
export const viewRoutes: RouteObject[] = Object.entries(viewCode).map(([path, lazy]) => ({
  path,
  lazy,
  hydrateFallbackElement: <LoadingView label="Loading the view" />,
}));

/** Fetches the code of all views once the page has nothing else to do, so that going to one needs no server. */
export function useViewsAtHand(): void {
  useEffect(() => {
    const fetchAll = (): void => void Promise.allSettled(Object.values(viewCode).map((one) => one()));
    const waiting = requestIdleCallback(fetchAll, { timeout: 10_000 });
    return () => cancelIdleCallback(waiting);
  }, []);
}
