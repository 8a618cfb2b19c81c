import {
  drawListAt,
  emptyMontage,
  frameAt,
  framesPerSecond,
  frameTime,
  scoreOf,
  slotAt,
  sourceFrame,
  type DrawList,
  type Montage,
  type PictureItem,
  type Shot,
} from '@bluster/core';
import { paint, type PaintImage } from '@bluster/painter';
import type { VideoSample } from 'mediabunny';
import { ClipFile, type FrameStream } from './clip-frames.ts';
import type { FromPicture, PictureMeasure, StripOf, ToPicture } from './messages.ts';

const LONGEST_SIDE = 960;
/** How many slots ahead are opened while it plays. */
const SLOTS_AHEAD = 2;

type Image = OffscreenCanvas | VideoFrame | ImageBitmap;

let canvas: OffscreenCanvas | null = null;
let context: OffscreenCanvasRenderingContext2D | null = null;
let montage: Montage = emptyMontage();
let ready = new Set<string>();
let strips = new Map<string, StripOf>();
let clock = { playing: false, position: 0, atMs: 0, speed: 1 };
let painted = -1;
let turn = 0;
let measure = { due: 0, missed: 0, cutsLate: [] as number[] };
const clips = new Map<string, ClipFile>();
/** by address */
const stills = new Map<string, Promise<ImageBitmap | null>>();
const stillNow = new Map<string, ImageBitmap>();
/** by shot */
const streams = new Map<string, FrameStream>();

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
  if (item.kind === 'photo') return `/api/assets/${item.assetId}/photo`;
  const strip = strips.get(item.assetId);
  const footage = montage.footage.find((f) => f.assetId === item.assetId);
  if (ready.has(item.assetId) || !strip || !footage) return null;
  const picture = Math.round(item.frame / framesPerSecond(footage.rate) / strip.every);
  return `/api/assets/${item.assetId}/tiles/${Math.max(0, Math.min(strip.pictures - 1, picture))}`;
}

function still(url: string): Promise<ImageBitmap | null> {
  let picture = stills.get(url);
  if (!picture) {
    picture = fetch(url)
      .then((r) => (r.ok ? r.blob() : Promise.reject(new Error('not ready'))))
      .then((blob) => createImageBitmap(blob))
      .then((bitmap) => {
        stillNow.set(url, bitmap);
        return bitmap;
      })
      .catch(() => {
        stills.delete(url);
        return null;
      });
    stills.set(url, picture);
  }
  return picture;
}

function fitCanvas(list: DrawList): number {
  const scale = Math.min(1, LONGEST_SIDE / Math.max(list.width, list.height));
  const [width, height] = [Math.round(list.width * scale), Math.round(list.height * scale)];
  if (canvas && (canvas.width !== width || canvas.height !== height)) {
    canvas.width = width;
    canvas.height = height;
  }
  return scale;
}

/** Paints a frame with the pictures at hand; an item without one leaves the frame unpainted. */
function paintFrame(frame: number, list: DrawList, pictureOf: (item: PictureItem) => PaintImage<Image> | null): boolean {
  if (!context) return false;
  const images = new Map(list.items.map((item) => [item, pictureOf(item)]));
  if ([...images.values()].includes(null)) return false;
  const scale = fitCanvas(list);
  paint<Image>(context, list, scale, (item) => images.get(item) ?? null);
  painted = frame;
  tell({ say: 'painted', frame });
  return true;
}

const bitmapImage = (bitmap: ImageBitmap): PaintImage<Image> => ({ image: bitmap, width: bitmap.width, height: bitmap.height });

/** Paints with a sample's frame and lets it go afterwards. */
function withSample(sample: VideoSample, work: (image: PaintImage<Image>) => boolean): boolean {
  const frame = sample.toVideoFrame();
  try {
    return work({ image: frame, width: sample.displayWidth, height: sample.displayHeight });
  } finally {
    frame.close();
  }
}

