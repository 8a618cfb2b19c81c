import { dressing } from '../dressing.ts';

export const firstLight = dressing({
  name: 'First light',
  transitions: [{ section: null, transition: { kind: 'white', beats: 0.5, place: 'over' } }],
  looks: [
    { kind: 'warmth', strength: 0.35, section: null },
    { kind: 'exposure', strength: 0.12, section: null },
    { kind: 'vignette', strength: 0.3, section: null },
  ],
  letterboxes: [{ aspect: 2.39, beats: 8, fall: 2 }],
  pictureFades: { in: 1.5, out: 1.5 },
  moveRule: { what: 'photos', kinds: ['up', 'closer'], strength: 0.4, ease: 'in-and-out' },
  styles: [{ name: 'Sunrise', look: { face: 'round', size: 0.13, weight: 'bold', colour: 'gold', enter: 'rise', enterBeats: 1 } }],
  titles: [
    {
      look: { face: 'round', size: 0.13, weight: 'bold', colour: 'gold', enter: 'rise', enterBeats: 1 },
      style: 'Sunrise',
      place: 'middle',
    },
  ],
});
