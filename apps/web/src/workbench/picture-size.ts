import { create } from 'zustand';

/** How large the picture is: in its place, over the whole window, or on the whole display. */
export type PictureSize = 'place' | 'window' | 'display';

export const usePictureSize = create<{ size: PictureSize }>(() => ({ size: 'place' }));

const set = (size: PictureSize): void => usePictureSize.setState({ size });

/** Over the whole window and back; from the whole display, into the window. */
export function turnWindow(): void {
  const { size } = usePictureSize.getState();
  if (size === 'display') void document.exitFullscreen().catch(() => undefined);
  set(size === 'window' ? 'place' : 'window');
}

/** On the whole display and back; where the browser does not give it, over the whole window. */
export function turnDisplay(): void {
  const { size } = usePictureSize.getState();
  if (size === 'display') {
    void document.exitFullscreen().catch(() => undefined);
    set('place');
    return;
  }
  set('window');
  document.documentElement.requestFullscreen().then(
    () => set('display'),
    () => undefined,
  );
}

/** Back into its place. @returns whether it was elsewhere */
export function pictureBack(): boolean {
  const { size } = usePictureSize.getState();
  if (size === 'place') return false;
  if (size === 'display') void document.exitFullscreen().catch(() => undefined);
  set('place');
  return true;
}

// The browser's own way out of the whole display.
document.addEventListener('fullscreenchange', () => {
  if (!document.fullscreenElement && usePictureSize.getState().size === 'display') set('place');
});
