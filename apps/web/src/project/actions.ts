import { useNavigate } from 'react-router';
import {
  BARS_A_LINE,
  EFFECTS,
  EFFECT_KINDS,
  MARKS,
  MARK_KINDS,
  arrangedLength,
  layLines,
  nearestMark,
  pegAtTime,
  toSongTime,
  trimPieces,
  type Montage,
  type MarkKind,
} from '@bluster/core';
import { player } from '../playback/player.ts';
import { stepFrames } from '../screen/screen.tsx';
import { drawToOnsets, goToDoubtful, toggleLock } from '../song/repairs.ts';
import { hangOverPlayhead, hangWatched, insertWatched, replaceAtPlayhead } from '../score/hanging.ts';
import { rollChosen } from '../score/cut-view.tsx';
import { trimLive } from '../score/live-trims.tsx';
import { chooseBeside, closeUpChosen, copyChosen, halveChosen, lockChosen, pasteCopied, slideChosen } from '../score/shot-actions.ts';
import { removeDressing, strike, toggleTransitionHere, useFinishing, writeTitle } from '../finish/finishing.ts';
import { trimSong } from '../song/song-range.ts';
import { takeTap, useTapSettings } from '../song/tapping.ts';
import { useTheme } from '../interface/theme.ts';
import { shuttle } from '../playback/shuttle.ts';
import { pictureBack, turnDisplay, turnWindow } from '../workbench/picture-size.ts';
import { montageNow, NOTHING, useEditor } from './editor.ts';

export const VIEWS = ['song', 'footage', 'score', 'finish', 'export'] as const;
export type View = (typeof VIEWS)[number];
/** Where the song is heard and seen. */
const HEARD: readonly View[] = ['song', 'score', 'finish'];
/** Where marks are chosen, on the lines or in the loupe. */
const MARKED: readonly View[] = ['song', 'score'];
const SONG: readonly View[] = ['song'];
/** Where there is a picture to look at. */
const SCREENED: readonly View[] = ['footage', 'score', 'finish'];

/** The view that is open, by the page's address. */
export const viewOf = (pathname: string): View | undefined => VIEWS.find((view) => pathname.endsWith(`/${view}`));

/** Something that can be done by key, from the palette, or both. */
export interface Action {
  readonly id: string;
  readonly title: string;
  /** as react-hotkeys-hook writes it; the first is shown */
  readonly keys?: string;
  readonly shown?: string;
  /** the views in which it lives: it acts on what is seen there; elsewhere its key is free and the palette is without it */
  readonly views: readonly View[];
  readonly group: 'Play' | 'Mark' | 'Pegs and shots' | 'Dressing' | 'Go' | 'Everything';
  readonly run: (event?: KeyboardEvent) => void;
}

/** A live cut is meant for the mark that is near; farther away it is free. Seconds. */
const PEG_REACH_LIVE_S = 0.15;
const PEG_REACH_STILL_S = 0.04;

/** Hangs a peg at the playhead, or takes away the one that is there. */
export function togglePegAt(montage: Montage, time: number, playing: boolean): void {
  const { run, select } = useEditor.getState();
  if (!montage.song) return;
  const songTime = toSongTime(montage.song.pieces, time);
  const mark = nearestMark(montage, songTime, playing ? PEG_REACH_LIVE_S : PEG_REACH_STILL_S);
  const onMark = mark && montage.pegs.find((p) => p.markId === mark.id);
  const there = onMark ?? pegAtTime(montage, time);
  if (there) run({ do: 'takePeg', id: there.id });
  else if (run(mark ? { do: 'hangPeg', markId: mark.id } : { do: 'hangPeg', time: songTime }))
    select({ pegId: montageNow().pegs.at(-1)?.id ?? null });
}

