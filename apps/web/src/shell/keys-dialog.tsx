import { Dialog } from '../interface/dialog.tsx';
import { Key } from '../interface/key.tsx';
import { shownKeys, type Action } from '../interface/action.ts';

/** All keys, in groups. */
export function KeysDialog({
  open,
  onClose,
  actions,
}: {
  open: boolean;
  onClose: () => void;
  actions: readonly Action[];
}): React.JSX.Element {
  const groups = [...new Set(actions.map((a) => a.group))];
  return (
    <Dialog open={open} onClose={onClose} title="Keys" wide>
      <div className="columns-2 gap-8">
        {groups.map((group) => (
          <section key={group} className="mb-4 break-inside-avoid">
            <h3 className="mb-1 text-xs font-semibold text-spruce">{group}</h3>
            {actions
              .filter((a) => a.group === group && a.keys)
              .map((a) => (
                <p key={a.id} className="flex items-start justify-between gap-3 py-0.5 text-[12px]">
                  <span>{a.title}</span>
                  <Key>{shownKeys(a.keys!)}</Key>
                </p>
              ))}
          </section>
        ))}
      </div>
    </Dialog>
  );
}
