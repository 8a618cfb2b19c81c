import { UNDESCRIBED } from '../footage-item.ts';
import { listIn, recordIn, type Migration } from './migration.ts';

const numberIn = (value: unknown): number => (typeof value === 'number' ? value : NaN);

export const selects: Migration = {
  from: 1,
  what: 'each clip had one in and out; now it has any number of selects',
  upgrade: (old) => ({
    ...old,
    sounds: [],
    footage: listIn(old['footage']).map((entry) => {
      const { in: from, out, ...item } = recordIn(entry);
      const rate = recordIn(item['rate']);
      const length = (numberIn(item['frames']) * numberIn(rate['den'])) / numberIn(rate['num']);
      const whole = item['kind'] === 'photo' || (numberIn(from) < 1e-6 && numberIn(out) > length - 1e-6);
      const id = `c-${String(item['assetId'])}`.slice(0, 64);
      return { ...item, ...UNDESCRIBED, selects: whole ? [] : [{ id, in: from, out, hit: null }] };
    }),
  }),
};
