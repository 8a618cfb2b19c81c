import { useHotkeys } from 'react-hotkeys-hook';

/** Where letters are typed: there no single key may do anything else. */
const TYPING =
  'textarea, select, [contenteditable=true], [role=textbox], [role=searchbox], [role=combobox], [role=spinbutton], ' +
  'input:not([type=radio]):not([type=checkbox]):not([type=file]):not([type=range])';
/** What moves by arrows itself. */
const ARROWED = '[data-arrowed], [role=slider], [role=radiogroup], [role=tablist], [role=menu], [type=radio], [type=range]';
const PRESSED_BY_SPACE = 'button, a, [role=radio], [role=menuitem], [role=slider], [role=tab], [type=radio], [type=checkbox]';

/** Set on the body while something is carried by keys, which then are the carrier's. */
export const CARRYING = 'carrying';

/**
 * Keys that do something wherever the focus is, but for text fields, dialogs, and controls that want the key themselves.
 * @param first whether it comes before everything else that listens, and keeps the key for itself
 */
export function useKeys(keys: string, act: (event: KeyboardEvent) => void, first = false): void {
  const withControl = keys.startsWith('mod+');
  useHotkeys(
    keys,
    (event) => {
      const target = event.target as HTMLElement;
      // Space is for playing: a button that was clicked before does not take it.
      if (event.key === ' ' && target !== document.body && target.closest(PRESSED_BY_SPACE)) target.blur();
      event.preventDefault();
      if (first) event.stopImmediatePropagation();
      act(event);
    },
    {
      enabled: keys !== '',
      // A sign such as ? is typed with other keys on other keyboards: it counts by what it writes.
      useKey: keys === '?',
      enableOnFormTags: true,
      enableOnContentEditable: true,
      ...(first ? { eventListenerOptions: { capture: true } } : {}),
      ignoreEventWhen: (event) => {
        const target = event.target as HTMLElement;
        if (document.body.dataset[CARRYING] || target.closest('[role=dialog], [role=alertdialog], [role=menu], [role=listbox]'))
          return true;
        if (!withControl && target.closest(TYPING)) return true;
        return event.key.startsWith('Arrow') && !event.altKey && !event.shiftKey && target.closest(ARROWED) !== null;
      },
    },
    [act, first],
  );
}
