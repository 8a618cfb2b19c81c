/** A size in pixels, even in both directions. */
export interface Size {
  readonly width: number;
  readonly height: number;
}
