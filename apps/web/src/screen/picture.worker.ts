import { ROUTES } from '@bluster/wire/routes';
import {
  drawListAt,
  emptyMontage,
  frameAt,
  framesPerSecond,
  frameTime,
  layerOf,
  layersAt,
  picturesIn,
  repeatsAt,
  scoreOf,
  seenFrom,
  slotAt,
  tableNamed,
  transitionAt,
  undressed,
  USUAL_FACE,
  type DrawList,
  type Montage,
  type PictureItem,
  type PlacedShot,
  type Shot,
  type Slot,
} from '@bluster/core';
import { paint, type PaintContext, type PaintImage, type Sheets } from '@bluster/painter';
import { ClipFile, type BackwardStream, type FrameStream } from './clip-frames.ts';
import { letGo, openDecoded, type Opened } from './decoded.ts';
import { still, stillAtHand } from './stills.ts';
import { titleFacesLoaded } from './title-faces.ts';
import type { FromPicture, PictureMeasure, StripOf, ToPicture } from './messages.ts';

const LONGEST_SIDE = 960;
/** How many slots ahead are opened while it plays. */
const SLOTS_AHEAD = 2;

type Image = OffscreenCanvas | VideoFrame | ImageBitmap;

let canvas: OffscreenCanvas | null = null;
let context: OffscreenCanvasRenderingContext2D | null = null;
let montage: Montage = emptyMontage();
/** Until the montage has come there is nothing to show: a black frame would pass for its first. */
let told = false;
let ready = new Set<string>();
let strips = new Map<string, StripOf>();
let clock = { playing: false, position: 0, atMs: 0, speed: 1 };
let painted = -1;
let turn = 0;
let measure = { due: 0, missed: 0, cutsLate: [] as number[] };
const clips = new Map<string, ClipFile>();
/** by shot and direction */
const streams = new Map<string, FrameStream | BackwardStream>();
/** the cut that is looked at while paused: its first frame */
let cutShown: number | null = null;
/** the shot that is shown whole while paused */
let wholeShown: string | null = null;

const tell = (message: FromPicture): void => postMessage(message);

function clip(assetId: string): ClipFile | null {
  const item = montage.footage.find((f) => f.assetId === assetId);
  if (!item || !ready.has(assetId)) return null;
  let file = clips.get(assetId);
  if (!file) clips.set(assetId, (file = new ClipFile(assetId, framesPerSecond(item.rate))));
  return file;
}

/** The still picture that an item is painted from: a photo, or of a clip without a preview yet the nearest of its filmstrip. */
function stillUrl(item: { readonly assetId: string; readonly kind: 'clip' | 'photo'; readonly frame: number }): string | null {
  if (item.kind === 'photo') return ROUTES.assetPart(item.assetId, 'photo');
  const strip = strips.get(item.assetId);
  const footage = montage.footage.find((f) => f.assetId === item.assetId);
  if (ready.has(item.assetId) || !strip || !footage) return null;
  const picture = Math.round(item.frame / framesPerSecond(footage.rate) / strip.every);
  // A picture is kept by its address: one that another takes the place of has an address of its own.
  return ROUTES.tile(item.assetId, Math.max(0, Math.min(strip.pictures - 1, picture))) + (strip.rough ? '?rough' : '');
}

function fitCanvas(list: DrawList): number {
  const scale = Math.min(1, LONGEST_SIDE / Math.max(list.width, list.height));
  const [width, height] = [Math.round(list.width * scale), Math.round(list.height * scale)];
  if (canvas && (canvas.width !== width || canvas.height !== height)) {
    canvas.width = width;
    canvas.height = height;
    sheetsAtHand.clear();
  }
  return scale;
}

/** Canvases to work on, kept by name. */
const sheetsAtHand = new Map<string, { context: PaintContext<Image>; image: OffscreenCanvas }>();
const sheets: Sheets<Image> = (name, width, height) => {
  let sheet = sheetsAtHand.get(name);
  if (!sheet) {
    // What is worked on pixel by pixel lies in memory, not on the graphics card.
    const image = new OffscreenCanvas(width, height);
    sheet = { image, context: image.getContext('2d', { willReadFrequently: true })! };
    sheetsAtHand.set(name, sheet);
  }
  return sheet;
};

