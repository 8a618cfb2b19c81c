import { DropdownMenu } from 'radix-ui';

/** A small menu under a button. */
export function Menu({ trigger, children }: { trigger: React.ReactElement; children: React.ReactNode }): React.JSX.Element {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger asChild>{trigger}</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="end" sideOffset={4} className="z-50 min-w-40 rounded-lg border border-edge bg-paper p-1 shadow-xl">
          {children}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

export function MenuItem({ onSelect, children }: { onSelect: () => void; children: React.ReactNode }): React.JSX.Element {
  return (
    <DropdownMenu.Item
      onSelect={onSelect}
      className="cursor-pointer rounded px-2.5 py-1.5 text-[13px] outline-none data-highlighted:bg-cloth-2"
    >
      {children}
    </DropdownMenu.Item>
  );
}
