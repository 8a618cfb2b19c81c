import { Redo2, Undo2 } from 'lucide-react';
import { Link, NavLink } from 'react-router';
import { firingsOf, middleTempo, placedTitles, pulse, rateLabel, scoreOf, shortClock, type Montage } from '@bluster/core';
import { useAssets, useJobs } from '../api/use-project.ts';
import { useUploads } from '../arrivals/upload-queue.ts';
import { Brand } from '../interface/brand.tsx';
import { Button } from '../interface/button.tsx';
import { Key } from '../interface/key.tsx';
import { useEditor, useMontage } from '../document/editor.ts';
import { montageLength } from '../document/montage-length.ts';

const count = (n: number, one: string): string => `${n} ${n === 1 ? one : `${one}s`}`;

function stepStates(montage: Montage): Record<string, string> {
  const tempo = middleTempo(pulse(montage).map((b) => b.time));
  const clips = montage.footage.filter((f) => f.kind === 'clip').length;
  const photos = montage.footage.length - clips;
  const score = scoreOf(montage);
  const filled = score.slots.filter((s) => s.placed).length;
  // What sleeps outside the song in use does not count.
  const shots = [...score.slots, ...score.over].flatMap((s) => s.placed?.shot ?? []);
  const fits = shots.filter((s) => s.framing === 'fit').length;
  const sounding = shots.filter((s) => s.sound > 0).length;
  const transitions = score.pegs.filter((p) => p.peg?.transition).length;
  const dress = [
    placedTitles(montage).length > 0 && count(placedTitles(montage).length, 'title'),
    montage.effects.length > 0 && count(firingsOf(montage).length, 'effect'),
    transitions > 0 && count(transitions, 'transition'),
    sounding > 0 && `${count(sounding, 'clip sound')} on`,
    fits > 0 && `${fits} with borders`,
  ].filter((part) => part !== false);
  return {
    song: montage.song ? `${shortClock(montageLength(montage))} · ${tempo ? `${tempo.toFixed(1)} bpm` : 'no beats yet'}` : 'choose one',
    footage:
      montage.footage.length > 0
        ? [clips && count(clips, 'clip'), photos && count(photos, 'photo')].filter(Boolean).join(' · ')
        : 'bring some in',
    score: score.pegs.length <= 2 && filled === 0 ? 'no pegs yet' : `${filled} of ${score.slots.length} slots filled`,
    finish: filled === 0 ? 'nothing hangs yet' : dress.length > 0 ? dress.slice(0, 2).join(' · ') : 'all in frame',
  };
}

/** What is on its way into the montage: files that are sent, and those that the server still looks at. */
function useComing(projectId: string): { song: boolean; footage: number } {
  const { song, footage, sounds } = useMontage();
  const { assets } = useAssets(projectId);
  const uploads = useUploads((state) => state.uploads).filter((u) => u.state !== 'failed');
  const here = new Set([song, ...footage, ...sounds].map((item) => item?.assetId));
  const awaited = [...assets.values()].filter((a) => a.awaits && a.state === 'working' && !here.has(a.id));
  return {
    song: uploads.some((u) => u.role === 'song') || awaited.some((a) => a.kind === 'song'),
    footage: uploads.filter((u) => u.role === 'footage').length + awaited.filter((a) => a.kind !== 'song').length,
  };
}

function SaveState(): React.JSX.Element {
  const save = useEditor((state) => state.save);
  if (save.is === 'failed')
    return (
      <span role="alert" className="line-clamp-2 max-w-72 text-right text-[11.5px] leading-tight text-coral-text" title={save.problem}>
        Not saved: {save.problem}
      </span>
    );
  const text =
    save.is === 'saved'
      ? `Saved ${save.at ? new Date(save.at).toLocaleTimeString(undefined, { hour: '2-digit', minute: '2-digit', hour12: false }) : ''}`
      : save.is === 'conflict'
        ? 'Two versions'
        : 'Saving…';
  return (
    <span role="status" data-testid="save-state" className="figures text-[11.5px] whitespace-nowrap">
      {text}
    </span>
  );
}

/** The name, the five steps with their state, undo, and whether it is saved. */
export function TopBar({ projectId, name, onKeys }: { projectId: string; name: string; onKeys: () => void }): React.JSX.Element {
  const montage = useMontage();
  const { past, future } = useEditor((state) => state.history);
  const { undo, redo } = useEditor.getState();
  const { jobs } = useJobs(projectId);
  const lastExport = jobs.find((j) => j.kind === 'export');
  const exportState = !lastExport
    ? 'not yet'
    : lastExport.state === 'running' || lastExport.state === 'queued'
      ? `${Math.round(lastExport.progress * 100)} %`
      : lastExport.state === 'done'
        ? 'film ready'
        : lastExport.state;
  const states: Record<string, string> = { ...stepStates(montage), export: exportState };
  const coming = useComing(projectId);
  if (coming.song) states['song'] = 'coming in';
  if (coming.footage > 0)
    states['footage'] = `${montage.footage.length > 0 ? `${montage.footage.length} here · ` : ''}${coming.footage} coming`;
  const { width, height, rate } = montage.shape;
  return (
    <header className="flex min-w-0 items-center gap-6 border-b border-edge bg-paper px-[18px]">
      <Link to="/" title="All projects" aria-label="All projects">
        <Brand />
      </Link>
      <p className="min-w-0 shrink truncate font-semibold" title={name}>
        {name}{' '}
        <span className="font-normal text-soft">
          · {width}×{height} · {rateLabel(rate)} fps
        </span>
      </p>
      <nav className="flex gap-6 self-stretch" aria-label="Steps">
        {['song', 'footage', 'score', 'finish', 'export'].map((step) => (
          <NavLink
            key={step}
            to={`/projects/${projectId}/${step}`}
            className={({ isActive }) =>
              `flex flex-col justify-center border-b-[3px] pt-[3px] leading-[1.2] whitespace-nowrap ${isActive ? 'border-spruce [&>b]:text-spruce' : 'border-transparent hover:border-edge'}`
            }
          >
            <b className="text-[13px] font-semibold capitalize">{step}</b>
            <small className="text-[10.5px] text-soft">{states[step]}</small>
          </NavLink>
        ))}
      </nav>
      <div className="ml-auto flex shrink-0 items-center gap-1 text-soft">
        <Button
          look="quiet"
          tight
          disabled={past.length === 0}
          onClick={undo}
          hint={past.length > 0 ? `Undo: ${past.at(-1)!.title}` : 'Nothing to undo'}
          hotkey="Ctrl Z"
          aria-label="Undo"
        >
          <Undo2 size={15} />
        </Button>
        <Button
          look="quiet"
          tight
          disabled={future.length === 0}
          onClick={redo}
          hint={future.length > 0 ? `Redo: ${future[0]!.title}` : 'Nothing to redo'}
          hotkey="Ctrl Shift Z"
          aria-label="Redo"
        >
          <Redo2 size={15} />
        </Button>
        <SaveState />
        <button className="ml-2" onClick={onKeys} aria-label="All keys" title="All keys (?)">
          <Key>?</Key>
        </button>
      </div>
    </header>
  );
}
