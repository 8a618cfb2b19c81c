import type { Camera, ColourCube, DrawLayer, DrawList, PictureItem, Rect } from '@bluster/core';
import { blurLevels } from '@bluster/core/picture/optics';
import type { PaintContext, PaintImage, Sheets } from './paint-context.ts';
import { blurred, paintGrain, paintVignette, reworked, reworks } from './paint-look.ts';
import { paintTitle } from './paint-title.ts';

/** Pictures that are made this much smaller lose pixels between those that are looked at, unless they are averaged. */
const SHRUNK = 1.5;

/** What painting needs besides a canvas and a list. */
export interface Palette<Image> {
  /** the decoded picture of an item, or null while it is not there: its place stays as it was painted below */
  readonly imageOf: (item: PictureItem) => PaintImage<Image> | null;
  readonly sheets: Sheets<Image>;
  /** a table of colours by its id */
  readonly cubeOf: (id: string) => ColourCube | null;
}

interface Screen {
  readonly width: number;
  readonly height: number;
}

/** What follows is seen through a camera: enlarged about the screen's middle, then moved. */
function lookThrough<Image>(context: PaintContext<Image>, camera: Camera | null, { width, height }: Screen): void {
  if (!camera) return;
  context.translate(width / 2 + camera.x, height / 2 + camera.y);
  context.scale(camera.zoom, camera.zoom);
  context.translate(-width / 2, -height / 2);
}

function within<Image>(context: PaintContext<Image>, { x, y, width, height }: Rect): void {
  context.beginPath();
  context.rect(x, y, width, height);
  context.clip();
}

/** Pixels of the canvas for which a picture's edges go on, where something of them may be seen. */
const FRINGE = 1.5;

/**
 * Draws a part of a picture, bilinear, its outermost pixels also around it: canvases paint a pixel or they do not, by its middle, and what
 * is cut out in the end should have no gap at its edges.
 * @param fringe for how far they go on
 */
function drawFringed<Image>(context: PaintContext<Image>, image: Image, cut: Rect, to: Rect, fringe: number): void {
  const right = cut.x + cut.width - 1;
  const foot = cut.y + cut.height - 1;
  const wide = to.width + 2 * fringe;
  context.drawImage(image, cut.x, cut.y, cut.width, 1, to.x - fringe, to.y - fringe, wide, fringe);
  context.drawImage(image, cut.x, foot, cut.width, 1, to.x - fringe, to.y + to.height, wide, fringe);
  context.drawImage(image, cut.x, cut.y, 1, cut.height, to.x - fringe, to.y, fringe, to.height);
  context.drawImage(image, right, cut.y, 1, cut.height, to.x + to.width, to.y, fringe, to.height);
  context.drawImage(image, cut.x, cut.y, cut.width, cut.height, to.x, to.y, to.width, to.height);
}

/** Whether edges of a picture that is not turned may lie on the screen. */
const edgesSeen = ({ target }: PictureItem, { width, height }: Screen): boolean =>
  target.x > 0 || target.y > 0 || target.x + target.width < width - 1e-6 || target.y + target.height < height - 1e-6;

/**
 * Whether a layer shares the screen with the one above it, as in a push: it is not cut off at their seam then, for what both cover in part
 * would let through what lies below.
 */
function sharesWithNext({ layers, width, height }: DrawList, n: number): boolean {
  const areaOf = (rect: Rect | null | undefined): number => (rect ? rect.width * rect.height : 0);
  const [own, next] = [areaOf(layers[n]!.within), areaOf(layers[n + 1]?.within)];
  return n === 0 && next > 0 && layers[1]!.opacity >= 1 && own + next >= width * height - 1e-6;
}

/** Whether a picture covers all of the screen by itself. */
const covers = (item: PictureItem, screen: Screen): boolean =>
  item.turn === 0 && item.opacity >= 1 && item.blur === 0 && !edgesSeen(item, screen);

/** What was last painted out of focus on some sheets: of which photo, how it lay, and where it is. */
const lastBehind = new WeakMap<object, { readonly of: unknown; readonly lies: string; readonly soft: PaintImage<unknown> }>();

class Painter<Image> {
  constructor(
    private readonly list: DrawList,
    /** canvas pixels a montage pixel */
    private readonly scale: number,
    private readonly palette: Palette<Image>,
  ) {}

  /** A sheet as large as the canvas, with montage pixels as its measure. */
  private sheet(name: string): { context: PaintContext<Image>; image: Image; width: number; height: number } {
    const { scale, list } = this;
    const [width, height] = [Math.round(list.width * scale), Math.round(list.height * scale)];
    return { ...this.palette.sheets(`${name} ${width} ${height}`, width, height), width, height };
  }

