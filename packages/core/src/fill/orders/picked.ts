import { orderKind } from './order-kind.ts';

/** What was picked, in that order; the rest is left out. */
export const picked = orderKind({
  title: 'picked',
  items: (footage, settings) => (settings.picked ?? []).flatMap((id) => footage.find((item) => item.assetId === id) ?? []),
  why: () => 'next as picked',
  keepsTogether: true,
  matches: false,
});
