import type { Montage, TitleLook, Transition } from '../../document/montage.ts';
import { beatsBetween } from '../../marks/beats-on.ts';
import { scoreOf } from '../../score/score.ts';
import { isInSection, sectionStretches } from '../../song/sections.ts';
import { toSongTime } from '../../music/arrangement.ts';
import { ships } from '../faces/faces.ts';
import { placedMoment } from '../placed-moment.ts';
import { lookOf } from '../styles.ts';
import { placedTitles } from '../titles.ts';
import { dressing, type Dressing } from './dressing.ts';

/** Of the cuts of a stretch so many have to go over alike, so that it counts as theirs. */
const MOST = 0.5;

/** The transition that most cuts have; null where that is none, or none is the most. */
function usual(transitions: readonly (Transition | undefined)[]): Transition | null {
  const counts = new Map<string, number>();
  for (const t of transitions) if (t) counts.set(JSON.stringify(t), (counts.get(JSON.stringify(t)) ?? 0) + 1);
  const [best] = [...counts].sort((a, b) => b[1] - a[1]);
  return best && best[1] >= MOST * transitions.length ? (JSON.parse(best[0]) as Transition) : null;
}

function transitionsOf(montage: Montage): Dressing['transitions'] {
  const pieces = montage.song?.pieces ?? [];
  const cuts = scoreOf(montage)
    .slots.slice(1)
    .map(({ start }) => ({ time: toSongTime(pieces, start.time), transition: start.peg?.transition }));
  const all = usual(cuts.map((c) => c.transition));
  const own = sectionStretches(montage).flatMap((section) => {
    const inside = cuts.filter((c) => isInSection(section, c.time));
    const transition = section.id !== null && inside.length > 1 ? usual(inside.map((c) => c.transition)) : null;
    return transition && JSON.stringify(transition) !== JSON.stringify(all) ? [{ section: section.name, transition }] : [];
  });
  return [...(all ? [{ section: null, transition: all }] : []), ...own].slice(0, 60);
}

/** A look that does without the typefaces that this montage alone has. */
const portable = (look: TitleLook): TitleLook => {
  const { face, ...rest } = look;
  return face !== undefined && ships(face) ? look : rest;
};

/** What a montage is dressed in: its rules, looks, styles and where its titles stand. What belongs to one mark or one shot is not in it. */
export function dressingOf(montage: Montage, name: string): Dressing {
  const nameOf = (id: string | undefined): string | null | undefined =>
    id === undefined ? null : montage.song?.sections.find((s) => s.id === id)?.name;
  const styleNames = new Map(montage.styles.map((s) => [s.id, s.name]));
  return structuredClone(
    dressing({
      name,
      effects: montage.effects
        .flatMap(({ id: _, on, assetId: __, ...effect }) => {
          if (on.kind !== 'every' || effect.kind === 'sound') return [];
          const section = nameOf(on.section);
          return section === undefined ? [] : [{ ...effect, what: on.what, section }];
        })
        .slice(0, 60),
      transitions: transitionsOf(montage),
      looks: montage.looks
        .flatMap(({ id: _, section: of, span, ...look }) => {
          const section = nameOf(of);
          return span !== undefined || section === undefined ? [] : [{ ...look, section }];
        })
        .slice(0, 60),
      tables: montage.tables.filter((t) => montage.looks.some((l) => l.table === t.id && !l.span)),
      moveRule: montage.moveRule as Dressing['moveRule'],
      letterboxes: montage.letterboxes
        .flatMap(({ aspect, span }) => {
          if (span.from !== null) return [];
          const end = span.to && placedMoment(montage, span.to);
          if (span.to && !end) return [];
          const beats = end ? Math.round(beatsBetween(montage, 0, end.time)) : null;
          return beats !== null && beats <= 0 ? [] : [{ aspect, beats, fall: span.fall }];
        })
        .slice(0, 10),
      pictureFades: montage.pictureFades,
      styles: montage.styles.map((s) => ({ name: s.name, look: portable(s.look) })),
      titles: placedTitles(montage)
        .slice(0, 60)
        .map(({ title }) => ({
          look: portable(lookOf(title)),
          place: title.place,
          ...(title.at ? { at: title.at } : {}),
          ...(title.style === undefined ? {} : { style: styleNames.get(title.style)! }),
        })),
      ducking: montage.ducking,
    }),
  );
}
