import { CommandError } from '../document/command-error.ts';
import type { Montage, Title, TitleLook } from '../document/montage.ts';
import { placedMarks } from '../marks/placed-marks.ts';
import { beatsBetween } from '../marks/beats-on.ts';

/** Words to be read along: smaller than a title that stands alone. */
const USUAL_LOOK: TitleLook = { size: 0.07, weight: 'bold', colour: 'white', enter: 'fade' };

/** How cues become titles. */
export interface CueWish {
  /** the cues; left out, all that have a word and lie in the montage */
  readonly ids?: readonly string[];
  /** the longest that one stays where no other comes, beats */
  readonly longest: number;
  /** how they look: a style's id; left out, as titles are when they are written */
  readonly style?: string;
}

/** The cues that have a word, in the order of the montage. */
export const spokenCues = (montage: Montage): ReturnType<typeof placedMarks> =>
  placedMarks(montage).filter(({ mark }) => mark.kind === 'cue' && (mark.label ?? '').trim() !== '');

/**
 * The montage with a title for each cue: it comes on the cue, and stays until the next one comes.
 * @throws CommandError where there is no cue with a word
 */
export function titlesFromCues(montage: Montage, { ids, longest, style }: CueWish): Montage {
  const every = spokenCues(montage);
  const cues = ids ? every.filter(({ mark }) => ids.includes(mark.id)) : every;
  if (cues.length === 0) throw new CommandError('No cue has a word. Bring in captions or timed lyrics, or give a cue its word in Song.');
  const worn = style === undefined ? null : montage.styles.find((s) => s.id === style);
  const look: TitleLook = worn ? worn.look : USUAL_LOOK;
  let { lastId } = montage;
  const titles = cues.map(({ mark, time }, i): Title => {
    const next = cues[i + 1];
    const beats = next ? beatsBetween(montage, time, next.time) : Infinity;
    return {
      ...look,
      ...(worn ? { style: worn.id } : {}),
      id: `t${++lastId}`,
      text: mark.label!.trim().slice(0, 400),
      from: { markId: mark.id, time: mark.time },
      beats: Math.max(0.25, Math.min(longest, Math.round(beats * 1000) / 1000)),
      place: 'bottom',
      ...(next && beats <= longest ? { until: { markId: next.mark.id, time: next.mark.time } } : {}),
    };
  });
  return { ...montage, lastId, titles: [...montage.titles, ...titles] };
}
