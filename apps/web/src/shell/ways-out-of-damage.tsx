import { toast } from 'sonner';
import { ROUTES } from '@bluster/wire/routes';
import type { LastGoodAnswer } from '@bluster/wire';
import { request } from '../api/request.ts';
import { Button } from '../interface/button.tsx';
import { sayProblem } from '../interface/say-problem.ts';

/** What can be done where the montage of a project cannot be read. */
export function WaysOutOfDamage({ projectId, onBack }: { projectId: string; onBack: () => Promise<unknown> }): React.JSX.Element {
  const goBack = async (): Promise<void> => {
    try {
      const { savedAt } = await request<LastGoodAnswer>('POST', ROUTES.lastGoodMontage(projectId));
      toast(`The project is as it was saved on ${new Date(savedAt).toLocaleString()}. What could not be read is kept as a version.`);
      await onBack();
    } catch (problem) {
      sayProblem(problem);
    }
  };
  return (
    <>
      <Button onClick={() => void goBack()}>Back to the last good version</Button>
      <a className="self-center text-soft underline" href={ROUTES.montageFile(projectId)} download>
        Take it out as a file
      </a>
    </>
  );
}
