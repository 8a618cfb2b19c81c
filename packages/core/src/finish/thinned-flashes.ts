import type { Effect, Montage } from '../document/montage.ts';
import { EFFECTS } from './effects/all.ts';
import { firingsOf } from './firings.ts';
import { tooManyFlashes } from './flashes.ts';

/** As many times it is tried again: each time the flashes of every second that has too many become fewer. */
const ROUNDS = 24;

/** One flash in two of an effect that flashes in a second is left out. */
function everyOther(montage: Montage, effect: Effect): Effect | null {
  const own = firingsOf(montage).filter((f) => f.effect.id === effect.id);
  if (effect.on.kind === 'moment') return null;
  const skipped = own.flatMap(({ at }, i) => (i % 2 === 1 && at !== null ? [at] : []));
  return { ...effect, on: { ...effect.on, except: [...effect.on.except, ...skipped].slice(0, 5000) } };
}

/**
 * The montage with no more than three flashes in any second: strobes flash more slowly; where that is not enough, effects on
 * every mark of a kind leave out every other one, and single ones too close to others go.
 */
export function thinned(montage: Montage): Montage {
  let now = montage;
  for (let round = 0; round < ROUNDS; round++) {
    const [second] = tooManyFlashes(now);
    if (!second) break;
    const strobes = second.effects.filter((e) => !e.gentle && EFFECTS[e.kind].flashes!(0.1) > 1);
    const most = strobes[0] ?? second.effects.find((e) => e.on.kind === 'every') ?? second.effects.at(-1)!;
    const next: Effect | null = strobes.length > 0 ? { ...most, gentle: true } : everyOther(now, most);
    now = { ...now, effects: now.effects.flatMap((e) => (e.id === most.id ? (next ? [next] : []) : [e])) };
  }
  return now;
}