/** While paused: the exact frame, decoded on its own. */
async function showStill(): Promise<void> {
  const mine = ++turn;
  const frame = Math.min(frameAt(clock.position, montage.shape.rate), Math.max(0, scoreOf(montage).frames - 1));
  const list = drawListAt(montage, frame);
  const item = list.items[0];
  if (!item) {
    paintFrame(frame, list, () => null);
    return;
  }
  const url = stillUrl(item);
  if (url !== null) {
    const bitmap = await still(url);
    if (mine === turn && bitmap) paintFrame(frame, list, () => bitmapImage(bitmap));
    return;
  }
  const sample = await clip(item.assetId)
    ?.frame(item.frame)
    .catch(() => null);
  if (!sample) return;
  if (mine === turn) withSample(sample, (image) => paintFrame(frame, list, () => image));
  sample.close();
}

/** While it plays: opens what comes next and closes what is over. */
function prepare(frame: number): void {
  const { slots } = scoreOf(montage);
  const current = slotAt(scoreOf(montage), frame)?.index ?? 0;
  const wanted = new Set<string>();
  for (const slot of slots.slice(current, current + 1 + SLOTS_AHEAD)) {
    const { placed } = slot;
    if (!placed) continue;
    const into = Math.max(0, frame - slot.start.frame);
    const first = sourceFrame(placed, into, montage) ?? 0;
    const url = stillUrl({ assetId: placed.item.assetId, kind: placed.item.kind, frame: first });
    if (url !== null) {
      void still(url);
      continue;
    }
    wanted.add(placed.shot.id);
    if (streams.has(placed.shot.id)) continue;
    const file = clip(placed.item.assetId);
    if (file) streams.set(placed.shot.id, file.stream(first));
  }
  for (const [id, stream] of streams)
    if (!wanted.has(id)) {
      stream.close();
      streams.delete(id);
    }
}

const sameFrames = (a: Shot, b: Shot): boolean =>
  a.assetId === b.assetId &&
  a.sourceIn === b.sourceIn &&
  a.retime.kind === b.retime.kind &&
  (a.retime.kind === 'fit' || a.retime.rate === (b.retime as { rate: number }).rate);

/** After an edit: streams of shots that still show the same frames run on, so a live cut does not make the picture stumble. */
function keepStreams(before: Montage): void {
  const old = new Map(before.shots.map((s) => [s.id, s]));
  const now = new Map(montage.shots.map((s) => [s.id, s]));
  for (const [id, stream] of streams) {
    const [a, b] = [old.get(id), now.get(id)];
    if (a && b && sameFrames(a, b)) continue;
    stream.close();
    streams.delete(id);
  }
}

function closeStreams(): void {
  for (const stream of streams.values()) stream.close();
  streams.clear();
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
    const slot = slotAt(scoreOf(montage), frame);
    const opened: VideoFrame[] = [];
    let exact = true;
    const done = paintFrame(frame, list, (item) => {
      const url = stillUrl(item);
      if (url !== null) {
        const bitmap = stillNow.get(url);
        if (!bitmap) void still(url);
        return bitmap ? bitmapImage(bitmap) : null;
      }
      const stream = streams.get(slot!.placed!.shot.id);
      const sample = stream?.at(item.frame);
      if (!stream || !sample) return null;
      exact &&= stream.has(item.frame);
      const image = sample.toVideoFrame();
      opened.push(image);
      return { image, width: sample.displayWidth, height: sample.displayHeight };
    });
    for (const image of opened) image.close();
    if (done && before >= 0 && frame > before) {
      measure.due += frame - before;
      measure.missed += frame - before - (exact ? 1 : 0);
      if (slot && before < slot.start.frame) measure.cutsLate.push((time - frameTime(slot.start.frame, rate)) * framesPerSecond(rate));
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
    if (clock.playing) keepStreams(before);
    else void showStill();
  } else if (message.do === 'assets') {
    ready = new Set(message.ready);
    strips = new Map(Object.entries(message.strips));
    if (!clock.playing) void showStill();
  } else if (message.do === 'clock') setClock(message);
  else {
    const said: PictureMeasure = measure;
    measure = { due: 0, missed: 0, cutsLate: [] };
    tell({ say: 'measure', measure: said });
  }
};
