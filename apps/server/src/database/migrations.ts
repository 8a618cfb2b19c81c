import { Awaits1700000000003 } from './awaits.migration.ts';
import { Dressings1700000000005 } from './dressings.migration.ts';
import { First1700000000001 } from './first.migration.ts';
import { Hash1700000000002 } from './hash.migration.ts';
import { Losses1700000000004 } from './losses.migration.ts';

/** Every step of the database, in order. */
export const MIGRATIONS = [First1700000000001, Hash1700000000002, Awaits1700000000003, Losses1700000000004, Dressings1700000000005];
