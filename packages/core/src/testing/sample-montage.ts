import { emptyMontage, type FootageItem, type Montage } from '../document/montage.ts';
import { UNDESCRIBED } from '../document/footage-item.ts';
import { carryOut } from '../commands/carry-out.ts';

/** A clip for tests. */
export function sampleClip(assetId: string, seconds: number, more: Partial<FootageItem> = {}): FootageItem {
  const rate = more.rate ?? { num: 30, den: 1 };
  const frames = Math.round((seconds * rate.num) / rate.den);
  return {
    assetId,
    kind: 'clip',
    name: `${assetId}.mp4`,
    width: 1280,
    height: 720,
    rate,
    frames,
    hasSound: false,
    ...UNDESCRIBED,
    ...more,
  };
}

export function samplePhoto(assetId: string): FootageItem {
  return {
    assetId,
    kind: 'photo',
    name: `${assetId}.jpg`,
    width: 1600,
    height: 1200,
    rate: { num: 1, den: 1 },
    frames: 1,
    hasSound: false,
    ...UNDESCRIBED,
  };
}

/** A montage for tests: a song of so many seconds with a beat every half second, bars of four, and clips. */
export function sampleMontage(seconds = 20, clips: readonly FootageItem[] = ['a', 'b', 'c', 'd'].map((id) => sampleClip(id, 5))): Montage {
  let montage = carryOut(emptyMontage(), { do: 'setSong', assetId: 'song', name: 'song.wav', length: seconds });
  const times = Array.from({ length: Math.floor(seconds / 0.5) }, (_, i) => i * 0.5);
  montage = carryOut(montage, { do: 'takeBeatTimes', times, metre: 4 });
  return carryOut(montage, { do: 'addFootage', items: clips });
}
