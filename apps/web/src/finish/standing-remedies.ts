import { carryOut, framesPerSecond, isRefusal, transitionsOf, type Command, type Montage, type PlacedTransition } from '@bluster/core';

/** What can be done where a clip has too few pictures for a transition. */
export interface StandingRemedy {
  readonly title: string;
  readonly command: Command;
}

/** How few beats a transition is made, at the least. */
const SHORTEST = 0.25;

function* candidates(montage: Montage, { peg, transition, still, before, after }: PlacedTransition): Generator<StandingRemedy> {
  const set = (to: Partial<typeof transition>): Command => ({
    do: 'setTransition',
    pegIds: [peg.id],
    transition: { ...transition, ...to },
  });
  const fps = framesPerSecond(montage.shape.rate);
  const [first, second] = [before.placed, after.placed];
  if (still.before > 0 && first)
    yield { title: `Slip ${first.item.name} back`, command: { do: 'slipShot', id: first.shot.id, by: -(still.before + 1) / fps } };
  if (still.after > 0 && second)
    yield { title: `Slip ${second.item.name} on`, command: { do: 'slipShot', id: second.shot.id, by: (still.after + 1) / fps } };
  for (const place of ['before', 'over', 'after'] as const)
    if (place !== transition.place)
      yield { title: `Lay it ${place === 'over' ? 'over the cut' : `${place} the cut`}`, command: set({ place }) };
  for (let beats = transition.beats / 2; beats >= SHORTEST; beats /= 2) yield { title: `Make it ${beats} beats`, command: set({ beats }) };
}

/** What helps where pictures of a transition stand still, tried one by one: nothing is offered that does not. */
export function standingRemedies(montage: Montage, placed: PlacedTransition): StandingRemedy[] {
  const helps = ({ command }: StandingRemedy): boolean => {
    try {
      const after = transitionsOf(carryOut(montage, command)).find((t) => t.peg.id === placed.peg.id);
      return after !== undefined && after.still.before + after.still.after === 0;
    } catch (problem) {
      if (isRefusal(problem)) return false;
      throw problem;
    }
  };
  const found: StandingRemedy[] = [];
  for (const one of candidates(montage, placed)) {
    // One shorter length is enough.
    if (one.title.startsWith('Make it') && found.some((f) => f.title.startsWith('Make it'))) continue;
    if (helps(one)) found.push(one);
  }
  return found;
}
