import { pieceLevel, playedPieces, type SongPiece } from '@bluster/core';
import { followLevel } from './follow-level.ts';
import type { AudioOut } from './audio-out.ts';
import type { Pass } from './pass.ts';
import { slowed, slowParts, SLOW_OVERLAP_S } from './slow-sound.ts';

/** The song, piece after piece with its fades and joins, or slowed at its own pitch. */
export class SongVoice {
  private readonly out: AudioOut;
  private readonly isCurrent: (pass: Pass) => boolean;
  buffer: AudioBuffer | null = null;
  pieces: readonly SongPiece[] = [];
  /** how loud the song is at a time of the arranged song, 0 to 1 */
  level: (time: number) => number = () => 1;

  /** @param isCurrent whether a pass is still being played, asked when a part has been slowed */
  constructor(out: AudioOut, isCurrent: (pass: Pass) => boolean) {
    this.out = out;
    this.isCurrent = isCurrent;
  }

  play(pass: Pass): void {
    if (pass.speed !== 1) return this.slow(pass);
    const { context } = this.out;
    const { startedAt, from, to } = pass;
    for (const piece of playedPieces(this.pieces)) {
      const a = Math.max(from, piece.at);
      const b = Math.min(to, piece.at + piece.length);
      if (b <= a) continue;
      const source = new AudioBufferSourceNode(context, { buffer: this.buffer! });
      const gain = new GainNode(context);
      followLevel(
        gain,
        a,
        b,
        (t) => startedAt + t - from,
        (t) => this.level(t) * pieceLevel(piece, t - piece.at),
        [
          [piece.at, piece.at + piece.fadeIn],
          [piece.at + piece.length - piece.fadeOut, piece.at + piece.length],
        ],
      );
      source.connect(gain).connect(this.out.bus);
      this.out.start(source, startedAt + a - from, piece.from + a - piece.at, b - a);
    }
  }

  /** Plays a stretch more slowly at its own pitch, in parts that are made while those before them sound. */
  private slow(pass: Pass): void {
    const { context } = this.out;
    const { startedAt, from, to, speed } = pass;
    const buffer = this.buffer!;
    const parts = slowParts(this.pieces, from, to);
    const next = async (i: number): Promise<void> => {
      const part = parts[i];
      if (!part || !this.isCurrent(pass)) return;
      const channels = await slowed(buffer, part.song, part.length + SLOW_OVERLAP_S, 1 / speed);
      if (!this.isCurrent(pass)) return;
      const when = startedAt + (part.at - from) / speed;
      const late = Math.max(0, context.currentTime + 0.01 - when);
      const source = new AudioBufferSourceNode(context, { buffer: this.out.bufferOf(channels, buffer.sampleRate) });
      const gain = new GainNode(context, { gain: 0 });
      const end = when + part.length / speed;
      const fade = SLOW_OVERLAP_S / speed;
      gain.gain.setValueAtTime(i === 0 ? this.level(part.at) : 0, when + late);
      gain.gain.linearRampToValueAtTime(this.level(part.at), when + late + fade);
      gain.gain.setValueAtTime(this.level(part.at + part.length), end);
      gain.gain.linearRampToValueAtTime(0, end + fade);
      source.connect(gain).connect(this.out.bus);
      this.out.start(source, when + late, late);
      // Two parts ahead are enough.
      const wait = Math.max(0, end - context.currentTime - 3);
      setTimeout(() => void next(i + 1), wait * 1000);
    };
    void next(0);
  }
}
