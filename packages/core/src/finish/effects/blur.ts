import { effectKind } from './effect-kind.ts';

export const blur = effectKind({
  title: 'blur',
  says: 'The picture is out of focus and clears',
  key: 'x',
  defaults: { strength: 0.6, beats: 1 },
  at: (left) => ({ look: { blur: left } }),
});
