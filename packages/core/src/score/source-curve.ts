/** A moment of a slot and the moment of the clip that is seen then: seconds from the slot's start, clip seconds. */
export interface CurveNode {
  readonly at: number;
  readonly source: number;
}

/** Clip seconds seen at a moment of a slot, and the speed there (clip seconds a montage second). */
export interface SourceCurve {
  readonly nodes: readonly CurveNode[];
  source: (at: number) => number;
  speed: (at: number) => number;
}

/** Speeds at the first and the last node. */
export interface Edges {
  readonly start: number;
  readonly end: number;
}

/** Slopes at the nodes, so that the curve never overshoots them (Fritsch and Carlson 1980; Fritsch and Butland 1984). */
function monotoneSlopes(nodes: readonly CurveNode[], steps: readonly number[], edges: Edges | undefined): number[] {
  const last = nodes.length - 1;
  const slopes = nodes.map((_, i): number => {
    if (i === 0) return edges?.start ?? steps[0]!;
    if (i === last) return edges?.end ?? steps[last - 1]!;
    const [a, b] = [steps[i - 1]!, steps[i]!];
    if (a * b <= 0) return 0;
    const [before, after] = [nodes[i]!.at - nodes[i - 1]!.at, nodes[i + 1]!.at - nodes[i]!.at];
    const [w1, w2] = [2 * after + before, after + 2 * before];
    return (w1 + w2) / (w1 / a + w2 / b);
  });
  // Within three times the step on both sides a cubic stays monotone.
  return slopes.map((slope, i) => {
    let limited = slope;
    for (const step of [steps[i - 1], steps[i]])
      if (step !== undefined) limited = limited * step <= 0 ? 0 : Math.sign(step) * Math.min(Math.abs(limited), 3 * Math.abs(step));
    return limited;
  });
}

/**
 * The curve through nodes in order of time: straight between them, or eased by monotone cubics.
 * @param edges speeds wished for at both ends; held to what keeps the curve monotone
 */
export function sourceCurve(nodes: readonly CurveNode[], ease: 'hard' | 'eased', edges?: Edges): SourceCurve {
  if (nodes.length < 2) return { nodes, source: () => nodes[0]?.source ?? 0, speed: () => 0 };
  const [first, second] = nodes as [CurveNode, CurveNode];
  if (nodes.length === 2 && ease === 'hard') {
    // The usual case, made for every shot of a score.
    const step = (second.source - first.source) / (second.at - first.at);
    return { nodes, source: (at) => first.source + (at - first.at) * step, speed: () => step };
  }
  const steps = nodes.slice(1).map((n, i) => (n.source - nodes[i]!.source) / (n.at - nodes[i]!.at));
  const slopes = ease === 'eased' ? monotoneSlopes(nodes, steps, edges) : [];
  const piece = (at: number): number => {
    let i = 0;
    while (i + 2 < nodes.length && at >= nodes[i + 1]!.at) i++;
    return i;
  };
  return {
    nodes,
    source: (at) => {
      const i = piece(at);
      const [a, b] = [nodes[i]!, nodes[i + 1]!];
      if (ease === 'hard') return a.source + (at - a.at) * steps[i]!;
      const h = b.at - a.at;
      const t = Math.max(0, Math.min(1, (at - a.at) / h));
      if (t === 0) return a.source;
      if (t === 1) return b.source;
      const [t2, t3] = [t * t, t * t * t];
      return (
        (2 * t3 - 3 * t2 + 1) * a.source +
        (t3 - 2 * t2 + t) * h * slopes[i]! +
        (3 * t2 - 2 * t3) * b.source +
        (t3 - t2) * h * slopes[i + 1]!
      );
    },
    speed: (at) => {
      const i = piece(at);
      if (ease === 'hard') return steps[i]!;
      const [a, b] = [nodes[i]!, nodes[i + 1]!];
      const t = Math.max(0, Math.min(1, (at - a.at) / (b.at - a.at)));
      return 6 * (t - t * t) * steps[i]! + (3 * t * t - 4 * t + 1) * slopes[i]! + (3 * t * t - 2 * t) * slopes[i + 1]!;
    },
  };
}
