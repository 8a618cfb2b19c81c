import { dressing } from '../dressing.ts';

export const kiteTails = dressing({
  name: 'Kite tails',
  effects: [{ kind: 'punch', strength: 0.3, beats: 0.5, what: 'beat', section: null }],
  transitions: [{ section: null, transition: { kind: 'slide', beats: 0.5, place: 'over', way: 'up' } }],
  looks: [{ kind: 'saturation', strength: 0.35, section: null }],
  moveRule: { what: 'all', kinds: ['left', 'up', 'right', 'down'], strength: 0.4, ease: 'in-and-out' },
  styles: [
    {
      name: 'Ribbon',
      look: {
        face: 'brush',
        size: 0.16,
        weight: 'bold',
        colour: 'white',
        enter: 'middle',
        enterBeats: 1.5,
        plate: { colour: '#1f665c', opacity: 0.8 },
      },
    },
  ],
  titles: [
    {
      look: {
        face: 'brush',
        size: 0.16,
        weight: 'bold',
        colour: 'white',
        enter: 'middle',
        enterBeats: 1.5,
        plate: { colour: '#1f665c', opacity: 0.8 },
      },
      style: 'Ribbon',
      place: 'bottom',
    },
  ],
});
