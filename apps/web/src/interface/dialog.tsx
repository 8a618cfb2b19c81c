import { Dialog as Radix } from 'radix-ui';
import { useRef } from 'react';

/** What opens a dialog: what has the focus, or the button of the menu in which it was chosen. */
function openerNow(): HTMLElement | null {
  const focused = document.activeElement;
  const menu = focused?.closest('[role=menu]')?.getAttribute('aria-labelledby');
  return menu ? document.getElementById(menu) : focused instanceof HTMLElement && focused !== document.body ? focused : null;
}

/** A question or a text above the page. When it is closed, the focus goes back to what opened it. */
export function Dialog({
  open,
  onClose,
  title,
  children,
  wide = false,
}: {
  open: boolean;
  onClose: () => void;
  title: string;
  children: React.ReactNode;
  wide?: boolean;
}): React.JSX.Element {
  const opener = useRef<HTMLElement | null>(null);
  const wasOpen = useRef(false);
  // Looked for while it is put together: a field in it may take the focus before anything else is told.
  if (open && !wasOpen.current) opener.current = openerNow();
  wasOpen.current = open;
  return (
    <Radix.Root open={open} onOpenChange={(now) => !now && onClose()}>
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-40 bg-ink/35" />
        <Radix.Content
          onCloseAutoFocus={(event) => {
            if (!opener.current?.isConnected) return;
            event.preventDefault();
            opener.current.focus();
          }}
          aria-describedby={undefined}
          className={`fixed top-[min(18%,120px)] left-1/2 z-50 max-h-[calc(96vh-min(18%,120px))] max-w-[96vw] -translate-x-1/2 overflow-auto rounded-xl border border-edge bg-paper p-5 shadow-2xl ${wide ? 'w-[640px]' : 'w-[420px]'}`}
        >
          <Radix.Title className="mb-3 text-base font-semibold">{title}</Radix.Title>
          {children}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
