import { toast } from 'sonner';
import { pegChanges, ruleFor, sectionStretch, type Montage, type PegRule } from '@bluster/core';
import { montageNow, useEditor } from '../../document/editor.ts';

/** The rule that holds where one is working: in the chosen section, or for all. */
export function ruleHere(montage: Montage, section: string | null): PegRule | null {
  const stretch = section === null ? undefined : sectionStretch(montage, section);
  return stretch ? ruleFor(montage, stretch) : montage.pegRule;
}

/** Hangs pegs by a rule where one is working, and says what became of pegs and shots. */
export function hangByRule(rule: PegRule | null): void {
  const { run, section } = useEditor.getState();
  const before = montageNow();
  if (!run({ do: 'hangByRule', rule, ...(section === null ? {} : { section }) })) return;
  const { hung, taken, handMade, shotsLost } = pegChanges(before, montageNow());
  if (hung + taken === 0) return;
  const parts = [`${hung} ${hung === 1 ? 'peg' : 'pegs'} hung, ${taken} taken away`];
  if (handMade > 0) parts.push(`${handMade} hung by hand ${handMade === 1 ? 'stays' : 'stay'}`);
  if (shotsLost > 0) parts.push(`${shotsLost} ${shotsLost === 1 ? 'shot' : 'shots'} lost ${shotsLost === 1 ? 'its' : 'their'} slot`);
  toast(parts.join(' · '), { id: 'pegs' });
}
