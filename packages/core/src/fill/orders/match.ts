import { orderKind } from './order-kind.ts';

/** What suits each slot best, found for all of them together; see `best-match.ts`. */
export const match = orderKind({
  title: 'best match',
  items: (footage) => footage,
  why: () => 'suits best',
  keepsTogether: true,
  matches: true,
});
