import { useParams } from 'react-router';
import { LONGEST_FADE_S, scoreOf } from '@bluster/core';
import type { AssetAnswer as Asset } from '@bluster/wire';
import { Button } from '../interface/button.tsx';
import { Choice } from '../interface/choice.tsx';
import { NumberField } from '../interface/number-field.tsx';
import { useEditor, useMontage } from '../document/editor.ts';
import { LevelsPanel } from './levels-panel.tsx';
import { LoudnessPanel } from './loudness-panel.tsx';
import { ShotRow } from './shot-row.tsx';

/** How the song begins and ends, and what is heard of clips. */
export function SoundTab({ assets }: { assets: ReadonlyMap<string, Asset> }): React.JSX.Element {
  const { projectId = '' } = useParams();
  const montage = useMontage();
  const { run } = useEditor.getState();
  const { song } = montage;
  const { slots, over } = scoreOf(montage);
  const sounding = [...slots, ...over].flatMap((slot) => (slot.placed?.item.hasSound ? [{ slot, ...slot.placed }] : []));
  return (
    <div className="space-y-4 px-3.5 pb-4">
      {song && <LoudnessPanel projectId={projectId} assets={assets} />}
      {song && (
        <div className="space-y-2">
          {(['fadeIn', 'fadeOut'] as const).map((which) => (
            <label key={which} className="flex items-center gap-2 text-[12.5px]">
              <span className="w-52 text-soft">{which === 'fadeIn' ? 'The song fades in over' : 'The song fades out over'}</span>
              <NumberField
                value={song[which]}
                from={0}
                to={LONGEST_FADE_S}
                step={0.1}
                atOnce={false}
                onChange={(seconds) => run({ do: 'setFades', fadeIn: song.fadeIn, fadeOut: song.fadeOut, [which]: seconds })}
              />
              <span className="text-soft">s</span>
            </label>
          ))}
          <p className="text-[12px] text-soft">
            Clips never touch the song's level, unless you ask for it. Their own sound is added to it where you switch it on.
          </p>
        </div>
      )}
      {song && <LevelsPanel montage={montage} />}
      {sounding.length === 0 ? (
        <p className="text-[12.5px] text-soft">No clip that hangs has sound of its own.</p>
      ) : (
        <section aria-label="Clip sound">
          <p className="mb-3 flex items-center gap-2 text-[12.5px] text-soft">
            {sounding.length} {sounding.length === 1 ? 'shot has' : 'shots have'} sound of their own.
            <Button onClick={() => run({ do: 'setShotSound', ids: sounding.map((p) => p.shot.id), level: 0 })}>All off</Button>
          </p>
          <ul className="space-y-2">
            {sounding.map((one) => (
              <ShotRow key={one.shot.id} {...one} asset={assets.get(one.item.assetId)}>
                <Choice
                  label={`Sound of slot ${one.slot.index + 1}`}
                  narrow
                  value={String(one.shot.sound)}
                  options={[
                    ['0', 'off'],
                    ['0.3', 'soft'],
                    ['0.6', 'middle'],
                    ['1', 'full'],
                  ]}
                  onChoose={(v) => run({ do: 'setShotSound', ids: [one.shot.id], level: Number(v) })}
                />
                <label className="inline-flex items-center gap-1 text-[11.5px] text-soft" title="The song gives way to it">
                  <input
                    type="checkbox"
                    aria-label={`The song gives way to slot ${one.slot.index + 1}`}
                    disabled={one.shot.sound === 0}
                    checked={one.shot.ducks === true}
                    onChange={(e) => run({ do: 'setDucks', ids: [one.shot.id], ducks: e.target.checked })}
                  />
                  over the song
                </label>
              </ShotRow>
            ))}
          </ul>
        </section>
      )}
    </div>
  );
}
