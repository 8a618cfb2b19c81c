import { z } from 'zod';
import { firstFrom } from '../../lists/first-from.ts';
import { seeded } from '../../lists/seeded.ts';
import { NO_BARS } from './counting.ts';
import { onMark, ruleKind, type Ground, type PegPlace, type RuleMark } from './rule-kind.ts';

/**
 * How much music it takes to cut at a place: the first bar of four, of two, any bar, the strong beat in its middle, the last
 * beat that leads into the next, the others. What is in full swing reaches further down.
 */
const RANK = { phrase: 0, pair: 1, bar: 2, strong: 3, leading: 4, weak: 5 } as const;
/** How far down the fullest music reaches, and how much of that the slider gives or takes. */
const BY_MUSIC = 3;
const BY_SLIDER = 3.6;
/** Even in quiet music every fourth bar is cut. */
const AT_LEAST = 0.2;
/** How fullness is heard: by its section, and by how dense its accents are. */
const BY_SECTION = 0.65;
/** An accent on a place draws a cut there, and freedom lets chance do so. */
const BY_ACCENT = 0.7;
const BY_CHANCE = 1.3;
/** Before a drop cuts come closer, unless the pace is calm. */
const INTO_DROP = 4.2;
const CALM = 0.25;
/** An accent so near to a beat is on it, seconds. */
const ON_BEAT_S = 0.05;
/** A bar is dense with so many times the accents that the song's bars mostly have. */
const DENSE = 2;
/** With all freedom so many cuts leave their beat for one beside it, up to so many beats away. */
const STRAYING = 0.75;
const STRAYS_BEATS = 2;
/** What a montage begins and ends with stands for a while, seconds. */
const EDGE_S = 2;
/** A run of up to so many lengths is not heard three times on end. */
const LONGEST_RUN = 4;

const fields = z.object({
  kind: z.literal('pace'),
  /** 0 is calm, 1 is lively */
  lively: z.number().min(0).max(1),
  /** 0 is regular, 1 is free */
  free: z.number().min(0).max(1),
  seed: z.int().min(0).max(1_000_000),
  /** nothing is shorter than so many frames */
  least: z.int().min(1).max(600),
});
type Pace = z.infer<typeof fields>;

/** A beat as a place to cut. */
interface Spot {
  readonly mark: RuleMark;
  /** its index among the song's beats */
  readonly beat: number;
  readonly rank: number;
  /** how far down the music reaches here, and what draws a cut to this very beat */
  readonly reach: number;
  readonly draw: number;
  /** by chance, 0 to 1: whether a cut that is free to leaves this beat */
  readonly strays: number;
  /** it is cut whatever the music is like */
  readonly always: boolean;
}

interface Bar {
  /** beats, by their indices */
  readonly first: number;
  readonly beats: number;
}

function barsOf(beats: readonly RuleMark[]): Bar[] {
  const starts = beats.flatMap((b, i) => (b.kind === 'bar' ? [i] : []));
  return starts.map((first, i) => ({ first, beats: (starts[i + 1] ?? beats.length) - first }));
}

/** How dense the accents of each bar are, 0 to 1. */
function densities(bars: readonly Bar[], beats: readonly RuleMark[], accents: readonly RuleMark[]): number[] {
  const sums = bars.map(() => 0);
  const starts = bars.map((bar) => beats[bar.first]!.time);
  let at = 0;
  for (const m of accents) {
    while (at + 1 < starts.length && starts[at + 1]! <= m.time) at++;
    if (m.time >= (starts[at] ?? Infinity)) sums[at]! += m.strength ?? 1;
  }
  const dense = DENSE * ([...sums].sort((a, b) => a - b)[Math.floor(sums.length / 2)] ?? 0);
  return sums.map((sum) => (dense > 0 ? Math.min(1, sum / dense) : 0));
}

/** The strongest accent on a time, 0 where there is none. @param accents in order of time */
function accentOn(accents: readonly RuleMark[], time: number): number {
  let most = 0;
  for (let i = firstFrom(accents, (a) => a.time, time - ON_BEAT_S); i < accents.length && accents[i]!.time <= time + ON_BEAT_S; i++)
    most = Math.max(most, accents[i]!.strength ?? 1);
  return most;
}

