import { CommandError } from './command-error.ts';
import type { Handlers } from './command.ts';
import { clipLength } from './document.ts';

export const footageCommands: Handlers<'addFootage' | 'removeFootage' | 'orderFootage' | 'setInOut'> = {
  addFootage: (montage, { items }) => {
    const there = new Set(montage.footage.map((item) => item.assetId));
    const fresh = items.filter((item) => !there.has(item.assetId));
    return fresh.length === 0 ? montage : { ...montage, footage: [...montage.footage, ...fresh] };
  },

  removeFootage: (montage, { assetIds }) => {
    const gone = new Set(assetIds);
    return {
      ...montage,
      footage: montage.footage.filter((item) => !gone.has(item.assetId)),
      shots: montage.shots.filter((shot) => !gone.has(shot.assetId)),
    };
  },

  orderFootage: (montage, { assetIds }) => {
    const place = new Map(assetIds.map((id, i) => [id, i]));
    const end = assetIds.length;
    return { ...montage, footage: [...montage.footage].sort((a, b) => (place.get(a.assetId) ?? end) - (place.get(b.assetId) ?? end)) };
  },

  setInOut: (montage, ask) => {
    const item = montage.footage.find((f) => f.assetId === ask.assetId);
    if (!item) throw new CommandError('That clip is no longer in the footage.');
    if (item.kind === 'photo') throw new CommandError('A photo has no in and out.');
    const length = clipLength(item);
    const frame = item.rate.den / item.rate.num;
    const from = Math.max(0, Math.min(ask.in, length - frame));
    const to = Math.max(from + frame, Math.min(ask.out, length));
    return { ...montage, footage: montage.footage.map((f) => (f === item ? { ...f, in: from, out: to } : f)) };
  },
};
