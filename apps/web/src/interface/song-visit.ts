/** Why somebody comes to the song from another view. */
export interface SongVisit {
  /** how long it had better be, seconds */
  readonly shortenTo?: number;
}