const paintList = (onto: PaintContext<Image>, list: DrawList, scale: number, imageOf: PictureOf): boolean =>
  paint<Image>(onto, list, scale, { imageOf, sheets, cubeOf: (id) => tableNamed(montage, id) });

/** The list without the layers and pictures that are not at hand. */
function withPictures(list: DrawList, images: ReadonlyMap<PictureItem, unknown>): DrawList {
  const layers = list.layers.flatMap((layer) => {
    const pictures = layer.pictures.filter((item) => images.get(item));
    return pictures.length > 0 ? [{ ...layer, pictures }] : [];
  });
  return { ...list, layers };
}

type PictureOf = (item: PictureItem) => PaintImage<Image> | null;

/** Paints a frame with the pictures at hand; one without its first leaves the frame unpainted, what is mixed in may be missing. */
function paintFrame(frame: number, list: DrawList, pictureOf: PictureOf): boolean {
  if (!context) return false;
  const images = new Map(picturesIn(list).map((item) => [item, pictureOf(item)]));
  const [first] = picturesIn(list);
  if (first && !images.get(first)) return false;
  const scale = fitCanvas(list);
  paintList(context, withPictures(list, images), scale, (item) => images.get(item) ?? null);
  painted = frame;
  tell({ say: 'painted', frame });
  return true;
}

/** The last frame before a cut on the left, the first after it on the right. */
async function showCut(cut: number): Promise<void> {
  const mine = ++turn;
  const lists = [cut - 1, cut].map((frame) => drawListAt(undressed(montage), frame));
  const pictures = await Promise.all(lists.map((list) => picturesOf(list)));
  if (mine === turn && context && canvas) {
    const scale = fitCanvas(lists[0]!);
    const [half, height] = [Math.floor(canvas.width / 2), Math.round(canvas.height / 2)];
    const side = new OffscreenCanvas(canvas.width, canvas.height);
    const own = side.getContext('2d', { alpha: false })!;
    context.fillStyle = '#000000';
    context.fillRect(0, 0, canvas.width, canvas.height);
    lists.forEach((list, i) => {
      const images = pictures[i]!;
      paintList(own, withPictures(list, images), scale, (item) => images.get(item)!.picture);
      context!.drawImage(side, i * half, Math.floor((canvas!.height - height) / 2), half - (i === 0 ? 2 : 0), height);
    });
    painted = -1;
    tell({ say: 'painted', frame: cut });
  }
  for (const images of pictures) for (const { close } of images.values()) close();
}

const bitmapImage = (bitmap: ImageBitmap): PaintImage<Image> => ({ image: bitmap, width: bitmap.width, height: bitmap.height });

/** The pictures of a frame, each decoded on its own. They are to be closed. */
async function picturesOf(list: DrawList): Promise<Map<PictureItem, Opened>> {
  const found = new Map<PictureItem, Opened>();
  for (const item of picturesIn(list)) {
    const url = stillUrl(item);
    if (url !== null) {
      const bitmap = await still(url);
      if (bitmap) found.set(item, { picture: bitmapImage(bitmap), close: () => undefined });
      continue;
    }
    const decoded = await clip(item.assetId)
      ?.frame(item.frame)
      .catch(() => null);
    if (!decoded) continue;
    const opened = openDecoded(decoded);
    const close = (): void => {
      opened.close();
      letGo(decoded);
    };
    found.set(item, { picture: opened.picture, close });
  }
  return found;
}

/** While paused: the exact frame. */
/** The montage undressed, with one of its shots as it was taken. */
function shownWhole(of: Montage, shotId: string): Montage {
  const bare = undressed(of);
  const shots = bare.shots.map((shot): Shot => {
    if (shot.id !== shotId) return shot;
    const { view: _, border: __, ...plain } = shot;
    return { ...plain, framing: 'fit' };
  });
  return { ...bare, shots };
}

async function showStill(): Promise<void> {
  if (!told) return;
  if (cutShown !== null) return showCut(cutShown);
  const mine = ++turn;
  const frame = Math.min(frameAt(clock.position, montage.shape.rate), Math.max(0, scoreOf(montage).frames - 1));
  const list = drawListAt(wholeShown === null ? montage : shownWhole(montage, wholeShown), frame);
  const pictures = await picturesOf(list);
  if (list.titles.length > 0) await titleFacesLoaded(list.titles.map((t) => t.face));
  if (mine === turn) paintFrame(frame, list, (item) => pictures.get(item)?.picture ?? null);
  for (const { close } of pictures.values()) close();
}

