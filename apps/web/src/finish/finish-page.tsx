import { useParams } from 'react-router';
import { scoreOf, type FootageItem, type Shot, type Slot } from '@bluster/core';
import { useAssets } from '../api/use-project.ts';
import type { Asset } from '../api/wire.ts';
import { StripTiles } from '../footage/strip-tiles.tsx';
import { Choice } from '../interface/choice.tsx';
import { Button } from '../interface/button.tsx';
import { player } from '../playback/player.ts';
import { toggleLoopLine } from '../project/actions.ts';
import { useEditor, useMontage } from '../project/editor.ts';
import { Screen, Transport } from '../screen/screen.tsx';

const FADES = [0, 0.5, 1, 1.5, 2, 3, 5];

/** What is seen of odd-shaped footage, what is heard of clips, how the song begins and ends. */
export function FinishPage(): React.JSX.Element {
  const { projectId = '' } = useParams();
  const montage = useMontage();
  const { run } = useEditor.getState();
  const { assets } = useAssets(projectId);
  const { width, height } = montage.shape;
  const placed = scoreOf(montage).slots.flatMap((slot) => (slot.placed ? [{ slot, ...slot.placed }] : []));
  const odd = placed.filter(({ item }) => Math.abs(item.width / item.height - width / height) > 0.01);
  const sounding = placed.filter(({ item }) => item.hasSound);
  const ids = (list: typeof placed): string[] => list.map((p) => p.shot.id);
  return (
    <main className="grid h-full min-h-0 grid-cols-[452px_1fr]">
      <section className="flex min-h-0 flex-col border-r border-edge">
        <Screen projectId={projectId} />
        <Transport onLoopLine={toggleLoopLine} />
        {montage.song && (
          <div className="space-y-3 p-4">
            <h2 className="font-semibold">The song</h2>
            {(['fadeIn', 'fadeOut'] as const).map((which) => (
              <label key={which} className="flex items-center gap-3">
                <span className="w-24 text-soft">{which === 'fadeIn' ? 'Fades in over' : 'Fades out over'}</span>
                <select
                  className="figures rounded border border-edge bg-paper px-1.5 py-1"
                  value={montage.song![which]}
                  onChange={(e) =>
                    run({ do: 'setFades', fadeIn: montage.song!.fadeIn, fadeOut: montage.song!.fadeOut, [which]: Number(e.target.value) })
                  }
                >
                  {[...new Set([...FADES, montage.song![which]])].map((s) => (
                    <option key={s} value={s}>
                      {s === 0 ? 'no fade' : `${s} s`}
                    </option>
                  ))}
                </select>
              </label>
            ))}
            <p className="text-soft">Clips never touch the song's level. Their own sound is added to it where you switch it on.</p>
          </div>
        )}
      </section>
      <section className="min-h-0 space-y-8 overflow-y-auto p-6">
        <div>
          <h2 className="mb-1 font-semibold">Framing</h2>
          {odd.length === 0 ? (
            <p className="text-soft">
              {placed.length === 0
                ? 'Nothing hangs yet. Shots of another shape than the montage are listed here once they do.'
                : `Everything that hangs has the montage's shape, ${width}×${height}. Nothing is cropped, nothing has borders.`}
            </p>
          ) : (
            <>
              <p className="mb-3 flex items-center gap-2 text-soft">
                {odd.length} shots have another shape than {width}×{height}.
                <Button onClick={() => run({ do: 'setFraming', ids: ids(odd), framing: 'fill' })}>All fill the frame</Button>
                <Button onClick={() => run({ do: 'setFraming', ids: ids(odd), framing: 'fit' })}>All shown whole</Button>
              </p>
              <ul className="space-y-2">
                {odd.map((placed) => (
                  <ShotRow
                    key={placed.shot.id}
                    {...placed}
                    asset={assets.get(placed.item.assetId)}
                    about={`${placed.item.width}×${placed.item.height}`}
                  >
                    <Choice
                      label={`Framing of slot ${placed.slot.index + 1}`}
                      value={placed.shot.framing}
                      options={[
                        ['fill', 'fill the frame'],
                        ['fit', 'show all of it'],
                      ]}
                      onChoose={(framing) => run({ do: 'setFraming', ids: [placed.shot.id], framing })}
                    />
                  </ShotRow>
                ))}
              </ul>
            </>
          )}
        </div>
        <div>
          <h2 className="mb-1 font-semibold">Clip sound</h2>
          {sounding.length === 0 ? (
            <p className="text-soft">No clip that hangs has sound of its own.</p>
          ) : (
            <>
              <p className="mb-3 flex items-center gap-2 text-soft">
                {sounding.length} shots have sound of their own.
                <Button onClick={() => run({ do: 'setShotSound', ids: ids(sounding), level: 0 })}>All off</Button>
              </p>
              <ul className="space-y-2">
                {sounding.map((placed) => (
                  <ShotRow key={placed.shot.id} {...placed} asset={assets.get(placed.item.assetId)}>
                    <Choice
                      label={`Sound of slot ${placed.slot.index + 1}`}
                      value={String(placed.shot.sound)}
                      options={[
                        ['0', 'off'],
                        ['0.3', 'soft'],
                        ['0.6', 'middle'],
                        ['1', 'full'],
                      ]}
                      onChoose={(v) => run({ do: 'setShotSound', ids: [placed.shot.id], level: Number(v) })}
                    />
                  </ShotRow>
                ))}
              </ul>
            </>
          )}
        </div>
      </section>
    </main>
  );
}

interface ShotRowProps {
  readonly slot: Slot;
  readonly shot: Shot;
  readonly item: FootageItem;
  readonly asset: Asset | undefined;
  readonly about?: string;
  readonly children: React.ReactNode;
}

/** One shot of a list: its picture, which goes there, its name, and what is chosen for it. */
function ShotRow({ slot, shot, item, asset, about, children }: ShotRowProps): React.JSX.Element {
  return (
    <li className="flex items-center gap-3">
      <button
        className="bg-print p-[2px] shadow-sm"
        aria-label={`Go to slot ${slot.index + 1}`}
        onClick={() => player.seek(slot.start.time + 0.001)}
      >
        <StripTiles asset={asset} width={72} height={42} times={[shot.sourceIn + 0.3]} />
      </button>
      <span className="w-64 min-w-0">
        <span className="block truncate">{item.name}</span>
        <span className="figures block text-[11px] text-soft">
          slot {slot.index + 1}
          {about && ` · ${about}`}
        </span>
      </span>
      {children}
    </li>
  );
}