/** Loops the line of the score under the playhead, or stops looping. */
export function toggleLoopLine(): void {
  if (player.state.loop) {
    player.setLoop(null);
    return;
  }
  const montage = montageNow();
  if (!montage.song) return;
  const { range } = useEditor.getState().selection;
  if (range && location.pathname.endsWith('/song')) {
    player.setLoop(range);
    return;
  }
  const onSong = location.pathname.endsWith('/song');
  const pieces = onSong ? [{ from: 0, to: montage.song.length }] : montage.song.pieces;
  const now = player.time();
  const line = layLines(montage, pieces, useEditor.getState().barsALine).find((l) => now >= l.from && now < l.to);
  if (line) player.setLoop({ from: line.from, to: line.to });
}

function nudge(by: number): void {
  const { selection, run } = useEditor.getState();
  if (selection.markIds.length > 0) run({ do: 'moveMarks', ids: selection.markIds, by });
}

/** The marks of a stretch of the song that were put there on purpose: all but accents. */
function marksOfRange(montage: Montage, range: { from: number; to: number }): string[] {
  return montage.marks.filter((m) => m.kind !== 'accent' && m.time >= range.from && m.time <= range.to).map((m) => m.id);
}

function chosenMarks(): readonly string[] {
  const { selection } = useEditor.getState();
  return selection.range ? marksOfRange(montageNow(), selection.range) : selection.markIds;
}

/** Removes what is chosen in the view that is open, and nothing that is chosen in another. */
function removeChosen(): void {
  const { selection, run, select } = useEditor.getState();
  const view = viewOf(location.pathname);
  if (view === 'finish') {
    removeDressing();
    return;
  }
  if (view === 'song') {
    const ids = chosenMarks();
    if (ids.length > 0) run({ do: 'deleteMarks', ids });
    if (!selection.range) select({ markIds: [] });
    return;
  }
  if (selection.pegId) run({ do: 'takePeg', id: selection.pegId });
  else if (selection.markIds.length > 0) run({ do: 'deleteMarks', ids: selection.markIds });
  else if (selection.slotStart) {
    const shot = montageNow().shots.find((s) => s.startPeg === selection.slotStart);
    if (shot) run({ do: 'takeShot', id: shot.id });
  }
  select({ ...NOTHING, slotStart: selection.slotStart });
}

function jumpPeg(direction: 1 | -1): void {
  const montage = montageNow();
  if (!montage.song) return;
  const now = player.time();
  const times = montage.marks
    .filter((m) => m.kind === 'beat' || m.kind === 'bar')
    .map((m) => m.time)
    .sort((a, b) => a - b);
  const here = location.pathname.endsWith('/song') ? now : toSongTime(montage.song.pieces, now);
  const next = direction === 1 ? times.find((t) => t > here + 0.02) : times.findLast((t) => t < here - 0.02);
  if (next !== undefined) player.seekSong(next);
}