/** The longer side of what is told of a picture, pixels. */
const BEHIND = 128;

/** Tells what lies behind the titles of a frame. */
async function tellBehind(frame: number): Promise<void> {
  const list: DrawList = { ...drawListAt(montage, frame), titles: [] };
  const pictures = await picturesOf(list);
  let pixels: ImageData | null = null;
  if (canvas && pictures.size === picturesIn(list).length) {
    const whole = new OffscreenCanvas(canvas.width, canvas.height);
    const scale = fitCanvas(list);
    paintList(whole.getContext('2d', { alpha: false })!, list, scale, (item) => pictures.get(item)?.picture ?? null);
    const small = BEHIND / Math.max(whole.width, whole.height);
    const [width, height] = [Math.max(1, Math.round(whole.width * small)), Math.max(1, Math.round(whole.height * small))];
    const own = new OffscreenCanvas(width, height).getContext('2d', { alpha: false })!;
    own.imageSmoothingQuality = 'medium';
    own.drawImage(whole, 0, 0, width, height);
    pixels = own.getImageData(0, 0, width, height);
  }
  for (const { close } of pictures.values()) close();
  tell({ say: 'behind', frame, pixels });
}

/** The slots whose pictures are seen from a frame on, as far as they are opened ahead. */
function slotsAhead(frame: number): Slot[] {
  const score = scoreOf(montage);
  const current = slotAt(score, frame)?.index ?? 0;
  // In the second half of a dissolve the slot before is still seen.
  const first = current > 0 && (transitionAt(montage, frame)?.cut ?? Infinity) <= frame ? current - 1 : current;
  const below = score.slots.slice(first, current + 1 + SLOTS_AHEAD);
  const end = below.at(-1)?.end.frame ?? frame;
  return [...below, ...score.over.filter((s) => s.end.frame > frame && s.start.frame < end)];
}

/** A stream of a shot, forwards or backwards as it runs there. */
const streamKey = (shotId: string, backwards: boolean): string => `${shotId}${backwards ? ' back' : ''}`;
const runsBack = (placed: PlacedShot, into: number): boolean => placed.curve.speed(frameTime(into, montage.shape.rate)) < 0;

/** While it plays: opens what comes next and closes what is over. */
function prepare(frame: number): void {
  const wanted = new Set<string>();
  for (const slot of slotsAhead(frame)) {
    const { placed, start } = slot;
    if (!placed) continue;
    const from = Math.max(frame, seenFrom(montage, slot));
    const into = from - start.frame;
    const first = layerOf(slot, from, montage)?.source ?? 0;
    const url = stillUrl({ assetId: placed.item.assetId, kind: placed.item.kind, frame: first });
    if (url !== null) {
      void still(url);
      continue;
    }
    const back = runsBack(placed, into);
    const key = streamKey(placed.shot.id, back);
    wanted.add(key);
    if (streams.has(key)) continue;
    const file = clip(placed.item.assetId);
    if (file) streams.set(key, back ? file.backwards(first) : file.stream(first));
  }
  for (const [key, stream] of streams)
    if (!wanted.has(key)) {
      stream.close();
      streams.delete(key);
    }
}

const sameFrames = (a: Shot, b: Shot): boolean => {
  if (a.assetId !== b.assetId || a.sourceIn !== b.sourceIn || a.retime.kind !== b.retime.kind) return false;
  // Where a fitted shot ends may be dragged while it plays: its stream goes on as far as frames come in order.
  return a.retime.kind === 'fit' || JSON.stringify(a.retime) === JSON.stringify(b.retime);
};

/** After an edit: streams of shots that still show the same frames run on, so a live cut does not make the picture stumble. */
function keepStreams(before: Montage): void {
  const old = new Map(before.shots.map((s) => [s.id, s]));
  const now = new Map(montage.shots.map((s) => [s.id, s]));
  for (const [id, stream] of streams) {
    const shot = id.split(' ')[0]!;
    const [a, b] = [old.get(shot), now.get(shot)];
    if (a && b && sameFrames(a, b)) continue;
    stream.close();
    streams.delete(id);
  }
}

function closeStreams(): void {
  for (const stream of streams.values()) stream.close();
  streams.clear();
}

