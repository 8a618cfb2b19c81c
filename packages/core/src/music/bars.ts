/** How the beats fall into bars. */
export interface BarGrid {
  /** beats in most of the bars */
  readonly metre: number;
  /** indices of the beats that are downbeats, rising */
  readonly downbeats: readonly number[];
}

/**
 * Beats in a bar, and how likely such a song is before a note of it was heard: nine of ten are in four. Where two and four
 * fit alike, four is meant: a bar of four has a second downbeat within it more often than music is counted in two. Marches,
 * polkas and sambas are, and all of these are quick.
 */
const METRES: readonly (readonly [beats: number, prior: number])[] = [
  [2, 1e-4],
  [3, 0.08],
  [4, 0.9],
  [5, 1e-3],
  [6, 3e-3],
  [7, 1e-3],
];
/** With longer beats than this, seconds, music is hardly ever counted in two. */
const LONGEST_OF_TWO_S = 0.6;
const HARDLY_EVER = 1e-20;
const { log, max } = Math;
/** What it costs to go on in another metre, and to lose count within a bar; natural logarithms. */
const CHANGE_METRE = 9;
const LOSE_COUNT = 12;
/** What is heard of a beat says less about its neighbours than it seems to: patterns repeat with their deceptions. */
const TRUST = 0.4;
/** Added to the evidence, which is against most beats: a count of few beats must not win by having few downbeats. */
const LENIENCE = 1.4;

/**
 * Bars by the most likely count along the beats, in metres of two to seven beats that may change from bar to bar
 * (the bar level of the bar-pointer model; F. Krebs, S. Böck and G. Widmer, ISMIR 2015).
 * @param evidence how much more each beat sounds like a downbeat than like another, see downbeatEvidence
 * @param beat how long most of them are, seconds
 * @param only the one metre to count in, where it is known
 */
export function findBars(evidence: readonly number[], beat: number, only?: number): BarGrid {
  const usual = METRES.map(([metre, prior]) => [metre, metre === 2 && beat > LONGEST_OF_TWO_S ? HARDLY_EVER : prior] as const);
  const metres = only === undefined ? usual : ([[only, 1]] as const);
  const states = metres.flatMap(([metre, prior]) => Array.from({ length: metre }, (_, place) => ({ metre, place, prior })));
  const ends = states.flatMap(({ metre, place }, s) => (place === metre - 1 ? [s] : []));
  const gain = (s: number, i: number): number => (states[s]!.place === 0 ? TRUST * (evidence[i]! + LENIENCE) : 0);
  let score = states.map((state, s) => log(state.prior / state.metre) + (evidence.length > 0 ? gain(s, 0) : 0));
  const from: Int16Array[] = [];
  for (let i = 1; i < evidence.length; i++) {
    const lost = score.indexOf(max(...score));
    const back = new Int16Array(states.length);
    const next = states.map(({ metre, place, prior }, s) => {
      let best = -Infinity;
      let source = 0;
      const consider = (candidate: number, cost: number): void => {
        if (score[candidate]! - cost > best) {
          best = score[candidate]! - cost;
          source = candidate;
        }
      };
      if (place > 0) consider(s - 1, 0);
      else for (const end of ends) consider(end, states[end]!.metre === metre ? 0 : CHANGE_METRE - log(prior));
      consider(lost, LOSE_COUNT + CHANGE_METRE * Number(states[lost]!.metre !== metre));
      back[s] = source;
      return best + gain(s, i);
    });
    score = next;
    from.push(back);
  }
  const downbeats: number[] = [];
  const bars = new Map<number, number>();
  let s = score.indexOf(max(...score));
  for (let i = evidence.length - 1; i >= 0; i--) {
    const { metre, place } = states[s]!;
    if (place === 0) {
      downbeats.push(i);
      bars.set(metre, (bars.get(metre) ?? 0) + metre);
    }
    if (i > 0) s = from[i - 1]![s]!;
  }
  const metre = [...bars].sort((a, b) => b[1] - a[1])[0]?.[0] ?? 4;
  return { metre, downbeats: downbeats.reverse() };
}
