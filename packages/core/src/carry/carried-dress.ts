import type { Effect, Look, Moment, Montage, SectionRule, Span, Title } from '../document/montage.ts';
import type { Crossing } from './crossing.ts';

/** What dresses a montage and found no place in another song. */
export interface LeftDress {
  readonly what: 'effect' | 'title' | 'look' | 'fade' | 'letterbox' | 'level';
  /** what it is called */
  readonly name: string;
  /** where it was, song seconds */
  readonly at: number;
}

/** What dresses a montage, in another song. */
export type Dress = Pick<Montage, 'effects' | 'titles' | 'looks' | 'fades' | 'letterboxes' | 'levels' | 'sectionRules'>;

class Wardrobe {
  readonly left: LeftDress[] = [];

  constructor(
    private readonly source: Montage,
    private readonly crossing: Crossing,
    private readonly names: ReadonlyMap<string, string>,
    public lastId: number,
  ) {}

  private timeOf({ markId, time }: Moment): number {
    return (markId === null ? undefined : this.source.marks.find((m) => m.id === markId)?.time) ?? time;
  }

  private leave(what: LeftDress['what'], name: string, at: Moment | null | undefined): void {
    this.left.push({ what, name, at: at ? this.timeOf(at) : 0 });
  }

  /** A thing of a section once for each section that takes its cut from that one; the first keeps its name. */
  private inSections<T extends { readonly id: string }>(
    thing: T,
    section: string,
    sign: string,
    put: (id: string, section: string) => T,
  ): T[] {
    return this.crossing.sectionsFor(section).map((fresh, i) => put(i === 0 ? thing.id : `${sign}${++this.lastId}`, fresh));
  }

  effects(): Effect[] {
    const { crossing } = this;
    return this.source.effects.flatMap((effect): Effect[] => {
      const { on } = effect;
      if (on.kind === 'moment') {
        const there = crossing.moment(on);
        if (!there) this.leave('effect', effect.kind, on);
        return there ? [{ ...effect, on: { kind: 'moment', ...there } }] : [];
      }
      // What was left out by hand stays so where its mark or its cut came along.
      const except = on.except.flatMap((id) => this.names.get(id) ?? crossing.moment({ markId: id, time: -1 })?.markId ?? []);
      if (on.section === undefined) return [{ ...effect, on: { ...on, except } }];
      const worn = this.inSections(effect, on.section, 'e', (id, section) => ({ ...effect, id, on: { ...on, section, except } }));
      if (worn.length === 0) this.leave('effect', effect.kind, null);
      return worn;
    });
  }

  private span({ from, to, ...rest }: Span): Span | null {
    const [start, end] = [from && this.crossing.moment(from), to && this.crossing.moment(to)];
    return (from && !start) || (to && !end) || (start && end && end.time <= start.time) ? null : { ...rest, from: start, to: end };
  }

  spanned<T extends { readonly span: Span }>(what: LeftDress['what'], things: readonly T[]): T[] {
    return things.flatMap((thing) => {
      const span = this.span(thing.span);
      if (!span) this.leave(what, what, thing.span.from ?? thing.span.to);
      return span ? [{ ...thing, span }] : [];
    });
  }

  looks(): Look[] {
    return this.source.looks.flatMap((look): Look[] => {
      const span = look.span && this.span(look.span);
      if (look.span && !span) {
        this.leave('look', look.kind, look.span.from ?? look.span.to);
        return [];
      }
      const spanned = span ? { ...look, span } : look;
      if (look.section === undefined) return [spanned];
      const worn = this.inSections(spanned, look.section, 'lk', (id, section) => ({ ...spanned, id, section }));
      if (worn.length === 0) this.leave('look', look.kind, null);
      return worn;
    });
  }

  titles(): Title[] {
    return this.source.titles.flatMap((title): Title[] => {
      const { until, ...rest } = title;
      const from = this.crossing.moment(title.from);
      if (!from) this.leave('title', title.text, title.from);
      if (!from) return [];
      const end = until === undefined || until === 'cut' ? until : this.crossing.moment(until);
      // Where its end is gone, it stays for its beats.
      return [{ ...rest, from, ...(end ? { until: end } : {}) }];
    });
  }

  levels(): Montage['levels'] {
    return this.source.levels.flatMap((level) => {
      const at = this.crossing.moment(level.at);
      if (!at) this.leave('level', level.of === 'song' ? 'level of the song' : 'level of the clips', level.at);
      return at ? [{ ...level, at }] : [];
    });
  }

  sectionRules(): SectionRule[] {
    return this.source.sectionRules.flatMap(({ section, rule }) =>
      this.crossing.sectionsFor(section).map((fresh): SectionRule => ({ section: fresh, rule })),
    );
  }
}

/**
 * Lays what dresses a montage at the same bars and beats of another song.
 * @param names the pegs that stand for the old ones
 */
export function carriedDress(
  source: Montage,
  crossing: Crossing,
  names: ReadonlyMap<string, string>,
  lastId: number,
): { readonly dress: Dress; readonly left: readonly LeftDress[]; readonly lastId: number } {
  const wardrobe = new Wardrobe(source, crossing, names, lastId);
  const rules = wardrobe.sectionRules();
  const dress: Dress = {
    effects: wardrobe.effects(),
    titles: wardrobe.titles(),
    looks: wardrobe.looks(),
    fades: wardrobe.spanned('fade', source.fades),
    letterboxes: wardrobe.spanned('letterbox', source.letterboxes),
    levels: wardrobe.levels(),
    // One section takes one rule: that of the first whose cut it takes.
    sectionRules: rules.filter((r, i) => rules.findIndex((other) => other.section === r.section) === i),
  };
  return { dress, left: wardrobe.left, lastId: wardrobe.lastId };
}
