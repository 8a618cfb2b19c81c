import type { Effect, Letterbox, Look, Montage, Peg, Title, Transition } from '../../document/montage.ts';
import { isInSection, sectionStretches } from '../../song/sections.ts';
import { timeAfterBeats } from '../../marks/beats-on.ts';
import { toSongTime } from '../../music/arrangement.ts';
import { scoreOf } from '../../score/score.ts';
import { wearing } from '../styles.ts';
import { placedTitles } from '../titles.ts';
import type { Dressing } from './dressing.ts';

class Tailor {
  private lastId: number;

  constructor(
    private readonly montage: Montage,
    private readonly dressing: Dressing,
  ) {
    this.lastId = montage.lastId;
  }

  private id(sign: string): string {
    return `${sign}${++this.lastId}`;
  }

  /** The section of a name; null is all of the montage, undefined none there is. */
  private section(name: string | null): string | null | undefined {
    return name === null ? null : this.montage.song?.sections.find((s) => s.name === name)?.id;
  }

  private effects(): Effect[] {
    // Sounds, and what was laid on one mark by hand, are this montage's own.
    const own = this.montage.effects.filter((e) => e.on.kind === 'moment' || e.kind === 'sound');
    const worn = this.dressing.effects.flatMap(({ what, section: name, ...effect }): Effect[] => {
      const section = this.section(name);
      if (section === undefined) return [];
      const on: Effect['on'] = { kind: 'every', what, ...(section === null ? {} : { section }), except: [] };
      return [{ ...effect, id: this.id('e'), on }];
    });
    return [...own, ...worn];
  }

  private looks(tables: ReadonlyMap<string, string>): Look[] {
    const own = this.montage.looks.filter((l) => l.span !== undefined);
    const worn = this.dressing.looks.flatMap(({ section: name, table, ...look }): Look[] => {
      const section = this.section(name);
      if (section === undefined) return [];
      return [
        {
          ...look,
          id: this.id('lk'),
          ...(table === undefined ? {} : { table: tables.get(table)! }),
          ...(section === null ? {} : { section }),
        },
      ];
    });
    return [...own, ...worn];
  }

  /** The montage's tables with those of the dressing, and how those are called now. */
  private tables(): { tables: Montage['tables']; names: ReadonlyMap<string, string> } {
    const names = new Map<string, string>();
    const fresh = this.dressing.tables.flatMap((table) => {
      const there = this.montage.tables.find((t) => t.colours === table.colours);
      const id = there?.id ?? this.id('tb');
      names.set(table.id, id);
      return there ? [] : [{ ...table, id }];
    });
    return { tables: [...this.montage.tables, ...fresh], names };
  }

  private letterboxes(): Letterbox[] {
    const own = this.montage.letterboxes.filter((l) => l.span.from !== null);
    const worn = this.dressing.letterboxes.map(({ aspect, beats, fall }): Letterbox => {
      const pieces = this.montage.song?.pieces ?? [];
      const end = beats === null ? null : { markId: null, time: toSongTime(pieces, timeAfterBeats(this.montage, 0, beats)) };
      return { id: this.id('lb'), aspect, span: { from: null, to: end, rise: 0, fall: end ? fall : 0 } };
    });
    return [...own, ...worn];
  }

  /** The styles of the dressing in place of those of the same names. */
  private styles(): Montage['styles'] {
    const kept = this.montage.styles.filter((s) => !this.dressing.styles.some((worn) => worn.name === s.name));
    const worn = this.dressing.styles.map(({ name, look }) => ({
      id: this.montage.styles.find((s) => s.name === name)?.id ?? this.id('y'),
      name,
      look,
    }));
    return [...kept, ...worn];
  }

  private titles(styles: Montage['styles']): Title[] {
    const { titles } = this.dressing;
    const order = new Map(placedTitles(this.montage).map(({ title }, i) => [title.id, i]));
    const byStyle = new Map(styles.map((s) => [s.id, s.look]));
    return this.montage.titles.map((title): Title => {
      const worn = titles[Math.min(order.get(title.id) ?? 0, titles.length - 1)];
      if (!worn) return title.style === undefined ? title : wearing(title, byStyle.get(title.style)!);
      const { at: _, style: __, ...bare } = wearing(title, worn.look);
      const style = styles.find((s) => s.name === worn.style)?.id;
      return { ...bare, place: worn.place, ...(worn.at ? { at: worn.at } : {}), ...(style === undefined ? {} : { style }) };
    });
  }

  private pegs(): readonly Peg[] {
    const { transitions } = this.dressing;
    const pieces = this.montage.song?.pieces ?? [];
    const cuts = scoreOf(this.montage).slots.slice(1);
    const sections = sectionStretches(this.montage);
    const worn = new Map<string, Transition>();
    for (const { section: name, transition } of transitions)
      for (const { start } of cuts) {
        const section = sections.find((s) => isInSection(s, toSongTime(pieces, start.time)));
        if (name === null || section?.name === name) worn.set(start.id, transition);
      }
    return this.montage.pegs.map(({ transition: old, ...peg }): Peg => {
      const own = worn.get(peg.id);
      // The transitions of cutaways are their own.
      return own ? { ...peg, transition: own } : peg.over && old ? { ...peg, transition: old } : peg;
    });
  }

  dress(): Montage {
    const { tables, names } = this.tables();
    const styles = this.styles();
    return {
      ...this.montage,
      effects: this.effects(),
      looks: this.looks(names),
      tables,
      moveRule: this.dressing.moveRule,
      letterboxes: this.letterboxes(),
      pictureFades: this.dressing.pictureFades,
      styles,
      titles: this.titles(styles),
      pegs: this.pegs(),
      ducking: this.dressing.ducking,
      lastId: this.lastId,
    };
  }
}

/**
 * A montage in another dressing: it takes the place of its own rules, transitions, looks of all, moves, letterboxes from the
 * start on and fades; what was laid on one mark, one shot or one stretch by hand stays. Titles keep their words and their time.
 */
export function dressedIn(montage: Montage, dressing: Dressing): Montage {
  return new Tailor(montage, dressing).dress();
}
