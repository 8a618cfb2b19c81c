import { Volume2 } from 'lucide-react';
import { layLines, sectionStretch, toMontageTime, type PegRule } from '@bluster/core';
import { Button } from '../../interface/button.tsx';
import { Choice } from '../../interface/choice.tsx';
import { player } from '../../playback/player.ts';
import { usePlayer } from '../../playback/use-player.ts';
import { montageNow, useEditor } from '../../document/editor.ts';
import { hangByRule } from './hang-by-rule.ts';

type Pattern = Extract<PegRule, { kind: 'pattern' }>;

const FIRST: Pattern = { kind: 'pattern', bars: 1, steps: [true, false, false, true, false, true, false, false] };

/** Steps of another number with those that were there as far as they go. */
const resized = (steps: readonly boolean[], count: number): boolean[] =>
  Array.from({ length: count }, (_, i) => steps[i % steps.length] ?? false);

/** Plays the two bars at the playhead (or the start of the section) round and round with a click at each peg. */
function hear(): void {
  if (player.state.loop && player.state.playing) {
    player.pause();
    player.setLoop(null);
    return;
  }
  const montage = montageNow();
  if (!montage.song) return;
  const { section: id } = useEditor.getState();
  const section = id === null ? undefined : sectionStretch(montage, id);
  const lines = layLines(montage, montage.song.pieces, 2);
  const from = section ? (toMontageTime(montage.song.pieces, section.from) ?? player.time()) : player.time();
  const line = lines.find((l) => from + 0.05 >= l.from && from + 0.05 < l.to) ?? lines[0];
  if (!line) return;
  player.setClicks(true);
  player.setLoop({ from: line.from, to: line.to });
  player.seek(line.from);
  void player.play();
}

/** A rhythm of pegs, clicked together as dots and heard at once. */
export function PatternEditor({ rule }: { rule: Pattern | null }): React.JSX.Element {
  const playing = usePlayer((state) => state.playing);
  const loop = usePlayer((state) => state.loop);
  const shown = rule ?? FIRST;
  const set = (to: Partial<Pattern>): void => {
    const next = { ...shown, ...to };
    if (next.steps.some((on) => on)) hangByRule(next);
    else hangByRule({ kind: 'none' });
  };
  return (
    <div className="space-y-3">
      <div className="grid grid-cols-8 gap-1.5" role="group" aria-label="Steps of the pattern">
        {shown.steps.map((on, i) => (
          <button
            key={i}
            type="button"
            aria-pressed={on}
            aria-label={`Step ${i + 1}`}
            onClick={() => set({ steps: shown.steps.map((s, k) => (k === i ? !s : s)) })}
            className={`grid size-8 place-items-center rounded-full border text-[15px] ${on ? 'border-spruce bg-spruce text-on-spruce' : 'border-edge bg-cloth hover:bg-cloth-2'}`}
          >
            {on ? '●' : '○'}
          </button>
        ))}
      </div>
      <div className="flex items-center gap-3">
        <Choice
          narrow
          label="Length of the pattern"
          value={String(shown.bars)}
          options={[
            ['1', 'one bar'],
            ['2', 'two bars'],
          ]}
          onChoose={(bars) => set({ bars: bars === '2' ? 2 : 1 })}
        />
        <Choice
          narrow
          label="Number of steps"
          value={String(shown.steps.length)}
          options={[
            ['4', '4'],
            ['6', '6'],
            ['8', '8'],
            ['12', '12'],
            ['16', '16'],
          ]}
          onChoose={(count) => set({ steps: resized(shown.steps, Number(count)) })}
        />
      </div>
      <div className="flex items-center justify-between">
        <span className="text-[11.5px] text-soft">{rule ? 'Each change hangs it at once.' : 'Click a step to hang it.'}</span>
        <Button on={playing && loop !== null} onClick={hear}>
          <Volume2 size={14} /> Hear it
        </Button>
      </div>
    </div>
  );
}
