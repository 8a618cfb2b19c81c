/** The five views, in the order of the work. */
export const VIEWS = ['song', 'footage', 'score', 'finish', 'export'] as const;
export type View = (typeof VIEWS)[number];
/** Where the song is heard and seen. */
export const HEARD: readonly View[] = ['song', 'score', 'finish'];

/** The view that is open, by the page's address. */
export const viewOf = (pathname: string): View | undefined => VIEWS.find((view) => pathname.endsWith(`/${view}`));

export const ACTION_GROUPS = ['Play', 'Mark', 'Pegs and shots', 'Dressing', 'Everything', 'Go'] as const;
export type ActionGroup = (typeof ACTION_GROUPS)[number];

/** Something that can be done by key, from the palette, or both. */
export interface Action {
  readonly id: string;
  readonly title: string;
  /** as react-hotkeys-hook writes it, several with commas between; the first is shown */
  readonly keys?: string;
  /** the views in which it lives: it acts on what is seen there; elsewhere its key is free and the palette is without it */
  readonly views: readonly View[];
  readonly group: ActionGroup;
  readonly run: (event?: KeyboardEvent) => void;
}

/** Makes actions of a group that live in the same views. */
export function actionsIn(
  views: readonly View[],
  group: ActionGroup,
): (id: string, title: string, keys: string | undefined, run: Action['run']) => Action {
  return (id, title, keys, run) => ({ id, title, ...(keys === undefined ? {} : { keys }), views, group, run });
}

const SIGNS: Readonly<Record<string, string>> = {
  mod: 'Ctrl',
  comma: ',',
  period: '.',
  bracketleft: '[',
  bracketright: ']',
  left: '←',
  right: '→',
  up: '↑',
  down: '↓',
  delete: 'Del',
  escape: 'Esc',
};

/** Keys as they are shown: the first of those that do the same, each by its sign. */
export function shownKeys(keys: string): string {
  const [first = ''] = keys.split(',');
  return first
    .split('+')
    .map((key) => SIGNS[key] ?? key[0]!.toUpperCase() + key.slice(1))
    .join(' ');
}