const rankIn = (place: number, beats: number, bar: number): number => {
  if (place === 0) return bar % 4 === 0 ? RANK.phrase : bar % 2 === 0 ? RANK.pair : RANK.bar;
  if (place === Math.ceil(beats / 2)) return RANK.strong;
  return place === beats - 1 ? RANK.leading : RANK.weak;
};

/** Every beat as a place to cut. Nothing here takes a place away where the music is fuller. */
function spotsOf(rule: Pace, ground: Ground): Spot[] {
  const { beats, marks, sections } = ground;
  const bars = barsOf(beats);
  const accents = marks.filter((m) => m.kind === 'accent').sort((a, b) => a.time - b.time);
  const dense = densities(bars, beats, accents);
  const dropMarks = marks.filter((m) => m.kind === 'drop');
  const drops = dropMarks.map((m) => m.time);
  const random = seeded(rule.seed);
  const chances = beats.map(() => 2 * random() - 1);
  const straying = beats.map(() => random());
  const slider = BY_SLIDER * (rule.lively - 0.5);
  let section = -1;
  let inSection = 0;
  const all = bars.flatMap((bar, b) => {
    const time = beats[bar.first]!.time;
    const here = sections.findLastIndex((s) => time >= s.from - ON_BEAT_S);
    const begins = here !== section && here > 0;
    if (here !== section) inSection = 0;
    section = here;
    const energy = sections[here]?.energy ?? 0.5;
    const fullness = BY_SECTION * energy + (1 - BY_SECTION) * dense[b]!;
    const after = bars[b + 1] ? beats[bars[b + 1]!.first]!.time : Infinity;
    const leadsIn = drops.some((drop) => Math.abs(drop - after) <= ON_BEAT_S * 2);
    const music = AT_LEAST + Math.max(0, BY_MUSIC * fullness + slider);
    const reach = leadsIn && rule.lively > CALM ? Math.max(music, INTO_DROP) : music;
    const spots = Array.from({ length: bar.beats }, (_, place): Spot => {
      const beat = bar.first + place;
      const mark = beats[beat]!;
      const draw = BY_ACCENT * accentOn(accents, mark.time) + rule.free * BY_CHANCE * chances[beat]!;
      return { mark, beat, rank: rankIn(place, bar.beats, inSection), reach, draw, strays: straying[beat]!, always: place === 0 && begins };
    });
    inSection++;
    return spots;
  });
  // A drop that is heard on a beat is that place, whatever the music is like.
  return all.map((spot) => {
    const drop = dropMarks.find((m) => Math.abs(m.time - spot.mark.time) <= ON_BEAT_S);
    return drop ? { ...spot, mark: drop, always: true } : spot;
  });
}

/**
 * Where a run of lengths between cuts has just been heard for the third time: the index of its last; -1 where none has.
 * @param from, until which lengths are looked at, both counted in
 */
function thirdTime(cuts: readonly Spot[], from: number, until = cuts.length - 2): number {
  const length = (i: number): number => cuts[i + 1]!.beat - cuts[i]!.beat;
  for (let end = Math.max(0, from); end <= Math.min(until, cuts.length - 2); end++)
    for (let run = 1; run <= LONGEST_RUN; run++) {
      if (end + 1 < 3 * run) break;
      let same = true;
      for (let i = 0; i < 2 * run && same; i++) same = length(end - i) === length(end - i - run);
      if (same) return end;
    }
  return -1;
}

/** The spots between two neighbouring cuts on which another keeps its distance to both. */
function between(spots: readonly Spot[], before: Spot | undefined, next: Spot | undefined, apart: number): Spot[] {
  const found: Spot[] = [];
  for (let i = before ? firstFrom(spots, (s) => s.beat, before.beat + 1) : 0; i < spots.length; i++) {
    const spot = spots[i]!;
    if (next && spot.beat >= next.beat) break;
    const far = spot.mark.time - (before?.mark.time ?? -Infinity) >= apart && (next?.mark.time ?? Infinity) - spot.mark.time >= apart;
    if (far) found.push(spot);
  }
  return found;
}

