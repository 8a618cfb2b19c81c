/** by address */
const stills = new Map<string, Promise<ImageBitmap | null>>();
const atHand = new Map<string, ImageBitmap>();

/**
 * A picture is kept no larger than this at its shorter side, pixels: enough for the screen however it is cropped there, and
 * painted many times as fast as a photo of full size.
 */
const SHORTER_SIDE = 960;

async function load(url: string): Promise<ImageBitmap> {
  const response = await fetch(url);
  if (!response.ok) throw new Error('not ready');
  const whole = await createImageBitmap(await response.blob());
  const scale = SHORTER_SIDE / Math.min(whole.width, whole.height);
  if (scale >= 1) return whole;
  const [resizeWidth, resizeHeight] = [Math.round(whole.width * scale), Math.round(whole.height * scale)];
  const smaller = await createImageBitmap(whole, { resizeWidth, resizeHeight, resizeQuality: 'high' });
  whole.close();
  return smaller;
}

/** A still picture by its address, or null where it is not ready; then it is asked for again the next time. */
export function still(url: string): Promise<ImageBitmap | null> {
  let picture = stills.get(url);
  if (!picture) {
    picture = load(url)
      .then((bitmap) => {
        atHand.set(url, bitmap);
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

/** A still picture that has been loaded. */
export function stillAtHand(url: string): ImageBitmap | undefined {
  return atHand.get(url);
}
