import { toast } from 'sonner';
import { isRefusal } from '@bluster/core';

/**
 * Says what went wrong. A refusal is a sentence for the editor and is said as it is; anything else is a fault of Bluster's
 * own: it is shown as one, and its stack goes to the page's log.
 * @param about what it was about, such as a file's name; said first
 */
export function sayProblem(error: unknown, about?: string): void {
  const before = about === undefined ? '' : `${about}: `;
  if (isRefusal(error)) {
    toast.error(`${before}${error.message}`);
    return;
  }
  console.error(error);
  const what = error instanceof Error ? error.message : String(error);
  toast.error(`${before}Bluster has made a mistake here, not you.`, {
    description: `What was made so far is kept. If it happens again, reload the page. (${what})`,
  });
}
