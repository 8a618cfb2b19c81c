export { paint, type Palette } from './paint.ts';
export type { PaintContext, PaintImage, Sheets } from './paint-context.ts';
export { faceFamilies, paintTitle } from './paint-title.ts';
export { pixelsOfVideo, type PlaneLayout } from './pixel-kernel.ts';
