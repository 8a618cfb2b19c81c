import { dressing } from '../dressing.ts';

export const nightFair = dressing({
  name: 'Night fair',
  effects: [
    { kind: 'drain', strength: 0.8, beats: 2, what: 'drop', section: null },
    { kind: 'blur', strength: 0.5, beats: 1, what: 'bar', section: null },
  ],
  transitions: [{ section: null, transition: { kind: 'haze', beats: 0.5, place: 'over' } }],
  looks: [
    { kind: 'warmth', strength: -0.3, section: null },
    { kind: 'contrast', strength: 0.3, section: null },
    { kind: 'vignette', strength: 0.55, section: null },
  ],
  styles: [
    {
      name: 'Lamps',
      look: {
        face: 'shop',
        size: 0.12,
        weight: 'bold',
        colour: 'coral',
        enter: 'letters',
        enterBeats: 2,
        outline: { width: 0.03, colour: '#1b2733' },
      },
    },
  ],
  titles: [
    {
      look: {
        face: 'shop',
        size: 0.12,
        weight: 'bold',
        colour: 'coral',
        enter: 'letters',
        enterBeats: 2,
        outline: { width: 0.03, colour: '#1b2733' },
      },
      style: 'Lamps',
      place: 'bottom',
    },
  ],
});
