import useSWR from 'swr';
import { ROUTES } from '@bluster/wire/routes';
import { useEffect, useRef, useState } from 'react';
import { Panel, PanelGroup, type ImperativePanelGroupHandle } from 'react-resizable-panels';
import { Link, Outlet, useLocation, useParams } from 'react-router';
import { mixPlan, pulse, songLevel, toMontageTime } from '@bluster/core';
import { RequestError, fetchJson } from '../api/request.ts';
import { useAssets, useFollowedProject, useProject } from '../api/use-project.ts';
import type { SavedMontageAnswer as SavedMontage } from '@bluster/wire';
import { SongQuestion } from '../arrivals/song-question.tsx';
import { useWordsThatWait } from '../arrivals/waiting-words.ts';
import { useArrivals } from '../arrivals/use-arrivals.ts';
import { Brand } from '../interface/brand.tsx';
import { useKeys } from '../interface/use-keys.ts';
import { Loupe } from '../loupe/loupe.tsx';
import { Divider } from '../workbench/divider.tsx';
import { usePictureSize } from '../workbench/picture-size.ts';
import { useListening } from '../marking/listening.ts';
import { player } from '../playback/player.ts';
import { useSongSound } from '../playback/song-sound.ts';
import { useActions } from './actions.ts';
import { CommandPalette } from './command-palette.tsx';
import { ConflictDialog } from './conflict-dialog.tsx';
import { montageNow, useEditor } from '../document/editor.ts';
import { GuideLine } from './guide-line.tsx';
import { KeysDialog } from './keys-dialog.tsx';
import { LoadingView } from './loading-view.tsx';
import { TopBar } from './top-bar.tsx';
import { keptSteps } from '../document/history-keeper.ts';
import { useAutosave } from '../document/use-autosave.ts';
import { useViewsAtHand } from './views.tsx';
import { WaysOutOfDamage } from './ways-out-of-damage.tsx';
import { pegClicks } from '../playback/peg-clicks.ts';
import { viewOf, type Action } from '../interface/action.ts';
import { historyFrom, type KeptHistory } from '../document/kept-history.ts';

function Hotkey({ action, lives }: { action: Action; lives: boolean }): null {
  useKeys(lives ? (action.keys ?? '') : '', action.run);
  return null;
}

/** The status with which a montage that is damaged or too new is refused. */
const UNREADABLE = 422;

/** Loads a project, and holds what all its views share: the document, the song's sound, keys and saving. */
export function ProjectLayout(): React.JSX.Element {
  const { projectId = '' } = useParams();
  const { project, error } = useProject(projectId);
  const {
    data: saved,
    error: montageError,
    mutate,
  } = useSWR<SavedMontage, Error>(ROUTES.montage(projectId), (path: string) => fetchJson<SavedMontage>(path), {
    revalidateOnFocus: false,
    revalidateIfStale: false,
    revalidateOnReconnect: false,
    revalidateOnMount: true,
  });
  // Asked for at the same time: the views need them at once.
  useFollowedProject(projectId);
  const opened = useEditor((state) => state.projectId);
  const kept = useRef(Promise.resolve<KeptHistory | undefined>(undefined));
  useEffect(() => void (kept.current = keptSteps(projectId)), [projectId]);
  useEffect(() => {
    if (!saved || opened === projectId) return;
    let left = false;
    void kept.current.then((steps) => {
      const history = historyFrom(steps, saved.document, saved.revision);
      if (!left) useEditor.getState().open(projectId, saved.document, saved.revision, saved.savedAt, history);
    });
    return () => {
      left = true;
    };
  }, [saved, projectId, opened]);
  // A project that is left is loaded anew when it is opened again.
  useEffect(
    () => () => {
      player.pause();
      useEditor.setState({ projectId: null });
      useSongSound.getState().clear();
    },
    [projectId],
  );
  const problem = error ?? montageError;
  if (problem && (!saved || !project))
    return (
      <main className="grid h-full place-items-center">
        <div className="max-w-md space-y-3 text-center">
          <Brand />
          <p role="alert">{problem.message}</p>
          {problem instanceof RequestError && problem.status === UNREADABLE ? (
            <p className="flex flex-wrap justify-center gap-3">
              <WaysOutOfDamage projectId={projectId} onBack={() => mutate()} />
            </p>
          ) : (
            <p className="text-soft">It is asked for again every few seconds.</p>
          )}
          <Link className="text-spruce underline" to="/">
            All projects
          </Link>
        </div>
      </main>
    );
  if (!project || opened !== projectId)
    return (
      <div className="grid h-full grid-rows-[52px_1fr_118px]">
        <div className="border-b border-edge bg-paper" />
        <LoadingView label="Loading the project" />
        <div className="border-t border-edge bg-paper" />
      </div>
    );
  return <OpenProject projectId={projectId} name={project.name} />;
}

