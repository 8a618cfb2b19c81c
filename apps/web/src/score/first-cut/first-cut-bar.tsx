import { Dices, Lock, Scissors, Sparkles, X } from 'lucide-react';
import { useNavigate, useParams } from 'react-router';
import { scoreOf } from '@bluster/core';
import { useAssets } from '../../api/use-project.ts';
import { useEditor, useMontage } from '../../document/editor.ts';
import { Button } from '../../interface/button.tsx';
import { Choice } from '../../interface/choice.tsx';
import { LiveSlider } from '../../interface/live-slider.tsx';
import { player } from '../../playback/player.ts';
import { slotsOfSection } from '../fill/fill-settings.ts';
import type { SongVisit } from '../../interface/song-visit.ts';
import { FIRST_WISH, rollCut, shownCut, takeCut, useFirstCuts } from './first-cuts.ts';

/**
 * Over an empty score, the one button that makes a first cut; once there is one, what it did, another beside it, and how calm
 * or free it is. It goes when it is closed, and has no place where shots were hung by hand.
 */
export function FirstCutBar(): React.JSX.Element | null {
  const { projectId = '' } = useParams();
  const montage = useMontage();
  const { assets } = useAssets(projectId);
  const navigate = useNavigate();
  const state = useFirstCuts();
  const unmarked = useEditor((s) => s.history.now.marks.length === 0);
  const cuts = state.projectId === projectId ? state.cuts : [];
  const wish = state.projectId === projectId ? state.wish : FIRST_WISH;
  if (!montage.song || montage.footage.length === 0 || unmarked) return null;
  if (cuts.length === 0) {
    // Where pegs hang already, what is missing is shots: Fill slots is the button for that.
    if (montage.shots.length + montage.pegs.length > 0) return null;
    const begin = async (): Promise<void> => {
      if (!(await rollCut(projectId, assets, {}, 'beside'))) return;
      player.seek(0);
      void player.play();
    };
    return (
      <div className="mx-4 mb-2 flex items-center gap-3 rounded-lg border border-edge bg-paper px-4 py-2.5" data-testid="first-cut">
        <Sparkles size={18} className="shrink-0 text-spruce" aria-hidden />
        <span className="min-w-0 flex-1 text-[13px]">
          Nothing hangs yet. A first cut follows the music with what moves in the footage; or choose above where to cut, and fill the slots.
        </span>
        <Button look="main" disabled={state.working} onClick={() => void begin()}>
          {state.working ? 'Cutting…' : 'Make a first cut'}
        </Button>
      </div>
    );
  }
  const shown = shownCut(cuts, montage);
  const said = (shown ?? cuts.at(-1))!.said;
  const shorter = shown?.betterLength ?? null;
  const visit: SongVisit = shorter === null ? {} : { shortenTo: shorter };
  const again = (to: Partial<typeof wish>): void => void rollCut(projectId, assets, to, 'in its place');
  return (
    <section className="mx-4 mb-2 rounded-lg border border-edge bg-paper px-4 py-2" aria-label="First cut" data-testid="first-cut">
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1.5">
        <Choice
          label="Which cut"
          value={shown ? String(shown.number) : ''}
          options={cuts.map((c) => [String(c.number), `Cut ${c.number}`] as const)}
          onChoose={(n) => takeCut(cuts.find((c) => String(c.number) === n)!)}
        />
        <Pacing label="Calm to lively" ends={['calm', 'lively']} value={wish.lively} onSet={(lively) => again({ lively })} />
        <Pacing label="Regular to free" ends={['regular', 'free']} value={wish.free} onSet={(free) => again({ free })} />
        <Choice
          label="Order of the footage"
          value={wish.order}
          options={[
            ['match', 'best'],
            ['story', 'story'],
          ]}
          onChoose={(order) => again({ order })}
        />
        <KeptSections />
        <span className="ml-auto flex items-center gap-1">
          {shorter !== null && (
            <Button
              onClick={() => void navigate('../song', { relative: 'path', state: visit })}
              hint={`Ways to make it about ${shorter} s long`}
            >
              <Scissors size={14} /> Make the song shorter…
            </Button>
          )}
          <Button
            disabled={state.working}
            onClick={() => void rollCut(projectId, assets, { seed: wish.seed + 1 }, 'beside')}
            hint="Another cut beside this one; locked shots stay"
          >
            <Dices size={14} /> {state.working ? 'Cutting…' : 'Another'}
          </Button>
          <Button look="quiet" tight aria-label="Close: go on from this cut" onClick={() => useFirstCuts.setState({ cuts: [] })}>
            <X size={14} />
          </Button>
        </span>
      </div>
      <p role="status" className="mt-1 text-[12px] leading-snug text-soft">
        {shown ? said.join(' ') : 'Changed by hand since. Lock what you like; the rest is rolled again by Another.'}
      </p>
    </section>
  );
}

/** The sections of the song: what hangs in one that is pressed is kept, and only the others are rolled again. */
function KeptSections(): React.JSX.Element | null {
  const montage = useMontage();
  const { run } = useEditor.getState();
  const sections = montage.song?.sections ?? [];
  if (sections.length < 2) return null;
  const { slots } = scoreOf(montage);
  return (
    <span className="flex flex-wrap items-center gap-1 text-[12px] text-soft" role="group" aria-label="Sections that are kept">
      keep
      {sections.map(({ id, name }) => {
        const starts = new Set(slotsOfSection(montage, id));
        const shots = slots.flatMap((s) => (starts.has(s.start.id) && s.placed ? [s.placed.shot] : []));
        const kept = shots.length > 0 && shots.every((s) => s.locked);
        return (
          <Button
            key={id}
            tight
            on={kept}
            disabled={shots.length === 0}
            className="h-6 min-w-6"
            aria-label={`Keep section ${name}`}
            onClick={() => run({ do: 'lockShots', ids: shots.map((s) => s.id), locked: !kept })}
          >
            {kept && <Lock size={11} aria-hidden />} {name}
          </Button>
        );
      })}
    </span>
  );
}

interface PacingProps {
  readonly label: string;
  readonly ends: readonly [string, string];
  readonly value: number;
  readonly onSet: (value: number) => void;
}

/** One of two ends, or between them; it takes effect when it is let go. */
function Pacing({ label, ends, value, onSet }: PacingProps): React.JSX.Element {
  return (
    <span className="flex items-center gap-1.5 text-[12px] text-soft">
      {ends[0]}
      <LiveSlider label={label} value={value} from={0} to={1} shown={() => ''} onEnd={onSet} />
      {ends[1]}
    </span>
  );
}
