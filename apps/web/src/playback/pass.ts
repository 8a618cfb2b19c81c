/** One stretch being played: from a place of the arranged song at a moment of the audio clock. */
export interface Pass {
  readonly startedAt: number;
  readonly from: number;
  readonly to: number;
  /** seconds of the arranged song a second of the clock */
  readonly speed: number;
}
