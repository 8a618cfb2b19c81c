/** What a card looks like: one colour, or two that go over into each other from top to bottom. */
export interface CardGround {
  readonly from: string;
  readonly to: string | null;
}

/** A card as a picture. @param size of the montage's picture, pixels */
export async function cardFile({ from, to }: CardGround, { width, height }: { width: number; height: number }): Promise<File> {
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext('2d')!;
  if (to === null) context.fillStyle = from;
  else {
    const graded = context.createLinearGradient(0, 0, 0, height);
    graded.addColorStop(0, from);
    graded.addColorStop(1, to);
    context.fillStyle = graded;
  }
  context.fillRect(0, 0, width, height);
  const name = `card ${[from, to].filter(Boolean).join(' to ')}.png`;
  return new File([await canvas.convertToBlob({ type: 'image/png' })], name, { type: 'image/png' });
}
