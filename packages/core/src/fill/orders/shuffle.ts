import { shuffled } from '../../lists/seeded.ts';
import { orderKind } from './order-kind.ts';

export const shuffle = orderKind({
  title: 'shuffled',
  items: (footage, { seed }) => shuffled(footage, seed),
  why: ({ seed }) => `shuffled by ${seed}`,
  keepsTogether: false,
  matches: false,
});
