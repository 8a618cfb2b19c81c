import { ROUTES } from '@bluster/wire/routes';
import { useRef } from 'react';
import type { AssetAnswer as Asset } from '@bluster/wire';
import { frame, type FootageItem } from '@bluster/core';
import { useSize } from '../interface/use-size.ts';
import { SizeButtons } from '../workbench/size-buttons.tsx';
import { useEditor, useMontage } from '../document/editor.ts';
import { Description } from './description.tsx';

interface PhotoViewProps {
  readonly item: FootageItem;
  readonly asset: Asset | undefined;
  readonly picked: readonly string[];
}

/** A photo large, with the point that stays in the picture when its edges are cropped. */
export function PhotoView({ item, asset, picked }: PhotoViewProps): React.JSX.Element {
  const { shape } = useMontage();
  const picture = useRef<HTMLImageElement>(null);
  const { source } = frame(item.width, item.height, shape, 'fill', item.focus);
  const [hold, box] = useSize<HTMLDivElement>();
  const scale = Math.max(0, Math.min((box.width - 16) / item.width, (box.height - 16) / item.height));
  const part = (v: number, of: number): string => `${(v / of) * 100}%`;
  const aim = (event: React.PointerEvent<HTMLElement>): void => {
    const box = picture.current?.getBoundingClientRect();
    if (!box) return;
    useEditor.getState().run({
      do: 'setFocus',
      assetId: item.assetId,
      x: (event.clientX - box.left) / box.width,
      y: (event.clientY - box.top) / box.height,
    });
  };
  const nudge = (x: number, y: number): void =>
    void useEditor.getState().run({ do: 'setFocus', assetId: item.assetId, x: item.focus.x + x, y: item.focus.y + y });
  return (
    <section className="flex min-h-0 flex-1 flex-col" aria-label={`Photo ${item.name}`}>
      <div ref={hold} className="grid min-h-40 flex-1 place-items-center overflow-hidden bg-night">
        {asset?.state === 'failed' && <p className="p-4 text-white/80">{asset.problem ?? 'This photo cannot be read.'}</p>}
        <div className="relative" hidden={asset?.state === 'failed'} style={{ width: item.width * scale, height: item.height * scale }}>
          <img
            ref={picture}
            src={ROUTES.assetPart(item.assetId, 'photo')}
            alt={item.name}
            draggable={false}
            className="size-full cursor-crosshair"
            onPointerUp={aim}
          />
          <span
            className="pointer-events-none absolute border-2 border-white/80 shadow-[0_0_0_2000px_rgb(0_0_0/0.45)]"
            style={{
              left: part(source.x, item.width),
              top: part(source.y, item.height),
              width: part(source.width, item.width),
              height: part(source.height, item.height),
            }}
            data-testid="crop"
          />
          <button
            className="absolute size-5 -translate-x-1/2 -translate-y-1/2 rounded-full border-2 border-coral bg-coral/30"
            style={{ left: `${item.focus.x * 100}%`, top: `${item.focus.y * 100}%` }}
            aria-label={`Focus point at ${Math.round(item.focus.x * 100)} % across, ${Math.round(item.focus.y * 100)} % down; arrows move it`}
            onKeyDown={(e) => {
              const by = { ArrowLeft: [-0.02, 0], ArrowRight: [0.02, 0], ArrowUp: [0, -0.02], ArrowDown: [0, 0.02] }[e.key];
              if (!by) return;
              e.preventDefault();
              e.stopPropagation();
              nudge(by[0]!, by[1]!);
            }}
          />
        </div>
      </div>
      <div className="space-y-2 p-3">
        <p className="break-words">
          <span className="float-right">
            <SizeButtons />
          </span>
          <b className="font-semibold">{item.name}</b>{' '}
          <span className="text-soft">
            · {item.width}×{item.height} · click what must stay in the picture when it fills the frame
          </span>
        </p>
        <Description item={item} picked={picked} />
      </div>
    </section>
  );
}