/** Cuts of which some, by chance, leave their beat for one beside it that draws them more; as many as there were. */
function strayed(cuts: readonly Spot[], spots: readonly Spot[], apart: number, freedom: number): Spot[] {
  const out = [...cuts];
  for (const [at, cut] of cuts.entries()) {
    if (cut.always || cut.strays >= STRAYING * freedom) continue;
    const near = between(spots, out[at - 1], out[at + 1], apart).filter((s) => s !== cut && Math.abs(s.beat - cut.beat) <= STRAYS_BEATS);
    if (near.length > 0) out[at] = near.reduce((a, b) => (b.draw > a.draw ? b : a));
  }
  return out;
}

/** Cuts of which none makes a run of lengths come a third time: the one that would is moved to another beat between its neighbours. */
function varied(cuts: readonly Spot[], spots: readonly Spot[], apart: number): Spot[] {
  const out = [...cuts];
  for (let end = thirdTime(out, 0), tried = 0; end >= 0 && tried < 4 * cuts.length; tried++) {
    // The cut after the third of them, or one before it where that stays.
    const ends = [end + 1, end, end - 1, end - 2].filter((at) => at > 0);
    const moved = ends.some((at) => {
      const cut = out[at];
      if (!cut || cut.always) return false;
      const open = between(spots, out[at - 1], out[at + 1], apart).filter((s) => s.beat !== cut.beat);
      open.sort((a, b) => a.rank - a.draw - (b.rank - b.draw) || a.beat - b.beat);
      for (const choice of open) {
        out[at] = choice;
        if (thirdTime(out, at - 2, end) < 0) return true;
      }
      out[at] = cut;
      return false;
    });
    // Where every beat is taken, one cut less is heard as a rest.
    if (!moved) {
      const rest = ends.find((at) => out[at] && !out[at].always);
      if (rest !== undefined) out.splice(rest, 1);
    }
    end = thirdTime(out, end - 3 * LONGEST_RUN);
  }
  return out;
}

/** Cuts as the music asks for them: seldom where it is quiet, often where it is full, always on drops; on bars first, then on strong beats, then on the others. */
export const pace = ruleKind(fields, {
  offered: [{ kind: 'pace', lively: 0.5, free: 0.4, seed: 1, least: 9 }],
  counts: true,
  edge: EDGE_S,
  places: (rule, ground) => {
    const apart = rule.least * ground.frameLength;
    const all = spotsOf(rule, ground);
    const offBeat = ground.marks.filter((m) => m.kind === 'drop' && !all.some((s) => s.mark === m));
    const spacing = new Map([RANK.strong, RANK.leading].map((rank) => [rank as number, spacingOf(rank, ground)]));
    const open = all.filter(
      ({ mark, always }) => always || !offBeat.some((d) => Math.abs(d.time - mark.time) < Math.max(apart, 2 * ON_BEAT_S)),
    );
    const spots = open.filter(({ rank, always }) => always || (spacing.get(rank) ?? Infinity) >= apart);
    // The weak beats are left free, so that a cut that would be foretold has somewhere to go.
    const chosen = spots.filter(
      ({ rank, reach, draw, always }) => always || rank === RANK.phrase || (rank < RANK.weak && rank <= reach + draw),
    );
    const cuts = varied(strayed(chosen, open, apart, rule.free), open, apart).map(({ mark }) => onMark(mark));
    return [...cuts, ...offBeat.map((d): PegPlace => onMark(d))].sort((a, b) => a.time - b.time);
  },
  says: ({ lively }) => (lively < 0.34 ? 'calm pace' : lively > 0.66 ? 'lively pace' : 'pace'),
  lacks: () => NO_BARS,
});

/** How near to each other places of a rank and those above it lie, seconds; all but a tenth of the beats are longer than is reckoned with. */
function spacingOf(rank: number, { beats }: Ground): number {
  const spacings = beats.slice(1).map((b, i) => b.time - beats[i]!.time);
  const beat = [...spacings].sort((a, b) => a - b)[Math.floor(spacings.length / 10)] ?? 1;
  return rank >= RANK.leading ? beat : 2 * beat;
}
