import { dressing } from '../dressing.ts';

export const stillAir = dressing({
  name: 'Still air',
  transitions: [{ section: null, transition: { kind: 'dissolve', beats: 1, place: 'over' } }],
  looks: [
    { kind: 'saturation', strength: -0.25, section: null },
    { kind: 'faded', strength: 0.35, section: null },
  ],
  moveRule: { what: 'photos', kinds: ['drift', 'closer'], strength: 0.3, ease: 'in-and-out' },
  pictureFades: { in: 1, out: 2 },
  styles: [
    { name: 'Quiet', look: { face: 'book', size: 0.1, weight: 'light', colour: 'cream', enter: 'fade', enterBeats: 1, spacing: 0.04 } },
  ],
  titles: [
    {
      look: { face: 'book', size: 0.1, weight: 'light', colour: 'cream', enter: 'fade', enterBeats: 1, spacing: 0.04 },
      style: 'Quiet',
      place: 'middle',
    },
  ],
});
