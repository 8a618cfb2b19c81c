/** Bytes that are kept for pictures to come; what is above is left to the collector. */
const MOST_KEPT = 256 * 2 ** 20;

/**
 * Memory for what is made on the way to a frame, used again for the next frame: to ask for a few megabytes anew for each step, and to have
 * them collected, takes longer than the step.
 */
class SparePlanes {
  private readonly free = new Map<number, Uint8Array[]>();
  private lent: Uint8Array[] = [];
  private kept = 0;

  /** Room for so many bytes, until the frame is whole; what is in it is anything. */
  lend(length: number): Uint8Array {
    const spare = this.free.get(length)?.pop();
    if (!spare && this.kept + length > MOST_KEPT) return new Uint8Array(length);
    if (!spare) this.kept += length;
    const room = spare ?? new Uint8Array(length);
    this.lent.push(room);
    return room;
  }

  copyOf(picture: Uint8Array): Uint8Array {
    const copy = this.lend(picture.length);
    copy.set(picture);
    return copy;
  }

  /** Says that the frame is whole: what was lent for it may be written over. */
  takeBack(): void {
    for (const room of this.lent) {
      const alike = this.free.get(room.length);
      if (alike) alike.push(room);
      else this.free.set(room.length, [room]);
    }
    this.lent = [];
  }
}

/** One for all work of a thread. */
export const spares = new SparePlanes();
