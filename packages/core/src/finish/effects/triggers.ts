import { MARKS, MARK_KINDS, type MarkKind } from '../../marks/kinds/all.ts';
import { BANDS, type Band } from '../../music/accents.ts';

/** What an effect fires on throughout: every mark of a kind, every cut, or every accent of a band. */
export type EffectTrigger = Exclude<MarkKind, 'accent'> | 'cut' | Band;

const unbanded = MARK_KINDS.filter((kind): kind is Exclude<MarkKind, 'accent'> => !MARKS[kind].banded);

/** Every trigger, in the order in which they are offered. */
export const EFFECT_TRIGGERS = [...unbanded, 'cut', ...BANDS] as unknown as [EffectTrigger, ...EffectTrigger[]];

/** A trigger in words, after "every". */
export function triggerTitle(trigger: EffectTrigger): string {
  if (trigger === 'cut') return 'cut';
  return trigger in MARKS ? MARKS[trigger as MarkKind].title : `${trigger} accent`;
}
