import { kWeighting, loudnessOf } from '@bluster/core';

/** About 400 ms at 44,100 Hz: the moments of EBU R 128. */
const WINDOW = 16_384;

/** How loud what is heard is at this moment, after EBU R 128. */
export class LiveMeter {
  private readonly channels: readonly AnalyserNode[];
  private readonly samples = new Float32Array(WINDOW);

  /** @param input what is measured, two channels */
  constructor(input: AudioNode) {
    const { context } = input;
    let last = input;
    for (const [b0, b1, b2, a1, a2] of kWeighting(context.sampleRate)) {
      const filter = new IIRFilterNode(context, { feedforward: [b0, b1, b2], feedback: [1, a1, a2], channelCount: 2 });
      last.connect(filter);
      last = filter;
    }
    const splitter = new ChannelSplitterNode(context, { numberOfOutputs: 2 });
    last.connect(splitter);
    this.channels = [0, 1].map((channel) => {
      const analyser = new AnalyserNode(context, { fftSize: WINDOW });
      splitter.connect(analyser, channel);
      return analyser;
    });
  }

  /** LUFS; null in silence */
  now(): number | null {
    let power = 0;
    for (const channel of this.channels) {
      channel.getFloatTimeDomainData(this.samples);
      let sum = 0;
      for (const sample of this.samples) sum += sample * sample;
      power += sum / WINDOW;
    }
    const loudness = loudnessOf(power);
    return loudness > -70 ? loudness : null;
  }
}
