import { PackageOpen } from 'lucide-react';
import { useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import { ROUTES } from '@bluster/wire/routes';
import type { OpenedBundleAnswer } from '@bluster/wire';
import { sendFile } from '../api/request.ts';
import { Button } from '../interface/button.tsx';
import { sayProblem } from '../interface/say-problem.ts';

/** Names of missing files that are said; of more, how many. */
const MOST_NAMED = 4;

/** What is missing, in a sentence. */
export function missingInWords(missing: readonly string[]): string {
  const named = missing.slice(0, MOST_NAMED).join(', ');
  const more = missing.length - MOST_NAMED;
  return `Not in the bundle: ${named}${more > 0 ? ` and ${more} more` : ''}. Bring them in by these names, and they take their places.`;
}

/** Opens a project that was saved as one file. */
export function OpenBundle({ onOpened }: { onOpened: () => void }): React.JSX.Element {
  const input = useRef<HTMLInputElement>(null);
  const [opening, setOpening] = useState(false);
  const navigate = useNavigate();
  const open = async (file: File): Promise<void> => {
    setOpening(true);
    try {
      const { project, missing } = await sendFile<OpenedBundleAnswer>(ROUTES.bundles(), file);
      onOpened();
      if (missing.length > 0) toast(missingInWords(missing), { duration: 20_000 });
      await navigate(`/projects/${project.id}/${missing.length > 0 ? 'footage' : 'score'}`);
    } catch (error) {
      sayProblem(error);
    } finally {
      setOpening(false);
    }
  };
  return (
    <>
      <input
        ref={input}
        type="file"
        accept=".zip,application/zip"
        className="hidden"
        aria-label="Bundle file"
        onChange={(e) => {
          const file = e.target.files?.[0];
          e.target.value = '';
          if (file) void open(file);
        }}
      />
      <Button disabled={opening} hint="A project that was saved as one file" onClick={() => input.current?.click()}>
        <PackageOpen size={14} /> {opening ? 'Opening…' : 'Open a bundle'}
      </Button>
    </>
  );
}
