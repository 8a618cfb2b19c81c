import { create } from 'zustand';
import { persist } from 'zustand/middleware';
/** How taps become marks. */
export type TapWay = 'tapped' | 'onset' | 'teach';

interface TapSettings {
  /** how late taps come on this computer, seconds; null until it was measured */
  readonly lateness: number | null;
  readonly spread: number;
  readonly way: TapWay;
  /** how far an onset may draw a tap, seconds */
  readonly window: number;
  /** whether a pass adds to the marks or takes the place of those in the stretch that was played */
  readonly place: 'add' | 'replace';
  /** level of the clicks, 0 to 1 */
  readonly clickLevel: number;
}

/** Settings of this computer and the person at it; kept in the browser. */
export const useTapSettings = create<TapSettings>()(
  persist((): TapSettings => ({ lateness: null, spread: 0, way: 'onset', window: 0.06, place: 'add', clickLevel: 0.7 }), {
    name: 'bluster-tapping',
  }),
);