/** Pictures that may be seen again soon: a stream has let them go by then. */
const copies = new Map<string, OffscreenCanvas>();
const MOST_COPIES = 40;

function keepCopy({ shotId, frame }: PictureItem, { image, width, height }: PaintImage<Image>): void {
  if (copies.size >= MOST_COPIES) return;
  const copy = new OffscreenCanvas(width, height);
  copy.getContext('2d')!.drawImage(image, 0, 0);
  copies.set(`${shotId} ${frame}`, copy);
}

function playFrame(): void {
  if (!clock.playing) return;
  const { rate } = montage.shape;
  const time = clock.position + ((performance.timeOrigin + performance.now() - clock.atMs) / 1000) * clock.speed;
  const frame = frameAt(time, rate);
  if (frame >= 0 && frame !== painted && frame < scoreOf(montage).frames) {
    prepare(frame);
    const before = painted;
    const list = drawListAt(montage, frame);
    const layers = layersAt(montage, frame);
    const opened: Opened[] = [];
    const repeating = repeatsAt(montage, frame);
    if (!repeating) copies.clear();
    let exact = true;
    const done = paintFrame(frame, list, (item) => {
      const url = stillUrl(item);
      if (url !== null) {
        const bitmap = stillAtHand(url);
        if (!bitmap) void still(url);
        return bitmap ? bitmapImage(bitmap) : null;
      }
      const layer = layers.find((l) => l.placed.shot.id === item.shotId);
      const stream = layer && streams.get(streamKey(item.shotId, runsBack(layer.placed, layer.into)));
      // Of two frames of a clip that are mixed the second is not waited for.
      const mixedIn = layer?.source !== item.frame;
      const again = copies.get(`${item.shotId} ${item.frame}`);
      if (again) return { image: again, width: again.width, height: again.height };
      const decoded = mixedIn ? stream?.peek(item.frame) : stream?.at(item.frame);
      if (!stream || !decoded) return null;
      exact &&= stream.has(item.frame) || mixedIn;
      const image = openDecoded(decoded);
      opened.push(image);
      if (repeating) keepCopy(item, image.picture);
      return image.picture;
    });
    for (const { close } of opened) close();
    if (done && before >= 0 && frame > before) {
      measure.due += frame - before;
      measure.missed += frame - before - (exact ? 1 : 0);
      const slot = layers.at(-1)?.slot;
      if (slot && before < slot.start.frame && frame >= slot.start.frame)
        measure.cutsLate.push((time - frameTime(slot.start.frame, rate)) * framesPerSecond(rate));
    }
  }
  requestAnimationFrame(playFrame);
}

function setClock(next: typeof clock): void {
  const wasPlaying = clock.playing;
  const drift = Math.abs(clock.position + ((next.atMs - clock.atMs) / 1000) * clock.speed - next.position);
  clock = next;
  if (next.playing && wasPlaying && drift < 0.2) return;
  closeStreams();
  turn++;
  if (next.playing) {
    painted = -1;
    prepare(frameAt(next.position, montage.shape.rate));
    if (!wasPlaying) requestAnimationFrame(playFrame);
  } else void showStill();
}

onmessage = (event: MessageEvent<ToPicture>) => {
  const message = event.data;
  if (message.do === 'canvas') {
    canvas = message.canvas;
    context = canvas.getContext('2d', { alpha: false });
    painted = -1;
    if (!clock.playing) void showStill();
  } else if (message.do === 'montage') {
    const before = montage;
    montage = message.montage;
    told = true;
    if (montage.titles.length > 0) void titleFacesLoaded(montage.titles.map((t) => t.face ?? USUAL_FACE));
    if (clock.playing) keepStreams(before);
    else void showStill();
  } else if (message.do === 'assets') {
    ready = new Set(message.ready);
    strips = new Map(Object.entries(message.strips));
    if (!clock.playing) void showStill();
  } else if (message.do === 'whole') {
    wholeShown = message.shotId;
    if (!clock.playing) void showStill();
  } else if (message.do === 'clock') setClock(message);
  else if (message.do === 'behind') void tellBehind(message.frame);
  else if (message.do === 'cut') {
    cutShown = message.frame;
    if (!clock.playing) void showStill();
  } else {
    const said: PictureMeasure = measure;
    measure = { due: 0, missed: 0, cutsLate: [] };
    tell({ say: 'measure', measure: said });
  }
};
