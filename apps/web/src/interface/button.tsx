import clsx from 'clsx';
import { Tooltip } from 'radix-ui';
import { Key } from './key.tsx';

interface ButtonProps extends React.ButtonHTMLAttributes<HTMLButtonElement> {
  look?: 'plain' | 'main' | 'quiet' | 'danger';
  /** shown on hover, with the key */
  hint?: string;
  hotkey?: string;
  on?: boolean;
  /** for a single sign, with little room beside it */
  tight?: boolean;
  ref?: React.Ref<HTMLButtonElement>;
}

const LOOKS = {
  plain: 'border border-edge bg-paper text-ink hover:bg-cloth-2',
  main: 'bg-spruce text-on-spruce font-semibold hover:brightness-110',
  quiet: 'text-soft hover:text-ink hover:bg-cloth-2',
  danger: 'border border-edge bg-paper text-coral-text hover:bg-cloth-2',
} as const;

/** A button; with a hint it explains itself and says its key. */
export function Button({ look = 'plain', hint, hotkey, on, tight, className, children, ...rest }: ButtonProps): React.JSX.Element {
  const button = (
    <button
      type="button"
      aria-pressed={on}
      className={clsx(
        'inline-flex h-7 items-center justify-center gap-1.5 rounded-md text-[12.5px] whitespace-nowrap transition-colors disabled:opacity-45',
        tight ? 'px-1.5' : 'px-2.5',
        on ? 'border border-spruce bg-spruce text-on-spruce' : LOOKS[look],
        className,
      )}
      {...rest}
    >
      {children}
    </button>
  );
  if (!hint) return button;
  return (
    <Tooltip.Root>
      <Tooltip.Trigger asChild>{button}</Tooltip.Trigger>
      <Tooltip.Portal>
        <Tooltip.Content
          sideOffset={6}
          className="z-50 flex max-w-72 items-center gap-2 rounded-md bg-ink px-2.5 py-1.5 text-xs text-cloth shadow-lg"
        >
          {hint}
          {hotkey && <Key>{hotkey}</Key>}
        </Tooltip.Content>
      </Tooltip.Portal>
    </Tooltip.Root>
  );
}
