import { useCallback, useState } from 'react';

/** The size of an element in pixels, followed as it changes. */
export function useSize<E extends HTMLElement>(): [(element: E | null) => (() => void) | undefined, { width: number; height: number }] {
  const [size, setSize] = useState({ width: 0, height: 0 });
  const ref = useCallback((element: E | null) => {
    if (!element) return undefined;
    const measure = (): void => {
      const { clientWidth: width, clientHeight: height } = element;
      setSize((old) => (old.width === width && old.height === height ? old : { width, height }));
    };
    // At once, so that what depends on it is drawn in the very first frame.
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  return [ref, size];
}
