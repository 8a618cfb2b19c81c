import { onceFor } from '../lists/once-for.ts';
import type { Look, Montage, ShotLook } from '../document/montage.ts';
import { cutFrame } from '../time/frames.ts';
import { toMontageTime } from '../music/arrangement.ts';
import { scoreOf } from '../score/score.ts';
import { sectionStretch } from '../song/sections.ts';
import { LOOKS } from './looks/all.ts';
import { PLAIN_LOOK, together, type LookParts } from './looks/look-parts.ts';
import { placedSpan, spanPart, type PlacedSpan } from './placed-span.ts';

/** What looks of a shot or of all make of a picture, together; @param part how much of each there is, 0 to 1 */
function partsOf({ kind, strength, table }: ShotLook | Look, part: number): Partial<LookParts> {
  return LOOKS[kind].parts(strength * part, table ?? null);
}

/** Looks of one shot, together; null where it has none. */
export function togetherOf(looks: readonly ShotLook[] | undefined): LookParts | null {
  return looks && looks.length > 0 ? looks.reduce((all, look) => together(all, partsOf(look, 1)), PLAIN_LOOK) : null;
}

interface PlacedLook {
  readonly look: Look;
  readonly spans: readonly PlacedSpan[];
}

/** The stretches of the montage in which a section of the song is heard. */
function sectionSpans(montage: Montage, id: string): PlacedSpan[] {
  const stretch = sectionStretch(montage, id);
  const { song, shape, cut } = montage;
  if (!stretch || !song) return [];
  const { frames } = scoreOf(montage);
  return song.pieces.flatMap((piece): PlacedSpan[] => {
    const [a, b] = [Math.max(piece.from, stretch.from), Math.min(piece.to, stretch.to)];
    if (b <= a) return [];
    const start = toMontageTime(song.pieces, a) ?? 0;
    const [from, to] = [start, start + b - a].map((time) => cutFrame(time, shape.rate, cut.rule, cut.lead)) as [number, number];
    return from < to ? [{ from: Math.max(0, from), to: Math.min(frames, to), rise: 0, fall: 0 }] : [];
  });
}

/** The looks of all pictures that are awake, with their frames; found once for each document. */
export const placedLooks = onceFor((montage: Montage): readonly PlacedLook[] =>
  montage.looks.flatMap((look): PlacedLook[] => {
    const whole: PlacedSpan = { from: 0, to: scoreOf(montage).frames, rise: 0, fall: 0 };
    const placed = look.span ? placedSpan(montage, look.span) : whole;
    const spans = look.section !== undefined ? sectionSpans(montage, look.section) : placed ? [placed] : [];
    return spans.length > 0 ? [{ look, spans }] : [];
  }),
);

/** What all pictures of a frame are made to look like; null where nothing is. */
export function lookAt(montage: Montage, frame: number): LookParts | null {
  if (montage.looks.length === 0) return null;
  let all: LookParts | null = null;
  for (const { look, spans } of placedLooks(montage)) {
    const part = spans.reduce((most, span) => Math.max(most, spanPart(span, frame)), 0);
    if (part > 0) all = together(all ?? PLAIN_LOOK, partsOf(look, part));
  }
  return all;
}
