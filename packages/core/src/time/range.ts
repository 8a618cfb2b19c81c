/** A stretch of the song, song seconds. */
export interface Range {
  readonly from: number;
  readonly to: number;
}
