import { dressing } from '../dressing.ts';

export const oldReel = dressing({
  name: 'Old reel',
  transitions: [{ section: null, transition: { kind: 'black', beats: 0.25, place: 'over' } }],
  looks: [
    { kind: 'grey', strength: 0.85, section: null },
    { kind: 'warmth', strength: 0.3, section: null },
    { kind: 'grain', strength: 0.5, section: null },
    { kind: 'vignette', strength: 0.5, section: null },
  ],
  letterboxes: [{ aspect: 1.33, beats: null, fall: 0 }],
  moveRule: { what: 'all', kinds: ['drift'], strength: 0.15, ease: 'even' },
  pictureFades: { in: 0.5, out: 1 },
  styles: [{ name: 'Machine', look: { face: 'typed', size: 0.09, weight: 'light', colour: 'cream', enter: 'letters', enterBeats: 4 } }],
  titles: [
    {
      look: { face: 'typed', size: 0.09, weight: 'light', colour: 'cream', enter: 'letters', enterBeats: 4 },
      style: 'Machine',
      place: 'middle',
    },
  ],
});
