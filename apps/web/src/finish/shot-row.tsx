import type { FootageItem, Shot, Slot } from '@bluster/core';
import type { AssetAnswer as Asset } from '@bluster/wire';
import { filmFrame } from '../tiles/film-frame.ts';
import { StripTiles } from '../tiles/strip-tiles.tsx';
import { player } from '../playback/player.ts';
import { useMontage } from '../document/editor.ts';

interface ShotRowProps {
  readonly slot: Slot;
  readonly shot: Shot;
  readonly item: FootageItem;
  readonly asset: Asset | undefined;
  readonly about?: string;
  readonly children: React.ReactNode;
}

/** One shot of a list: its picture, which goes there, its name, and what is chosen for it. */
export function ShotRow({ slot, shot, item, asset, about, children }: ShotRowProps): React.JSX.Element {
  const { shape } = useMontage();
  return (
    <li className="flex items-center gap-2.5">
      <button
        className="shrink-0 bg-print p-[2px] shadow-sm"
        aria-label={`Go to slot ${slot.index + 1}`}
        onClick={() => player.seek(slot.start.time + 0.001)}
      >
        <StripTiles
          asset={asset}
          width={56}
          height={33}
          times={[shot.sourceIn + 0.3]}
          framed={filmFrame(item, shape, shot.framing)}
          within="contain"
        />
      </button>
      <span className="min-w-0 flex-1">
        <span className="block truncate text-[12.5px]" title={item.name}>
          {item.name}
        </span>
        <span className="figures block text-[11px] text-soft">
          slot {slot.index + 1}
          {about && ` · ${about}`}
        </span>
      </span>
      {children}
    </li>
  );
}