  /** A picture out of focus, as large as the screen. That of a photo stays the same while the photo does. */
  private behind({ kind, target, blur }: PictureItem, found: PaintImage<Image>, cut: Rect): PaintImage<Image> {
    const { scale, palette } = this;
    const sheet = this.sheet('behind');
    const lies = JSON.stringify([cut, target, blur, scale, sheet.width, sheet.height]);
    const last = lastBehind.get(palette.sheets);
    if (kind === 'photo' && last?.of === found.image && last.lies === lies) return last.soft as PaintImage<Image>;
    sheet.context.imageSmoothingQuality = 'medium';
    const [x, y, width, height] = [target.x, target.y, target.width, target.height].map((side) => side * scale) as [
      number,
      number,
      number,
      number,
    ];
    sheet.context.drawImage(found.image, cut.x, cut.y, cut.width, cut.height, x, y, width, height);
    const soft = blurred(sheet, blurLevels(blur, sheet.height, scale), palette.sheets, 'behind');
    // Of a clip other frames come in the same place.
    lastBehind.set(palette.sheets, { of: kind === 'photo' ? found.image : null, lies, soft });
    return soft;
  }

  /**
   * One picture of a layer.
   * @param zoom by which the canvas enlarges what is painted
   * @param cutOut whether only a part of the screen is painted, to whose edges the picture has to reach
   */
  private picture(context: PaintContext<Image>, item: PictureItem, alpha: number, zoom: number, cutOut: boolean): void {
    const found = this.palette.imageOf(item);
    if (!found) return;
    const { source, target, turn } = item;
    // Proxies are smaller than their clips: rectangles are scaled to the picture at hand.
    const [sx, sy] = [found.width / item.size.width, found.height / item.size.height];
    const cut: Rect = { x: source.x * sx, y: source.y * sy, width: source.width * sx, height: source.height * sy };
    if (item.blur > 0) {
      const soft = this.behind(item, found, cut);
      context.globalAlpha = alpha * item.opacity;
      context.imageSmoothingQuality = 'low';
      context.drawImage(soft.image, 0, 0, soft.width, soft.height, 0, 0, this.list.width, this.list.height);
      return;
    }
    context.save();
    if (turn !== 0) {
      context.translate(this.list.width / 2, this.list.height / 2);
      context.rotate((turn * Math.PI) / 180);
      context.translate(-this.list.width / 2, -this.list.height / 2);
    }
    context.globalAlpha = alpha * item.opacity;
    context.imageSmoothingEnabled = true;
    // Where no graphics card helps, the better quality takes five times as long; it shows only in pictures that shrink.
    context.imageSmoothingQuality = cut.width / (target.width * this.scale * zoom) > SHRUNK ? 'medium' : 'low';
    const edged = turn === 0 && edgesSeen(item, this.list);
    // A pixel that is covered in part is painted in part.
    if (edged) within(context, target);
    if (edged || cutOut) drawFringed(context, found.image, cut, target, FRINGE / (this.scale * zoom));
    else context.drawImage(found.image, cut.x, cut.y, cut.width, cut.height, target.x, target.y, target.width, target.height);
    context.restore();
  }

  /** What is seen of a shot, as it is, over its ground. */
  private pictures(context: PaintContext<Image>, layer: DrawLayer, zoom: number, cutOut: boolean): void {
    const screen = this.list;
    if (!layer.pictures.some((item) => covers(item, screen))) {
      context.globalAlpha = 1;
      context.fillStyle = layer.ground;
      context.fillRect(0, 0, screen.width, screen.height);
    }
    for (const item of layer.pictures) this.picture(context, item, 1, zoom, cutOut);
  }

