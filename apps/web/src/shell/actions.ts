import { useMemo } from 'react';
import { useNavigate } from 'react-router';
import { NOTHING, useEditor } from '../document/editor.ts';
import { finishActions } from '../finish/actions.ts';
import { useFinishing } from '../finish/finishing.ts';
import { ACTION_GROUPS, VIEWS, actionsIn, type Action } from '../interface/action.ts';
import { useTheme } from '../interface/theme.ts';
import { lineActions } from '../lines/actions.ts';
import { markingActions } from '../marking/actions.ts';
import { playbackActions } from '../playback/actions.ts';
import { scoreActions } from '../score/actions.ts';
import { screenActions } from '../screen/actions.ts';
import { songActions } from '../song/actions.ts';
import { useGuide } from './guide.ts';
import { pictureBack } from '../workbench/picture-size.ts';

const everything = actionsIn(VIEWS, 'Everything');
const goes = actionsIn(VIEWS, 'Go');

function chooseNone(): void {
  if (pictureBack()) return;
  useEditor.getState().select(NOTHING);
  useFinishing.setState({ titleId: null });
}

/** What each view and each part that several views share can do. */
const OWN: readonly Action[] = [
  ...playbackActions,
  ...screenActions,
  ...lineActions,
  ...songActions,
  ...markingActions,
  ...scoreActions,
  ...finishActions,
  everything('choose-none', 'Choose nothing', 'escape', chooseNone),
  everything('undo', 'Undo', 'mod+z', () => useEditor.getState().undo()),
  everything('redo', 'Redo', 'mod+shift+z,mod+y', () => useEditor.getState().redo()),
];

/** Every action there is, in its groups. */
export function useActions(projectId: string, open: { palette: () => void; keys: () => void }): readonly Action[] {
  const navigate = useNavigate();
  const { turn } = useTheme();
  return useMemo(() => {
    const all = [
      ...OWN,
      everything('palette', 'Find an action', 'mod+k', open.palette),
      everything('keys', 'All keys', '?', open.keys),
      everything('guide', 'Say what comes next, or not', undefined, () => useGuide.setState((s) => ({ shown: !s.shown }))),
      everything('theme', 'Day or night theme', undefined, turn),
      ...VIEWS.map((view, i) =>
        goes(
          `go-${view}`,
          `Go to ${view[0]!.toUpperCase()}${view.slice(1)}`,
          `alt+${i + 1}`,
          () => void navigate(`/projects/${projectId}/${view}`),
        ),
      ),
      goes('projects', 'Go to all projects', undefined, () => void navigate('/')),
    ];
    return ACTION_GROUPS.flatMap((group) => all.filter((action) => action.group === group));
  }, [navigate, turn, projectId, open.palette, open.keys]);
}
