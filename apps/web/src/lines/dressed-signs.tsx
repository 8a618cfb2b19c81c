import { Blend, Crop, Move } from 'lucide';
import { memo } from 'react';
import { movesOf, MOVES, type PlacedShot } from '@bluster/core';
import { useMontage } from '../document/editor.ts';
import { SignImage } from './sign-image.tsx';

/** Small signs of what a shot is dressed in: that its frame travels, that it was framed by hand, that it wears a look. */
export const DressedSigns = memo(function DressedSigns({ placed: { shot } }: { placed: PlacedShot }): React.JSX.Element | null {
  const montage = useMontage();
  const moves = movesOf(montage, shot);
  const looks = shot.looks ?? [];
  if (moves.length === 0 && !shot.view && looks.length === 0) return null;
  const said = [
    moves.length > 0 && `moves: ${moves.map((m) => MOVES[m.kind].title).join(', then ')}`,
    shot.view && 'framed by hand',
    looks.length > 0 && `${looks.length} ${looks.length === 1 ? 'look' : 'looks'}`,
  ].filter(Boolean);
  return (
    <span
      className="pointer-events-none absolute top-[3px] right-[4px] flex gap-px rounded-sm bg-print/85 px-[2px] text-ink"
      title={said.join(' · ')}
      data-testid="dressed-signs"
    >
      {moves.length > 0 && <SignImage drawn={Move} size={10} ink="ink" label="moves" />}
      {shot.view && <SignImage drawn={Crop} size={10} ink="ink" label="framed by hand" />}
      {looks.length > 0 && <SignImage drawn={Blend} size={10} ink="ink" label="wears a look" />}
    </span>
  );
});
