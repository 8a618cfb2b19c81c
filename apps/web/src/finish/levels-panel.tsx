import { Trash2 } from 'lucide-react';
import { levelLines, type LevelPoint, type Montage } from '@bluster/core';
import { Button } from '../interface/button.tsx';
import { Choice } from '../interface/choice.tsx';
import { LiveSlider } from '../interface/live-slider.tsx';
import { NumberField } from '../interface/number-field.tsx';
import { PanelRow } from '../interface/panel-row.tsx';
import { useEditor } from '../document/editor.ts';
import { useFinishing } from './finishing.ts';
import { atPlayhead, momentWords } from './moment-at-playhead.ts';
import { oneStep } from './one-step.ts';

const OF: readonly (readonly [LevelPoint['of'], string])[] = [
  ['song', 'the song'],
  ['clips', 'the clips'],
];

/** The lines along which song and clips are turned up and down, and how the song gives way to clips. */
export function LevelsPanel({ montage }: { montage: Montage }): React.JSX.Element {
  const of = useFinishing((state) => state.levelOf);
  const { run } = useEditor.getState();
  const points = montage.levels.filter((p) => p.of === of);
  const { by, beats } = montage.ducking;
  const asleep = points.length - levelLines(montage)[of].length;
  return (
    <section aria-label="Levels" className="space-y-2 border-t border-edge pt-3 text-[12.5px]">
      <PanelRow label="Level of">
        <Choice label="Whose level is drawn" value={of} options={OF} onChoose={(levelOf) => useFinishing.setState({ levelOf })} />
        <Button
          tight
          className="ml-2"
          hint="A point of the line at the mark at the playhead"
          onClick={() => {
            const at = atPlayhead();
            if (at) run({ do: 'addLevel', of, at, level: 1 });
          }}
        >
          A point here
        </Button>
      </PanelRow>
      <p className="text-[12px] text-soft">
        {points.length === 0
          ? 'It is as loud as it was taken. Click its line over the sound on the right to draw it up or down.'
          : 'Drag the points on the right; between them it runs straight.'}
      </p>
      {points.length > 0 && (
        <ul aria-label="Points of the level" className="max-h-40 space-y-1 overflow-y-auto">
          {points.map(({ id, at, level }) => (
            <li key={id} className="flex items-center gap-2" data-testid="level-row">
              <span className="figures w-28 truncate text-[11.5px] text-soft">{momentWords(montage, at)}</span>
              <LiveSlider
                label={`Level at ${momentWords(montage, at)}`}
                value={level}
                from={0}
                to={2}
                step={0.01}
                onMove={(to, again) => oneStep({ do: 'moveLevel', id, level: to }, again)}
              />
              <Button look="quiet" tight aria-label="Remove this point" onClick={() => run({ do: 'removeLevels', ids: [id] })}>
                <Trash2 size={12} />
              </Button>
            </li>
          ))}
        </ul>
      )}
      {asleep > 0 && <p className="text-[12px] text-soft">{asleep} of them lie in what is cut out of the song, and sleep.</p>}
      {points.length > 1 && (
        <Button tight onClick={() => run({ do: 'removeLevels', ids: points.map((p) => p.id) })}>
          As it was taken again
        </Button>
      )}
      <PanelRow label="Gives way">
        <span className="flex flex-wrap items-center gap-1.5 text-[12px] text-soft">
          the song, by
          <NumberField
            label="How far the song gives way, dB"
            value={by}
            from={0}
            to={40}
            step={0.5}
            figures={3}
            atOnce={false}
            onChange={(to) => run({ do: 'setDucking', by: to })}
          />
          dB over
          <NumberField
            label="Beats over which the song gives way"
            value={beats}
            from={0}
            to={16}
            step={0.25}
            figures={3}
            atOnce={false}
            onChange={(to) => run({ do: 'setDucking', beats: to })}
          />
          beats
        </span>
      </PanelRow>
    </section>
  );
}
