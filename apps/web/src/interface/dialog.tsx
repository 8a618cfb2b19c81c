import { Dialog as Radix } from 'radix-ui';

/** A question or a text above the page. */
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
  return (
    <Radix.Root open={open} onOpenChange={(now) => !now && onClose()}>
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-40 bg-ink/35" />
        <Radix.Content
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
