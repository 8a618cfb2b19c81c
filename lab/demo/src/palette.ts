/** Colours of the hill at an hour of the day: 0 is morning, 1 is dusk. */
export interface Light {
  readonly skyTop: string;
  readonly skyLow: string;
  readonly sun: string;
  readonly far: string;
  readonly near: string;
  readonly grass: string;
  readonly cloud: string;
  readonly shade: string;
}

const HOURS: readonly (readonly [number, Light])[] = [
  [
    0,
    {
      skyTop: '#7fb4cf',
      skyLow: '#e6eee2',
      sun: '#fff3cf',
      far: '#9dbdc0',
      near: '#5f9478',
      grass: '#3f7d5c',
      cloud: '#ffffff',
      shade: '#2d5a4b',
    },
  ],
  [
    0.45,
    {
      skyTop: '#5d9fc6',
      skyLow: '#cfe6e6',
      sun: '#fff9e0',
      far: '#8fb6b8',
      near: '#6aa06a',
      grass: '#4d8a4f',
      cloud: '#ffffff',
      shade: '#2f6144',
    },
  ],
  [
    0.75,
    {
      skyTop: '#7d8fb8',
      skyLow: '#f6cf9f',
      sun: '#ffd98a',
      far: '#b39a98',
      near: '#8a8a5e',
      grass: '#6b7a45',
      cloud: '#ffe6cb',
      shade: '#45502f',
    },
  ],
  [
    1,
    {
      skyTop: '#2d3563',
      skyLow: '#e8825a',
      sun: '#ffb45e',
      far: '#6c5470',
      near: '#4a4358',
      grass: '#38384a',
      cloud: '#e7a08c',
      shade: '#20233a',
    },
  ],
];

const channels = (hex: string): number[] => [1, 3, 5].map((i) => parseInt(hex.slice(i, i + 2), 16));

/** A colour part of the way from one to another. */
export function blend(a: string, b: string, part: number): string {
  const [x, y] = [channels(a), channels(b)];
  return `#${x
    .map((v, i) =>
      Math.round(v + (y[i]! - v) * part)
        .toString(16)
        .padStart(2, '0'),
    )
    .join('')}`;
}

/** A colour with an opacity, 0 to 1. */
export function clear(hex: string, opacity: number): string {
  const [r, g, b] = channels(hex);
  return `rgba(${r},${g},${b},${opacity})`;
}

/** The light at an hour, blended from the fixed ones. */
export function lightAt(hour: number): Light {
  let k = 0;
  while (k + 2 < HOURS.length && hour > HOURS[k + 1]![0]) k++;
  const [from, a] = HOURS[k]!;
  const [to, b] = HOURS[k + 1]!;
  const part = Math.min(1, Math.max(0, (hour - from) / (to - from)));
  return Object.fromEntries(
    Object.keys(a).map((key) => [key, blend(a[key as keyof Light], b[key as keyof Light], part)]),
  ) as unknown as Light;
}
