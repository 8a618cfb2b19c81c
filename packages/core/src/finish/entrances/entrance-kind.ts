/** How one piece of a title is seen on its way. */
export interface PieceLook {
  /** 0 to 1 */
  readonly opacity: number;
  /** how far it stands below its place, in sizes of the letters */
  readonly below: number;
  /** 1 is as large as it will be */
  readonly scale: number;
}

/** How titles come and go: a kind is one file here and one line in `all.ts`. */
export interface EntranceKindDefinition {
  readonly title: string;
  /** what is seen, in one sentence without a full stop */
  readonly says: string;
  /** what comes one after the other */
  readonly by: 'all' | 'letters' | 'words';
  /** in which order: from first to last, from the middle outwards, or one on each mark */
  readonly order: 'along' | 'outwards' | 'on marks';
  /** over how many beats it comes, and goes, where nobody said otherwise; 0 is at once */
  readonly beats: number;
  /** @param part how far a piece has come, or how much of it has not gone yet: 0 to 1 @param coming whether it comes or goes */
  readonly piece: (part: number, coming: boolean) => PieceLook;
  /** how large the title is over all of its time; @param through how much of that is over, 0 to 1 */
  readonly grows: ((through: number) => number) | null;
}

/** Quick at first, and ending softly. */
export const softly = (part: number): number => 1 - (1 - part) ** 2;

/** A piece that simply fades. */
export const fading = (part: number): PieceLook => ({ opacity: softly(part), below: 0, scale: 1 });

/** Defines a way to come and go; what it does not say is as with a plain fade of the whole. */
export function entranceKind(
  definition: Pick<EntranceKindDefinition, 'title' | 'says'> & Partial<EntranceKindDefinition>,
): EntranceKindDefinition {
  return { by: 'all', order: 'along', beats: 0.5, piece: fading, grows: null, ...definition };
}
