/** How an effect runs from its mark on until it is over: at each part of its time, how much of it there is. */
export const CURVES = {
  quick: { title: 'dies quickly', at: (part: number): number => (1 - part) ** 2 },
  even: { title: 'dies evenly', at: (part: number): number => 1 - part },
  late: { title: 'dies late', at: (part: number): number => 1 - part ** 3 },
  whole: { title: 'stays whole', at: (): number => 1 },
  swell: { title: 'swells and goes', at: (part: number): number => Math.sin(Math.PI * part) },
} as const;

export type Curve = keyof typeof CURVES;
export const CURVE_NAMES = Object.keys(CURVES) as [Curve, ...Curve[]];
