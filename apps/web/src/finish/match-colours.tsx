import { ROUTES } from '@bluster/wire/routes';
import { useParams } from 'react-router';
import { toast } from 'sonner';
import { colourStats, matchingLooks, scoreOf, type ColourStats, type Montage, type PlacedShot } from '@bluster/core';
import { useAssets } from '../api/use-project.ts';
import type { AssetAnswer as Asset } from '@bluster/wire';
import { Menu, MenuItem } from '../interface/menu.tsx';
import { Button } from '../interface/button.tsx';
import { useEditor } from '../document/editor.ts';
import type { FilledSlot } from './chosen-shots.ts';

/** The colours of what a shot shows in the middle, from its small picture; null where there is none yet. */
async function statsOf({ shot, item }: PlacedShot, asset: Asset | undefined): Promise<ColourStats | null> {
  const strip = asset?.info.strip;
  const url =
    item.kind === 'photo'
      ? ROUTES.assetPart(item.assetId, 'photo')
      : strip
        ? ROUTES.tile(item.assetId, Math.max(0, Math.min(strip.pictures - 1, Math.round((shot.sourceIn + 0.5) / strip.every))))
        : null;
  if (url === null) return null;
  const response = await fetch(url);
  if (!response.ok) return null;
  const [width, height] = [96, 54];
  const bitmap = await createImageBitmap(await response.blob(), { resizeWidth: width, resizeHeight: height, resizeQuality: 'medium' });
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext('2d', { willReadFrequently: true })!;
  context.drawImage(bitmap, 0, 0);
  bitmap.close();
  return colourStats(context.getImageData(0, 0, width, height).data);
}

/** Looks that bring the chosen shots' colours near to another shot's. */
export function MatchColours({ montage, slots }: { montage: Montage; slots: readonly FilledSlot[] }): React.JSX.Element {
  const { projectId = '' } = useParams();
  const { assets } = useAssets(projectId);
  const chosen = new Set(slots.map((s) => s.placed.shot.id));
  const others = scoreOf(montage).slots.filter((s): s is FilledSlot => s.placed !== null && !chosen.has(s.placed.shot.id));
  const match = async (to: FilledSlot): Promise<void> => {
    const wanted = await statsOf(to.placed, assets.get(to.placed.item.assetId));
    const found = await Promise.all(
      slots.map(async ({ placed }) => ({ placed, stats: await statsOf(placed, assets.get(placed.item.assetId)) })),
    );
    if (!wanted || found.some(({ stats }) => !stats)) {
      toast.error('There is no small picture of one of them yet. Try again when its preview is ready.');
      return;
    }
    const { runAll } = useEditor.getState();
    runAll('Match colours', (m) => found.reduce((now, { placed, stats }) => matchingLooks(now, placed.shot.id, stats!, wanted), m));
  };
  return (
    <Menu trigger={<Button disabled={others.length === 0}>Match colours to…</Button>}>
      {others.slice(0, 40).map((slot) => (
        <MenuItem key={slot.start.id} onSelect={() => void match(slot)}>
          slot {slot.index + 1} · {slot.placed.item.name}
        </MenuItem>
      ))}
    </Menu>
  );
}
