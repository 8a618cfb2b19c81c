import { dressing } from '../dressing.ts';

export const gusts = dressing({
  name: 'Gusts',
  effects: [
    { kind: 'punch', strength: 0.45, beats: 0.75, what: 'bar', section: null },
    { kind: 'shake', strength: 0.5, beats: 1, what: 'drop', section: null },
    { kind: 'flash', strength: 0.6, beats: 0.75, what: 'drop', section: null },
  ],
  looks: [
    { kind: 'contrast', strength: 0.25, section: null },
    { kind: 'saturation', strength: 0.2, section: null },
  ],
  moveRule: { what: 'photos', kinds: ['closer', 'wider', 'left', 'right'], strength: 0.6, ease: 'in-and-out', byEnergy: true },
  styles: [
    { name: 'Loud', look: { face: 'tall', size: 0.2, weight: 'bold', colour: 'white', enter: 'marks', wordsOn: 'beat', spacing: 0.03 } },
  ],
  titles: [
    {
      look: { face: 'tall', size: 0.2, weight: 'bold', colour: 'white', enter: 'marks', wordsOn: 'beat', spacing: 0.03 },
      style: 'Loud',
      place: 'middle',
    },
  ],
});
