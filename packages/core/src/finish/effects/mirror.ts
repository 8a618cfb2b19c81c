import { effectKind } from './effect-kind.ts';

export const mirror = effectKind({
  title: 'mirror',
  says: 'One half of the picture is seen on both sides',
  key: 'm',
  defaults: { strength: 1, beats: 1 },
  curve: 'whole',
  ways: ['left', 'right', 'up', 'down'],
  at: (left, { way }) => (left > 0 ? { mirror: way } : {}),
});
