import { useEffect, useState } from 'react';
import { useParams } from 'react-router';
import type { FillPlan } from '@bluster/core';
import { useAssets } from '../../api/use-project.ts';
import { useEditor, useMontage } from '../../document/editor.ts';
import { inNumbers, meant, useFillSettings } from './fill-settings.ts';
import { fillPlan } from '../planning/planning.ts';

/** What would happen, before it does. */
export function FillPreview(): React.JSX.Element {
  const { projectId = '' } = useParams();
  const { assets } = useAssets(projectId);
  const montage = useMontage();
  const settings = useFillSettings();
  const section = useEditor((state) => state.section);
  const selection = useEditor((state) => state.selection);
  const [answer, setAnswer] = useState<({ plan: FillPlan } | { problem: string }) & { asked: string }>();
  const asked = JSON.stringify([settings.options, settings.which, section, selection.slotStart, selection.moreSlots]);
  useEffect(() => {
    let current = true;
    fillPlan(montage, meant(useFillSettings.getState()), assets)
      .then((plan) => current && setAnswer({ asked, plan }))
      .catch((problem: Error) => current && setAnswer({ asked, problem: problem.message }));
    return () => {
      current = false;
    };
  }, [asked, montage, assets]);
  const names = new Map(montage.footage.map((f) => [f.assetId, f.name]));
  // What was found for other options says nothing about these.
  const found = answer?.asked === asked ? answer : null;
  return (
    <div className="min-h-[52px] rounded-md border border-edge bg-cloth p-2 text-[12px]" data-testid="fill-preview" aria-live="polite">
      {!found && <span className="text-soft">Working it out</span>}
      {found && 'problem' in found && <span className="text-gold-text">{found.problem}</span>}
      {found && 'plan' in found && (
        <>
          <p>{inNumbers(found.plan.counts, found.plan.leftovers.length).join(' · ')}</p>
          {found.plan.leftovers.length > 0 && (
            <p className="mt-0.5 truncate text-[11px] text-soft" title="Left over">
              left over: {[...new Set(found.plan.leftovers.map((l) => names.get(l.assetId)?.replace(/\.\w+$/, '')))].join(', ')}
            </p>
          )}
        </>
      )}
    </div>
  );
}
