import { useCallback, useState } from 'react';

/** The size of an element in pixels, followed as it changes. */
export function useSize<E extends HTMLElement>(): [(element: E | null) => (() => void) | undefined, { width: number; height: number }] {
  const [size, setSize] = useState({ width: 0, height: 0 });
  const ref = useCallback((element: E | null) => {
    if (!element) return undefined;
    const observer = new ResizeObserver(() => setSize({ width: element.clientWidth, height: element.clientHeight }));
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  return [ref, size];
}
