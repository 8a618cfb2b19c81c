import { PanelResizeHandle } from 'react-resizable-panels';

/** A divider between two parts of a view: dragged, or moved by arrows when it has the focus; a double click puts it back. */
export function Divider({
  label,
  across = false,
  onReset,
}: {
  label: string;
  /** whether it lies across, between what is above and below */
  across?: boolean;
  onReset?: () => void;
}): React.JSX.Element {
  return (
    <PanelResizeHandle
      aria-label={label}
      title={`${label}: drag it, or move it with the arrow keys`}
      data-arrowed
      onDoubleClick={onReset}
      className={`group relative shrink-0 bg-edge outline-none hover:bg-spruce/50 focus-visible:bg-spruce data-[resize-handle-state=drag]:bg-spruce ${across ? 'h-[5px]' : 'w-[5px]'}`}
    >
      <span
        className={`absolute top-1/2 left-1/2 -translate-x-1/2 -translate-y-1/2 rounded-full bg-soft/60 group-hover:bg-cloth ${across ? 'h-[3px] w-7' : 'h-7 w-[3px]'}`}
      />
    </PanelResizeHandle>
  );
}
