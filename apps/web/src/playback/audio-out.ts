/** The page's way to the speakers: one audio context, what is scheduled on it, and what of it has been heard. */
export class AudioOut {
  private made: AudioContext | null = null;
  private sources: AudioScheduledSourceNode[] = [];
  private mixed: GainNode | null = null;

  /** The context, made when it is first needed: browsers want a gesture before they let anything sound. */
  get context(): AudioContext {
    return (this.made ??= new AudioContext({ sampleRate: 44100, latencyHint: 'interactive' }));
  }

  /** Where everything of the montage comes together that is heard; clicks do not. */
  get bus(): GainNode {
    if (!this.mixed) {
      this.mixed = new GainNode(this.context);
      this.mixed.connect(this.context.destination);
    }
    return this.mixed;
  }

  /** The context, once it runs. */
  async running(): Promise<AudioContext> {
    if (this.context.state !== 'running') await this.context.resume();
    return this.context;
  }

  /** What left the speakers when, on the page's clock; steadier than the context's current time. */
  heard(): { contextTime: number; performanceTime: number } {
    const { context } = this;
    const stamp = context.getOutputTimestamp();
    if (stamp.contextTime && stamp.performanceTime) return { contextTime: stamp.contextTime, performanceTime: stamp.performanceTime };
    return { contextTime: context.currentTime - (context.outputLatency || context.baseLatency || 0), performanceTime: performance.now() };
  }

  /** The moment of the audio clock that was heard at a moment of the page's clock (ms), seconds. */
  heardAt(pageMs: number): number {
    const { contextTime, performanceTime } = this.heard();
    return contextTime + (pageMs - performanceTime) / 1000;
  }

  /** A sound of its own from samples, one list a channel. */
  bufferOf(channels: readonly Float32Array[], rate: number): AudioBuffer {
    const buffer = this.context.createBuffer(channels.length, channels[0]!.length, rate);
    channels.forEach((channel, c) => buffer.copyToChannel(channel as Float32Array<ArrayBuffer>, c));
    return buffer;
  }

  /** Schedules a source, and remembers it until it has ended. */
  start(source: AudioBufferSourceNode, when: number, offset = 0, length?: number): void {
    source.start(when, offset, length);
    this.sources.push(source);
    source.onended = () => (this.sources = this.sources.filter((s) => s !== source));
  }

  /** Ends everything that was scheduled. */
  silence(): void {
    for (const source of this.sources) {
      source.stop();
      source.disconnect();
    }
    this.sources = [];
  }
}
