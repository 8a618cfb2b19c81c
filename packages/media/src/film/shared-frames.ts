/** Frames that lie in memory which threads share, used again when nobody needs them any longer. */
export class SharedFrames {
  private readonly free = new Map<number, Buffer[]>();
  /** by how many each is needed */
  private readonly lent = new Map<Uint8Array, number>();

  /** A frame of so many bytes; what is in it is anything. */
  lend(bytes: number): Buffer {
    const frame = this.free.get(bytes)?.pop() ?? Buffer.from(new SharedArrayBuffer(bytes));
    this.lent.set(frame, 1);
    return frame;
  }

  /** Says that one more needs a frame: it has to be given back once more. One that is not lent stays as it is. */
  share(frame: Uint8Array): void {
    const needed = this.lent.get(frame);
    if (needed) this.lent.set(frame, needed + 1);
  }

  /** Says that one less needs a frame; when nobody does, it may be written over. One that is not lent stays as it is. */
  giveBack(frame: Uint8Array): void {
    const needed = this.lent.get(frame);
    if (!needed) return;
    if (needed > 1) {
      this.lent.set(frame, needed - 1);
      return;
    }
    this.lent.delete(frame);
    const alike = this.free.get(frame.length);
    if (alike) alike.push(frame as Buffer);
    else this.free.set(frame.length, [frame as Buffer]);
  }
}
