import { ArrowRight, X } from 'lucide-react';
import { useEffect } from 'react';
import { useNavigate } from 'react-router';
import { withGapsClosed } from '@bluster/core';
import type { AssetAnswer as Asset } from '@bluster/wire';
import { useAssets, useJobs } from '../api/use-project.ts';
import { useUploads } from '../arrivals/upload-queue.ts';
import { montageNow, useEditor, useMontage } from '../document/editor.ts';
import type { View } from '../interface/action.ts';
import { Button } from '../interface/button.tsx';
import { sayProblem } from '../interface/say-problem.ts';
import { useListening } from '../marking/listening.ts';
import { useGuide } from './guide.ts';
import { nextStep, type GuideDeed } from './next-step.ts';

/** Fills what is empty as it is set in Score, whose code may not have come yet. */
async function fillEmpty(assets: ReadonlyMap<string, Asset>): Promise<void> {
  const [{ fillSlots }, { meant, useFillSettings }] = await Promise.all([
    import('../score/fill/fill-slots.ts'),
    import('../score/fill/fill-settings.ts'),
  ]);
  await fillSlots(meant({ ...useFillSettings.getState(), which: 'empty' }), assets);
}

/** Says in one line what comes next in this view, with the button that does it. */
export function GuideLine({ projectId, view }: { projectId: string; view: View }): React.JSX.Element | null {
  const { shown } = useGuide();
  const montage = useMontage();
  const navigate = useNavigate();
  const { assets, loaded } = useAssets(projectId);
  const { jobs } = useJobs(projectId);
  const uploads = useUploads((state) => state.uploads).filter((u) => u.state !== 'failed');
  const listening = useListening((state) => state.part !== null);
  const filmed = jobs.some((j) => j.kind === 'export' && j.state === 'done');
  useEffect(() => {
    if (filmed) useGuide.setState({ shown: false });
  }, [filmed]);
  if (!shown || !loaded) return null;
  const coming = [...assets.values()].filter((a) => a.awaits && a.state === 'working');
  const step = nextStep(view, montage, {
    listening,
    song: uploads.some((u) => u.role === 'song') || coming.some((a) => a.kind === 'song'),
    footage: uploads.some((u) => u.role === 'footage') || coming.some((a) => a.kind !== 'song'),
  });
  if (!step) return null;
  const act = (deed: GuideDeed): void => {
    const { runAll } = useEditor.getState();
    if (deed.do === 'go') void navigate(`/projects/${projectId}/${deed.to}`);
    else if (deed.do === 'fill') fillEmpty(assets).catch(sayProblem);
    else if (deed.do === 'close-gaps') runAll('Make up for short shots', withGapsClosed);
    else void useListening.getState().detect(montageNow().song!.assetId);
  };
  return (
    <p className="flex items-center gap-3 border-b border-edge bg-cloth-2 py-1 pr-2 pl-[18px] text-[12.5px]" data-testid="guide">
      <ArrowRight size={14} className="shrink-0 text-spruce" aria-hidden />
      <span className="min-w-0 truncate">{step.says}</span>
      <Button look="main" className="h-6" onClick={() => act(step.deed)}>
        {step.button}
      </Button>
      <Button
        look="quiet"
        tight
        className="ml-auto h-6"
        aria-label="Do not say what comes next"
        onClick={() => useGuide.setState({ shown: false })}
      >
        <X size={13} />
      </Button>
    </p>
  );
}