/** Every action there is on the page that is open. */
export function useActions(projectId: string, open: { palette: () => void; keys: () => void }): Action[] {
  const navigate = useNavigate();
  const { turn } = useTheme();
  const editor = useEditor.getState;
  const go = (step: string): void => void navigate(`/projects/${projectId}/${step}`);
  const frame = (): number => {
    const { num, den } = montageNow().shape.rate;
    return den / num;
  };
  const setEdge = (edge: 'in' | 'out'): void => {
    const { song } = montageNow();
    if (!song) return;
    const at = player.songTime();
    trimSong(trimPieces(song.pieces, edge, at));
  };
  const tap = (kind: MarkKind) => (event?: KeyboardEvent) => {
    if (event?.repeat) return;
    if (player.state.playing) takeTap(kind, event?.timeStamp ?? performance.now());
    else if (MARKS[kind].banded || MARKS[kind].worded) {
      // A still song is no reason to lose a mark.
      if (!montageNow().song) return;
      const time = player.songTime();
      if (editor().run({ do: 'addMark', kind, time }))
        editor().select({
          markIds: montageNow()
            .marks.filter((m) => m.kind === kind && Math.abs(m.time - time) < 1e-6)
            .map((m) => m.id),
          range: null,
        });
    }
  };
  const score = (id: string, title: string, keys: string, shown: string, run: (event?: KeyboardEvent) => void): Action => ({
    id,
    title,
    keys,
    shown,
    group: 'Pegs and shots',
    views: ['score'],
    run,
  });
  const finish = (id: string, title: string, keys: string, shown: string, run: (event?: KeyboardEvent) => void): Action => ({
    ...score(id, title, keys, shown, run),
    group: 'Dressing',
    views: ['finish'],
  });
  return [
    { id: 'play', views: HEARD, title: 'Play or pause', keys: 'space', shown: 'Space', group: 'Play', run: () => player.toggle() },
    {
      id: 'shuttle-on',
      views: HEARD,
      title: 'Play on, faster with each press',
      keys: 'l',
      shown: 'L',
      group: 'Play',
      run: () => shuttle(1),
    },
    { id: 'shuttle-stop', views: HEARD, title: 'Stop', keys: 'k', shown: 'K', group: 'Play', run: () => shuttle(0) },
    {
      id: 'shuttle-back',
      views: HEARD,
      title: 'Run back, faster with each press',
      keys: 'j',
      shown: 'J',
      group: 'Play',
      run: () => shuttle(-1),
    },
    {
      id: 'frame-back',
      views: HEARD,
      title: 'One frame back',
      keys: 'comma,left',
      shown: ',',
      group: 'Play',
      run: () => stepFrames(montageNow(), -1),
    },
    {
      id: 'frame-on',
      views: HEARD,
      title: 'One frame on',
      keys: 'period,right',
      shown: '.',
      group: 'Play',
      run: () => stepFrames(montageNow(), 1),
    },
    {
      id: 'beat-back',
      views: HEARD,
      title: 'To the beat before',
      keys: 'shift+left',
      shown: 'Shift ←',
      group: 'Play',
      run: () => jumpPeg(-1),
    },
    { id: 'beat-on', views: HEARD, title: 'To the next beat', keys: 'shift+right', shown: 'Shift →', group: 'Play', run: () => jumpPeg(1) },
    { id: 'start', views: HEARD, title: 'To the start', keys: 'home', shown: 'Home', group: 'Play', run: () => player.seek(0) },
    { id: 'end', views: HEARD, title: 'To the end', keys: 'end', shown: 'End', group: 'Play', run: () => player.seek(player.state.length) },
    { id: 'loop', views: HEARD, title: 'Loop the line', keys: 'r', shown: 'R', group: 'Play', run: toggleLoopLine },
    {
      id: 'half-speed',
      views: HEARD,
      title: 'Half or full speed, at the same pitch',
      keys: 'h',
      shown: 'H',
      group: 'Play',
      run: () => player.setSpeed(player.state.speed === 1 ? 0.5 : 1),
    },
    {
      id: 'clicks',
      views: HEARD,
      title: 'Clicks on the marks',
      keys: 'c',
      shown: 'C',
      group: 'Play',
      run: () => player.setClicks(!player.state.clicks),
    },
    ...MARK_KINDS.map((kind): Action => ({
      id: `tap-${kind}`,
      views: SONG,
      title: MARKS[kind].tap,
      keys: MARKS[kind].key,
      shown: MARKS[kind].key.toUpperCase(),
      group: 'Mark',
      run: tap(kind),
    })),
    {
      id: 'doubtful-on',
      views: SONG,
      title: 'To the next doubtful beat',
      keys: 'n',
      shown: 'N',
      group: 'Mark',
      run: () => goToDoubtful(1),
    },
    {
      id: 'doubtful-back',
      views: SONG,
      title: 'To the doubtful beat before',
      keys: 'shift+n',
      shown: 'Shift N',
      group: 'Mark',
      run: () => goToDoubtful(-1),
    },
    {
      id: 'to-onset',
      views: MARKED,
      title: 'Draw what is chosen to the nearest onset',
      keys: 'x',
      shown: 'X',
      group: 'Mark',
      run: () => drawToOnsets(chosenMarks()),
    },
    {
      id: 'lock',
      views: MARKED,
      title: 'Lock or unlock the chosen marks',
      keys: 'shift+l',
      shown: 'Shift L',
      group: 'Mark',
      run: toggleLock,
    },
    {
      id: 'nudge-back',
      views: MARKED,
      title: 'Nudge the chosen marks 1 ms earlier',
      keys: 'alt+left',
      shown: 'Alt ←',
      group: 'Mark',
      run: () => nudge(-0.001),
    },
    {
      id: 'nudge-on',
      views: MARKED,
      title: 'Nudge the chosen marks 1 ms later',
      keys: 'alt+right',
      shown: 'Alt →',
      group: 'Mark',
      run: () => nudge(0.001),
    },
    {
      id: 'nudge-frame-back',
      views: MARKED,
      title: 'Nudge the chosen marks a frame earlier',
      keys: 'alt+shift+left',
      shown: 'Alt Shift ←',
      group: 'Mark',
      run: () => nudge(-frame()),
    },
    {
      id: 'nudge-frame-on',
      views: MARKED,
      title: 'Nudge the chosen marks a frame later',
      keys: 'alt+shift+right',
      shown: 'Alt Shift →',
      group: 'Mark',
      run: () => nudge(frame()),
    },
    {
      id: 'add-mark',
      views: MARKED,
      title: 'Add a beat at the playhead',
      keys: 'm',
      shown: 'M',
      group: 'Mark',
      run: () => void (montageNow().song && editor().run({ do: 'addMark', kind: 'beat', time: player.songTime() })),
    },
    { id: 'set-in', views: SONG, title: 'The song starts here', keys: 'i', shown: 'I', group: 'Mark', run: () => setEdge('in') },
    { id: 'set-out', views: SONG, title: 'The song ends here', keys: 'o', shown: 'O', group: 'Mark', run: () => setEdge('out') },
    {
      id: 'peg',
      views: ['score'],
      title: 'Hang or take away a peg at the playhead',
      keys: 'p',
      shown: 'P',
      group: 'Pegs and shots',
      // What counts is what was heard when the key went down, less this computer's lateness.
      run: (event) => {
        const { playing } = player.state;
        const late = playing ? 1000 * (useTapSettings.getState().lateness ?? 0) : 0;
        togglePegAt(montageNow(), event ? player.timeAt(event.timeStamp - late) : player.time(), playing);
      },
    },
    score('end-shot', 'End the shot under the playhead here', 'e', 'E', (event) => trimLive('endShotAt', event)),
    score('start-next', 'Start the next shot here', 'w', 'W', (event) => trimLive('startNextAt', event)),
    score('roll-back', 'Roll the chosen cut to the mark before', 'bracketleft', '[', () => rollChosen('before')),
    score('roll-on', 'Roll the chosen cut to the next mark', 'bracketright', ']', () => rollChosen('after')),
    score('roll-frame-back', 'Roll the chosen cut one frame earlier', 'shift+bracketleft', 'Shift [', () => rollChosen(-1)),
    score('roll-frame-on', 'Roll the chosen cut one frame later', 'shift+bracketright', 'Shift ]', () => rollChosen(1)),
    score('slide-back', 'Slide the chosen shot to the beat before', 'alt+bracketleft', 'Alt [', () => slideChosen('before')),
    score('slide-on', 'Slide the chosen shot to the beat after', 'alt+bracketright', 'Alt ]', () => slideChosen('after')),
    score('halve-slot', 'Divide the chosen slot in half', 's', 'S', halveChosen),
    score('hang-in', 'Hang the watched clip from its frame on', 'd', 'D', () => hangWatched('in')),
    score('hang-out', 'Hang the watched clip up to its frame', 'shift+d', 'Shift D', () => hangWatched('out')),
    score('hang-hit', 'Hang the watched clip with its frame on the mark', 'f', 'F', () => hangWatched('hit')),
    score('replace-here', 'Replace the shot at the playhead by the watched clip', 'v', 'V', replaceAtPlayhead),
    score('insert', 'Insert the watched clip, moving the rest on', 'g', 'G', insertWatched),
    score('over', 'Lay the watched clip over the playhead', 'b', 'B', hangOverPlayhead),
    score('close-up', 'Take the chosen shot out and close up', 'shift+delete', 'Shift Del', closeUpChosen),
    score('lock-shots', 'Lock or unlock the chosen shots', 'shift+k', 'Shift K', lockChosen),
    score('slot-on', 'Choose the next slot', 'shift+down', 'Shift ↓', () => chooseBeside(1)),
    score('slot-back', 'Choose the slot before', 'shift+up', 'Shift ↑', () => chooseBeside(-1)),
    score('copy', 'Copy the chosen shot', 'shift+c', 'Shift C', copyChosen),
    score('paste', 'Hang the copied shot in the chosen slot', 'shift+v', 'Shift V', pasteCopied),
    ...EFFECT_KINDS.map((kind) => {
      const { title, key } = EFFECTS[kind];
      return finish(`strike-${kind}`, `Lay a ${title} on the mark at the playhead, or take it away`, key, key.toUpperCase(), (event) =>
        strike(kind, event),
      );
    }),
    finish('transition', 'Lay a transition on the nearest cut, or take it away', 'w', 'W', toggleTransitionHere),
    finish('write-title', 'Write a title from the mark at the playhead on', 'shift+t', 'Shift T', writeTitle),
    {
      id: 'remove',
      views: HEARD,
      title: 'Remove what is chosen',
      keys: 'delete,backspace',
      shown: 'Del',
      group: 'Pegs and shots',
      run: removeChosen,
    },
    {
      id: 'choose-none',
      views: VIEWS,
      title: 'Choose nothing',
      keys: 'escape',
      shown: 'Esc',
      group: 'Pegs and shots',
      run: () => {
        if (pictureBack()) return;
        editor().select(NOTHING);
        useFinishing.setState({ titleId: null });
      },
    },
    { id: 'undo', views: VIEWS, title: 'Undo', keys: 'mod+z', shown: 'Ctrl Z', group: 'Everything', run: () => editor().undo() },
    {
      id: 'redo',
      views: VIEWS,
      title: 'Redo',
      keys: 'mod+shift+z,mod+y',
      shown: 'Ctrl Shift Z',
      group: 'Everything',
      run: () => editor().redo(),
    },
    {
      id: 'window',
      views: SCREENED,
      title: 'The picture over the whole window, or back',
      keys: 'shift+w',
      shown: 'Shift W',
      group: 'Everything',
      run: turnWindow,
    },
    {
      id: 'display',
      views: SCREENED,
      title: 'The picture on the whole display, or back',
      keys: 'shift+e',
      shown: 'Shift E',
      group: 'Everything',
      run: turnDisplay,
    },
    { id: 'palette', views: VIEWS, title: 'Find an action', keys: 'mod+k', shown: 'Ctrl K', group: 'Everything', run: open.palette },
    { id: 'keys', views: VIEWS, title: 'All keys', keys: '?', shown: '?', group: 'Everything', run: open.keys },
    { id: 'theme', views: VIEWS, title: 'Day or night theme', group: 'Everything', run: turn },
    ...VIEWS.map((step, i): Action => ({
      id: `go-${step}`,
      views: VIEWS,
      title: `Go to ${step[0]!.toUpperCase()}${step.slice(1)}`,
      keys: `alt+${i + 1}`,
      shown: `Alt ${i + 1}`,
      group: 'Go',
      run: () => go(step),
    })),
    { id: 'projects', views: VIEWS, title: 'Go to all projects', group: 'Go', run: () => void navigate('/') },
    ...BARS_A_LINE.map((bars): Action => ({
      id: `bars-${bars}`,
      views: HEARD,
      title: `${bars} ${bars === 1 ? 'bar' : 'bars'} a line`,
      group: 'Everything',
      run: () => editor().setBarsALine(bars),
    })),
  ];
}

/** Length of the montage in seconds; 0 without a song. */
export function montageLength(montage: Montage): number {
  return montage.song ? arrangedLength(montage.song.pieces) : 0;
}
