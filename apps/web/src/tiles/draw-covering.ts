/** Draws a picture so that it covers a place; what hangs over on two sides is left out. Pixels of the canvas. */
export function drawCovering(c: CanvasRenderingContext2D, picture: ImageBitmap, x: number, y: number, width: number, height: number): void {
  const scale = Math.max(width / picture.width, height / picture.height);
  const [w, h] = [width / scale, height / scale];
  c.drawImage(picture, (picture.width - w) / 2, (picture.height - h) / 2, w, h, x, y, width, height);
}
