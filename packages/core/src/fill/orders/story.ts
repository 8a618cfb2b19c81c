import { orderKind } from './order-kind.ts';

export const story = orderKind({
  title: 'story',
  items: (footage) => footage,
  why: () => 'next in the story',
  keepsTogether: true,
  matches: false,
});
