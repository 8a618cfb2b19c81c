import type { Dressing } from './dressing.ts';
import { firstLight } from './kinds/first-light.ts';
import { gusts } from './kinds/gusts.ts';
import { kiteTails } from './kinds/kite-tails.ts';
import { nightFair } from './kinds/night-fair.ts';
import { oldReel } from './kinds/old-reel.ts';
import { stillAir } from './kinds/still-air.ts';

/** The dressings that ship, in the order in which they are offered. */
export const DRESSINGS: readonly Dressing[] = [stillAir, firstLight, gusts, kiteTails, nightFair, oldReel];
