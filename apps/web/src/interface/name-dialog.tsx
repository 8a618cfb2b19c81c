import { useState } from 'react';
import { Button } from './button.tsx';
import { Dialog } from './dialog.tsx';

/** Asks for a name. */
export function NameDialog({
  title,
  initial,
  onClose,
  onName,
}: {
  title: string;
  initial: string;
  onClose: () => void;
  onName: (name: string) => void;
}): React.JSX.Element {
  const [name, setName] = useState(initial);
  return (
    <Dialog open onClose={onClose} title={title}>
      <form
        className="space-y-4"
        onSubmit={(event) => {
          event.preventDefault();
          if (name.trim()) onName(name.trim());
        }}
      >
        <label className="block">
          <span className="text-soft">Name</span>
          <input
            autoFocus
            maxLength={120}
            value={name}
            onChange={(e) => setName(e.target.value)}
            className="mt-1 w-full rounded-md border border-edge bg-cloth px-2.5 py-1.5"
          />
        </label>
        <p className="flex justify-end gap-2">
          <Button onClick={onClose}>Cancel</Button>
          <Button look="main" type="submit" disabled={!name.trim()}>
            {initial ? 'Rename' : 'Make it'}
          </Button>
        </p>
      </form>
    </Dialog>
  );
}
