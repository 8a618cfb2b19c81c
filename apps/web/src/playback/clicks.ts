import type { AudioOut } from './audio-out.ts';
import type { Pass } from './pass.ts';

/** A click to be heard at a place of the arranged song. */
export interface Click {
  readonly time: number;
  readonly bar: boolean;
}

/** Clicks on the marks, scheduled a little ahead; bars sound higher. */
export class Clicks {
  private readonly out: AudioOut;
  private sounds: { bar: AudioBuffer; beat: AudioBuffer } | null = null;
  private done = 0;
  times: () => readonly Click[] = () => [];

  constructor(out: AudioOut) {
    this.out = out;
  }

  /** A pass begins at this place: what lies before it was heard, or is not to be. */
  beginAt(from: number): void {
    this.done = from - 1e-3;
  }

  /**
   * Hands over the clicks of a pass up to a moment of the audio clock.
   * @param level loudness, 0 to 1; null passes them over
   */
  schedule(pass: Pass, horizon: number, level: number | null): void {
    const { context } = this.out;
    const until = Math.min(pass.to, pass.from + (horizon - pass.startedAt) * pass.speed);
    if (level !== null)
      for (const click of this.times()) {
        if (click.time <= this.done || click.time > until) continue;
        const when = pass.startedAt + (click.time - pass.from) / pass.speed;
        if (when < context.currentTime) continue;
        const source = new AudioBufferSourceNode(context, { buffer: this.sound(click.bar) });
        source.connect(new GainNode(context, { gain: level })).connect(context.destination);
        this.out.start(source, when);
      }
    this.done = Math.max(this.done, until);
  }

  /**
   * Sounds clicks by themselves, every so many seconds.
   * @returns when each sounds, seconds of the audio clock, and what ends them
   */
  async countIn(clicks: number, every: number): Promise<{ readonly times: readonly number[]; readonly stop: () => void }> {
    const context = await this.out.running();
    const first = context.currentTime + 0.6;
    const sources = Array.from({ length: clicks }, (_, i) => {
      const source = new AudioBufferSourceNode(context, { buffer: this.sound(i % 4 === 0) });
      source.connect(context.destination);
      source.start(first + i * every);
      return source;
    });
    return { times: sources.map((_, i) => first + i * every), stop: () => sources.forEach((source) => source.stop()) };
  }

  private sound(bar: boolean): AudioBuffer {
    const { context } = this.out;
    if (!this.sounds) {
      const make = (hz: number): AudioBuffer => {
        const samples = Float32Array.from({ length: Math.round(context.sampleRate * 0.035) }, (_, i) => {
          const t = i / context.sampleRate;
          return 0.7 * Math.sin(2 * Math.PI * hz * t) * Math.exp(-t / 0.007);
        });
        return this.out.bufferOf([samples], context.sampleRate);
      };
      this.sounds = { bar: make(2093), beat: make(1319) };
    }
    return bar ? this.sounds.bar : this.sounds.beat;
  }
}
