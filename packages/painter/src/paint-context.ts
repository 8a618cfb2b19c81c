/** The part of CanvasRenderingContext2D that painting needs; the browser's and Node's canvases both have it. */
export interface PaintContext<Image> {
  fillStyle: unknown;
  globalAlpha: number;
  font: string;
  textAlign: unknown;
  textBaseline: unknown;
  shadowColor: string;
  shadowBlur: number;
  shadowOffsetX: number;
  letterSpacing: string;
  strokeStyle: unknown;
  lineWidth: number;
  lineJoin: unknown;
  imageSmoothingEnabled: boolean;
  imageSmoothingQuality: unknown;
  fillText(text: string, x: number, y: number): void;
  strokeText(text: string, x: number, y: number): void;
  measureText(text: string): { readonly width: number };
  fillRect(x: number, y: number, width: number, height: number): void;
  clearRect(x: number, y: number, width: number, height: number): void;
  drawImage(image: Image, sx: number, sy: number, sw: number, sh: number, dx: number, dy: number, dw: number, dh: number): void;
  save(): void;
  restore(): void;
  beginPath(): void;
  rect(x: number, y: number, width: number, height: number): void;
  clip(): void;
  translate(x: number, y: number): void;
  scale(x: number, y: number): void;
  rotate(radians: number): void;
  createRadialGradient(
    x0: number,
    y0: number,
    r0: number,
    x1: number,
    y1: number,
    r1: number,
  ): { addColorStop(at: number, colour: string): void };
  getImageData(x: number, y: number, width: number, height: number): Pixels;
  putImageData(pixels: Pixels, x: number, y: number): void;
}

/** Red, green, blue and opacity of pixels, row by row. */
export interface Pixels {
  readonly width: number;
  readonly height: number;
  readonly data: { readonly length: number; [index: number]: number; set(from: ArrayLike<number>): void };
}

/** A picture ready to paint, in whatever size it was decoded. */
export interface PaintImage<Image> {
  readonly image: Image;
  readonly width: number;
  readonly height: number;
}

/** A canvas to work on. */
export interface Sheet<Image> {
  readonly context: PaintContext<Image>;
  readonly image: Image;
}

/** Gives a canvas of a size to work on: for the same name the same one again, with whatever was painted on it last. */
export type Sheets<Image> = (name: string, width: number, height: number) => Sheet<Image>;
