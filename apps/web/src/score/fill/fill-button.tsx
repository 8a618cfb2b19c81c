import { ChevronDown } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import { useParams } from 'react-router';
import { useAssets } from '../../api/use-project.ts';
import { Button } from '../../interface/button.tsx';
import { FillOptionList } from './fill-options.tsx';
import { FillPreview } from './fill-preview.tsx';
import { meant, useFillSettings } from './fill-settings.ts';
import { fillSlots } from './fill-slots.ts';

/** Hangs shots in many slots at once, by the options under the arrow. */
export function FillButton(): React.JSX.Element {
  const { projectId = '' } = useParams();
  const { assets } = useAssets(projectId);
  const [working, setWorking] = useState(false);
  const fill = async (): Promise<void> => {
    setWorking(true);
    await fillSlots(meant(useFillSettings.getState()), assets);
    setWorking(false);
  };
  return (
    <span className="flex">
      <Button
        look="main"
        className="rounded-r-none"
        disabled={working}
        onClick={() => void fill()}
        hint="Hang the footage in the slots, as set under the arrow"
      >
        {working ? 'Filling' : 'Fill slots'}
      </Button>
      <Popover.Root>
        <Popover.Trigger asChild>
          <button
            type="button"
            aria-label="How slots are filled"
            className="rounded-r-md border-l border-cloth/40 bg-spruce px-1.5 text-on-spruce"
          >
            <ChevronDown size={14} />
          </button>
        </Popover.Trigger>
        <Popover.Portal>
          <Popover.Content
            align="end"
            sideOffset={6}
            className="z-50 w-[452px] space-y-2.5 rounded-xl border border-edge bg-paper p-4 shadow-xl"
          >
            <FillOptionList />
            <FillPreview />
            <div className="flex justify-end">
              <Popover.Close asChild>
                <Button look="main" disabled={working} onClick={() => void fill()}>
                  Fill so
                </Button>
              </Popover.Close>
            </div>
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
    </span>
  );
}
