import { gapsOf, scoreOf, type Montage } from '@bluster/core';
import type { View } from '../interface/action.ts';

/** What a button of the guide does. */
export type GuideDeed =
  | { readonly do: 'go'; readonly to: View }
  /** has the beats of the song found */
  | { readonly do: 'detect' }
  /** hangs footage in the slots that are empty */
  | { readonly do: 'fill' }
  /** makes up for what runs short */
  | { readonly do: 'close-gaps' };

/** What comes next in a view that is empty or half done: a line, and the one button that does it. */
export interface NextStep {
  readonly says: string;
  readonly button: string;
  readonly deed: GuideDeed;
}

/** What is under way, besides the montage itself. */
export interface UnderWay {
  /** somebody listens to the song just now */
  readonly listening: boolean;
  /** a song is on its way in */
  readonly song: boolean;
  /** footage is on its way in */
  readonly footage: boolean;
}

const go = (says: string, button: string, to: View): NextStep => ({ says, button, deed: { do: 'go', to } });

function afterScore(montage: Montage): NextStep | null {
  const { slots } = scoreOf(montage);
  const empty = slots.filter((s) => !s.placed).length;
  if (empty > 0)
    return {
      says: `${empty} of ${slots.length} slots ${empty === 1 ? 'is' : 'are'} empty.`,
      button: empty === 1 ? 'Fill it' : 'Fill them',
      deed: { do: 'fill' },
    };
  const gaps = gapsOf(montage).length;
  if (gaps > 0)
    return {
      says: `${gaps} ${gaps === 1 ? 'shot runs' : 'shots run'} short of ${gaps === 1 ? 'its slot' : 'their slots'}.`,
      button: 'Make up for it',
      deed: { do: 'close-gaps' },
    };
  return null;
}

/**
 * What comes next in a view. Views that are empty say themselves how they are filled, and what is done has no next step.
 * @returns null where nothing has to be said
 */
export function nextStep(view: View, montage: Montage, { listening, song, footage }: UnderWay): NextStep | null {
  const hung = montage.shots.length > 0;
  const marked = montage.marks.length > 0;
  const pictures = montage.footage.length > 0 || footage;
  if (!montage.song)
    return view === 'song' || song
      ? null
      : view === 'footage' && !pictures
        ? null
        : go('Everything hangs on a song.', 'Choose the song', 'song');
  if (view === 'song') {
    if (listening) return pictures ? null : go('The beats are being found. The footage can come meanwhile.', 'Bring in footage', 'footage');
    if (!marked)
      return {
        says: 'The song has no marks yet: tap along while it plays, or have its beats found.',
        button: 'Find the beats',
        deed: { do: 'detect' },
      };
    if (!pictures) return go('The song is marked. The footage comes next.', 'Bring in footage', 'footage');
    return hung || montage.pegs.length > 0 ? null : go('Song and footage are here. The first cut comes next.', 'To the score', 'score');
  }
  if (!marked) return listening ? null : go('The song has no marks yet, so there is nothing to cut on.', 'Mark the song', 'song');
  if (view === 'footage')
    return !pictures || hung || montage.pegs.length > 0 ? null : go('Next, it is hung on the marks.', 'To the score', 'score');
  if (!pictures) return go('There is nothing to hang yet.', 'Bring in footage', 'footage');
  if (view === 'score') return hung || montage.pegs.length > 0 ? afterScore(montage) : null;
  if (!hung) return go('Nothing hangs in the score yet.', 'To the score', 'score');
  const open = afterScore(montage);
  return open && view === 'export' ? open : null;
}
