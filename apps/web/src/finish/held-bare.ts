import { useEffect } from 'react';
import { useFinishing } from './finishing.ts';

const writing = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable || (['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName) && target.getAttribute('type') !== 'checkbox'));

/** While Z is held, the montage is seen without what it is dressed in. */
export function useHeldBare(): void {
  useEffect(() => {
    const down = (event: KeyboardEvent): void => {
      if (event.key.toLowerCase() !== 'z' || event.ctrlKey || event.metaKey || event.altKey || writing(event.target)) return;
      useFinishing.setState({ bare: true });
    };
    const up = (event: Event): void => {
      if (!(event instanceof KeyboardEvent) || event.key.toLowerCase() === 'z') useFinishing.setState({ bare: false });
    };
    addEventListener('keydown', down);
    addEventListener('keyup', up);
    addEventListener('blur', up);
    return () => {
      removeEventListener('keydown', down);
      removeEventListener('keyup', up);
      removeEventListener('blur', up);
      useFinishing.setState({ bare: false });
    };
  }, []);
}
