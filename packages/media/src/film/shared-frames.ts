/** Frames that lie in memory which threads share, used again when nobody needs them any longer. */
export class SharedFrames {
  private readonly free = new Map<number, Buffer[]>();
  private readonly lent = new Set<Uint8Array>();

  /** A frame of so many bytes; what is in it is anything. */
  lend(bytes: number): Buffer {
    const frame = this.free.get(bytes)?.pop() ?? Buffer.from(new SharedArrayBuffer(bytes));
    this.lent.add(frame);
    return frame;
  }

  /** Says that a frame may be written over. One that was not lent here stays as it is. */
  giveBack(frame: Uint8Array): void {
    if (!this.lent.delete(frame)) return;
    const alike = this.free.get(frame.length);
    if (alike) alike.push(frame as Buffer);
    else this.free.set(frame.length, [frame as Buffer]);
  }

  /** Leaves a frame to others for good: it is not lent again. */
  leave(frame: Uint8Array): void {
    this.lent.delete(frame);
  }
}