  private layer(context: PaintContext<Image>, layer: DrawLayer, zoom: number, n: number): void {
    const { list, scale, palette } = this;
    const { look } = layer;
    const [only] = layer.pictures;
    const alone = layer.pictures.length === 1 && covers(only!, list) ? only! : null;
    context.save();
    if (layer.within && !sharesWithNext(list, n)) within(context, layer.within);
    lookThrough(context, layer.camera, list);
    const nearer = zoom * (layer.camera?.zoom ?? 1);
    const cutOut = layer.within !== null;
    if (!look && layer.opacity >= 1) this.pictures(context, layer, nearer, cutOut);
    else if (!look && alone) this.picture(context, alone, layer.opacity, nearer, cutOut);
    else {
      const sheet = this.sheet(`layer ${n}`);
      sheet.context.save();
      sheet.context.scale(scale, scale);
      this.pictures(sheet.context, layer, 1, false);
      sheet.context.restore();
      let done: PaintImage<Image> = sheet;
      if (look) {
        done = reworked(sheet, look, sheet, scale, palette.sheets, `layer ${n}`, palette.cubeOf);
        if (look.vignette > 0 || look.grain > 0) {
          const over = done.image === sheet.image ? sheet : this.sheet(`over ${n}`);
          if (over !== sheet) over.context.drawImage(done.image, 0, 0, done.width, done.height, 0, 0, over.width, over.height);
          if (look.vignette > 0) paintVignette(over.context, look.vignette, over.width, over.height, palette.sheets);
          if (look.grain > 0) paintGrain(over.context, look.grain, list.seed, over.width, over.height, palette.sheets);
          done = over;
        }
      }
      context.globalAlpha = layer.opacity;
      context.imageSmoothingEnabled = true;
      context.imageSmoothingQuality = 1 / nearer > SHRUNK ? 'medium' : 'low';
      const [cut, to] = [done, list].map(({ width, height }) => ({ x: 0, y: 0, width, height })) as [Rect, Rect];
      if (cutOut) drawFringed(context, done.image, cut, to, FRINGE / (scale * nearer));
      else context.drawImage(done.image, 0, 0, done.width, done.height, 0, 0, list.width, list.height);
    }
    context.restore();
  }

  /** All pictures, as the camera sees them. */
  private stage(context: PaintContext<Image>): void {
    const { list } = this;
    context.save();
    context.scale(this.scale, this.scale);
    context.globalAlpha = 1;
    context.fillStyle = list.ground;
    context.fillRect(0, 0, list.width, list.height);
    lookThrough(context, list.camera, list);
    list.layers.forEach((layer, n) => this.layer(context, layer, list.camera?.zoom ?? 1, n));
    context.restore();
  }

  /** One half also in place of the other, turned over. */
  private mirrored(sheet: PaintImage<Image> & { readonly context: PaintContext<Image> }, context: PaintContext<Image>): void {
    const { width, height, image } = sheet;
    const { mirror } = this.list;
    const upright = mirror === 'left' || mirror === 'right';
    const [w, h] = upright ? [width / 2, height] : [width, height / 2];
    const [x, y] = [mirror === 'right' ? w : 0, mirror === 'down' ? h : 0];
    context.globalAlpha = 1;
    context.drawImage(image, x, y, w, h, x, y, w, h);
    context.save();
    if (upright) {
      context.translate(width, 0);
      context.scale(-1, 1);
    } else {
      context.translate(0, height);
      context.scale(1, -1);
    }
    context.drawImage(image, x, y, w, h, x, y, w, h);
    context.restore();
  }

  paint(context: PaintContext<Image>): void {
    const { list, scale, palette } = this;
    const { look, mirror } = list;
    if (!mirror && !(look && reworks(look))) this.stage(context);
    else {
      let sheet = this.sheet('stage');
      this.stage(sheet.context);
      if (mirror) {
        const half = this.sheet('mirror');
        this.mirrored(sheet, half.context);
        sheet = half;
      }
      const done = look ? reworked(sheet, look, sheet, scale, palette.sheets, 'stage', palette.cubeOf) : sheet;
      context.globalAlpha = 1;
      context.imageSmoothingEnabled = true;
      context.imageSmoothingQuality = 'low';
      context.drawImage(done.image, 0, 0, done.width, done.height, 0, 0, sheet.width, sheet.height);
    }
    const [width, height] = [Math.round(list.width * scale), Math.round(list.height * scale)];
    if (look && look.vignette > 0) paintVignette(context, look.vignette, width, height, palette.sheets);
    if (look && look.grain > 0) paintGrain(context, look.grain, list.seed, width, height, palette.sheets);
    const cover = ({ x, y, width: w, height: h }: Rect): void => context.fillRect(x * scale, y * scale, w * scale, h * scale);
    for (const veil of list.veils) {
      context.globalAlpha = veil.opacity;
      context.fillStyle = veil.colour;
      cover({ x: 0, y: 0, width: list.width, height: list.height });
    }
    context.globalAlpha = 1;
    context.fillStyle = list.ground;
    list.bars.forEach(cover);
    for (const title of list.titles) paintTitle(context, title, scale);
  }
}

/**
 * Paints a draw list.
 * @param scale canvas pixels a montage pixel; the preview is smaller than the film
 * @returns whether every picture was there
 */
export function paint<Image>(context: PaintContext<Image>, list: DrawList, scale: number, palette: Palette<Image>): boolean {
  const found = new Map<PictureItem, PaintImage<Image> | null>();
  for (const item of list.layers.flatMap((layer) => layer.pictures)) found.set(item, palette.imageOf(item));
  new Painter(list, scale, { ...palette, imageOf: (item) => found.get(item) ?? null }).paint(context);
  return [...found.values()].every((picture) => picture !== null);
}