function OpenProject({ projectId, name }: { projectId: string; name: string }): React.JSX.Element {
  const [palette, setPalette] = useState(false);
  const [keys, setKeys] = useState(false);
  const actions = useActions(projectId, { palette: () => setPalette(true), keys: () => setKeys(true) });
  const montage = useEditor((state) => state.history.now);
  const { pathname } = useLocation();
  const here = viewOf(pathname);
  const livesHere = ({ views }: Action): boolean => here !== undefined && views.includes(here);
  const onSong = here === 'song';
  const { assets, loaded, error } = useAssets(projectId);
  const song = montage.song;
  useEffect(() => {
    const view = here ? `${here[0]!.toUpperCase()}${here.slice(1)} · ` : '';
    document.title = `${view}${name} · Bluster`;
    return () => void (document.title = 'Bluster');
  }, [here, name]);
  // Marks that were chosen in one view are not seen to be in another: there no key may mean them.
  useEffect(() => useEditor.getState().select({ markIds: [], range: null }), [here]);
  useAutosave();
  useArrivals(projectId);
  useWordsThatWait(projectId);
  useViewsAtHand();

  const songReady = song && assets.get(song.assetId)?.state === 'ready';
  const { load, clear } = useSongSound.getState();
  useEffect(() => {
    if (!song) clear();
    if (!song || !songReady) return;
    // A long song takes seconds to decode: what is to be seen comes first.
    const waiting = requestIdleCallback(() => void load(song.assetId), { timeout: 500 });
    return () => cancelIdleCallback(waiting);
  }, [song, songReady, load, clear]);

  // In Song the whole file is heard, elsewhere the arranged song.
  useEffect(() => {
    player.setPieces(song ? (onSong ? [{ from: 0, to: song.length }] : song.pieces) : []);
  }, [song, onSong]);
  useEffect(() => {
    player.onClicks(() => {
      const now = montageNow();
      // In Score the rhythm of the cuts is what is to be heard.
      if (location.pathname.endsWith('/score') && now.pegs.length > 0) return pegClicks(now);
      const pieces = now.song ? (location.pathname.endsWith('/song') ? [{ from: 0, to: now.song.length }] : now.song.pieces) : [];
      const { previewed } = useListening.getState();
      const beats = previewed ? previewed.beats.map((b) => ({ time: b.time, bar: b.downbeat })) : null;
      return (beats ?? pulse(now).map((m) => ({ time: m.time, bar: m.kind === 'bar' }))).flatMap(({ time, bar }) => {
        const heard = toMontageTime(pieces, time);
        return heard === null ? [] : [{ time: heard, bar }];
      });
    });
    player.onClipSounds(() => (location.pathname.endsWith('/song') ? [] : mixPlan(montageNow()).clips));
    player.onLevel((time) => (location.pathname.endsWith('/song') ? 1 : songLevel(mixPlan(montageNow()), time)));
  }, []);

  const { size } = usePictureSize();
  const withScreen = here === 'score' || here === 'finish';
  const large = withScreen && size !== 'place';
  const view = (
    <div className="relative h-full min-h-0">
      {error && !loaded && (
        <p
          role="alert"
          className="absolute inset-x-0 top-2 z-20 mx-auto w-fit max-w-[90%] rounded border border-coral/50 bg-paper px-3 py-1.5 text-coral-text shadow"
        >
          The files of this project could not be fetched, so no pictures are seen: {error.message} It is tried again every few seconds.
        </p>
      )}
      <Outlet />
    </div>
  );
  const rows = useRef<ImperativePanelGroupHandle>(null);
  return (
    <div className="grid h-full grid-rows-[52px_auto_minmax(0,1fr)]">
      {actions
        .filter((a) => a.keys)
        .map((action) => (
          <Hotkey key={action.id} action={action} lives={livesHere(action)} />
        ))}
      <TopBar projectId={projectId} name={name} onKeys={() => setKeys(true)} />
      <div>{here && <GuideLine projectId={projectId} view={here} />}</div>
      <PanelGroup ref={rows} direction="vertical" autoSaveId="loupe-rows">
        <Panel id="view" order={1} minSize={40}>
          {view}
        </Panel>
        {(onSong || here === 'score' || large) && (
          <>
            <Divider across label="Divider between the view and the loupe" onReset={() => rows.current?.setLayout([84, 16])} />
            <Panel id="loupe" order={2} defaultSize={16} minSize={8}>
              <div className={large ? 'fixed inset-x-0 bottom-0 z-30 h-[118px]' : 'h-full'}>
                <Loupe wholeSong={onSong} />
              </div>
            </Panel>
          </>
        )}
      </PanelGroup>
      <CommandPalette open={palette} onClose={() => setPalette(false)} actions={actions.filter(livesHere)} />
      <KeysDialog open={keys} onClose={() => setKeys(false)} actions={actions} />
      <ConflictDialog />
      <SongQuestion />
    </div>
  );
}
