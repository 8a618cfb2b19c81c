import { useEffect, useRef } from 'react';

/** Whether the mouse or a finger is at work in an element, to the end of the click that its release may be. */
export function useTouched(element: React.RefObject<HTMLElement | null>): React.RefObject<boolean> {
  const touched = useRef(false);
  useEffect(() => {
    const { current } = element;
    const down = (): void => void (touched.current = true);
    const up = (): void => void setTimeout(() => (touched.current = false));
    current?.addEventListener('pointerdown', down, true);
    for (const type of ['pointerup', 'pointercancel'] as const) window.addEventListener(type, up);
    return () => {
      current?.removeEventListener('pointerdown', down, true);
      for (const type of ['pointerup', 'pointercancel'] as const) window.removeEventListener(type, up);
    };
  }, [element]);
  return touched;
}
