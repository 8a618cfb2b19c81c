import { createCanvas, type Canvas } from '@napi-rs/canvas';
import type { PaintContext, Sheet, Sheets } from '../paint-context.ts';

/** What a canvas of Node is painted with. */
export const contextOf = (canvas: Canvas): PaintContext<Canvas> => canvas.getContext('2d');

/** Canvases of Node to work on, kept by name. */
export function nodeSheets(): Sheets<Canvas> {
  const sheets = new Map<string, Sheet<Canvas>>();
  return (name, width, height) => {
    let sheet = sheets.get(name);
    if (!sheet) {
      const image = createCanvas(width, height);
      sheets.set(name, (sheet = { image, context: contextOf(image) }));
    }
    return sheet;
  };
}
