import { Command } from 'cmdk';
import { Dialog } from '../interface/dialog.tsx';
import { Key } from '../interface/key.tsx';
import { shownKeys, type Action } from '../interface/action.ts';

/** Every action by name. */
export function CommandPalette({
  open,
  onClose,
  actions,
}: {
  open: boolean;
  onClose: () => void;
  actions: readonly Action[];
}): React.JSX.Element {
  return (
    <Dialog open={open} onClose={onClose} title="What do you want to do?">
      <Command label="Actions" loop>
        <Command.Input
          autoFocus
          placeholder="Type a word, such as peg"
          className="w-full rounded-md border border-edge bg-cloth px-2.5 py-1.5"
        />
        <Command.List className="mt-2 max-h-72 overflow-auto">
          <Command.Empty className="p-3 text-soft">There is no such action.</Command.Empty>
          {actions.map((action) => (
            <Command.Item
              key={action.id}
              value={`${action.group} ${action.title}`}
              onSelect={() => {
                onClose();
                action.run();
              }}
              className="flex cursor-pointer items-center justify-between rounded px-2.5 py-1.5 data-[selected=true]:bg-cloth-2"
            >
              <span>{action.title}</span>
              {action.keys && <Key>{shownKeys(action.keys)}</Key>}
            </Command.Item>
          ))}
        </Command.List>
      </Command>
    </Dialog>
  );
}
