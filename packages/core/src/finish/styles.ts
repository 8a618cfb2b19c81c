import type { Montage, Title, TitleLook } from '../document/montage.ts';
import { saysTheSame } from '../document/sharing.ts';

/** How a title looks, comes and goes, without what it says, when and where. */
export function lookOf(title: Title): TitleLook {
  const { id: _, text: __, from: ___, beats: ____, place: _____, until: ______, at: _______, style: ________, ...look } = title;
  return look;
}

/** A title with another look; its words, its time and its place stay. */
export function wearing(title: Title, look: TitleLook): Title {
  const { id, text, from, beats, place, until, at, style } = title;
  return {
    ...look,
    id,
    text,
    from,
    beats,
    place,
    ...(until === undefined ? {} : { until }),
    ...(at === undefined ? {} : { at }),
    ...(style === undefined ? {} : { style }),
  };
}

/** The montage with a style's look changed, and that of every title that wears it. */
export function afterStyle(montage: Montage, id: string, look: TitleLook): Montage {
  return {
    ...montage,
    styles: montage.styles.map((s) => (s.id !== id || saysTheSame(s.look, look) ? s : { ...s, look })),
    titles: montage.titles.map((t) => (t.style !== id || saysTheSame(lookOf(t), look) ? t : wearing(t, look))),
  };
}
