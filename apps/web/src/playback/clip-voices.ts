import { ROUTES } from '@bluster/wire/routes';
import { CLIP_FADE_S, clipLevel, type ClipSound } from '@bluster/core';
import { followLevel } from './follow-level.ts';
import type { AudioOut } from './audio-out.ts';
import type { Pass } from './pass.ts';
import { slowed } from './slow-sound.ts';

/** The sounds of the clips that have theirs on, under the song. */
export class ClipVoices {
  private readonly out: AudioOut;
  private readonly isCurrent: (pass: Pass) => boolean;
  private readonly buffers = new Map<string, Promise<AudioBuffer | null>>();
  sounds: () => readonly ClipSound[] = () => [];

  /** @param isCurrent whether a pass is still being played, asked when a sound has been fetched */
  constructor(out: AudioOut, isCurrent: (pass: Pass) => boolean) {
    this.out = out;
    this.isCurrent = isCurrent;
  }

  play(pass: Pass): void {
    for (const sound of this.sounds()) if (sound.at < pass.to && sound.at + sound.length > pass.from) void this.add(sound, pass);
  }

  private async add(sound: ClipSound, pass: Pass): Promise<void> {
    const { context } = this.out;
    const buffer = await this.buffer(sound.assetId);
    if (!buffer || !this.isCurrent(pass)) return;
    const skip = Math.max(0, pass.from - sound.at, context.currentTime - pass.startedAt - (sound.at - pass.from));
    if (skip >= sound.length) return;
    const when = pass.startedAt + sound.at + skip - pass.from;
    const length = sound.length - skip;
    const gain = new GainNode(context, { gain: clipLevel(sound, skip) });
    // Where it is begun in its middle it comes in as quickly as it can without a click, or goes on with its own fade.
    const rise = skip > 0 || sound.fadeIn === 0 ? Math.max(CLIP_FADE_S, sound.fadeIn - skip) : sound.fadeIn;
    const fall = Math.max(rise, length - sound.fadeOut);
    gain.gain.setValueAtTime(sound.fadeIn === 0 ? sound.level : skip > 0 ? clipLevel(sound, skip) : 0, when);
    gain.gain.linearRampToValueAtTime(sound.level, when + Math.min(rise, length));
    if (sound.fadeOut > 0) {
      gain.gain.setValueAtTime(sound.level, when + fall);
      gain.gain.linearRampToValueAtTime(0, when + length);
    }
    // Where a line is drawn it is followed, with the sound's own fades.
    if (sound.line && sound.line.length > 0) {
      gain.gain.cancelScheduledValues(0);
      followLevel(
        gain,
        skip,
        sound.length,
        (t) => when + t - skip,
        (t) => clipLevel(sound, t),
        [
          [0, sound.fadeIn],
          [sound.length - sound.fadeOut, sound.length],
        ],
      );
    }
    gain.connect(this.out.bus);
    if (sound.speed === 1) {
      const source = new AudioBufferSourceNode(context, { buffer });
      source.connect(gain);
      this.out.start(source, when, sound.from + skip, length);
      return;
    }
    // Made longer or shorter at its own pitch, as in the film.
    const channels = await slowed(buffer, sound.from + skip * sound.speed, length * sound.speed, 1 / sound.speed);
    const late = Math.max(0, context.currentTime + 0.005 - when);
    if (!this.isCurrent(pass) || late >= length || !channels[0]?.length) return;
    const source = new AudioBufferSourceNode(context, { buffer: this.out.bufferOf(channels, buffer.sampleRate) });
    source.connect(gain);
    this.out.start(source, when + late, late, length - late);
  }

  private buffer(assetId: string): Promise<AudioBuffer | null> {
    let buffer = this.buffers.get(assetId);
    if (!buffer) {
      buffer = fetch(ROUTES.assetPart(assetId, 'sound'))
        .then((r) => (r.ok ? r.arrayBuffer() : Promise.reject(new Error('not made yet'))))
        .then((data) => this.out.context.decodeAudioData(data))
        .catch(() => {
          this.buffers.delete(assetId);
          return null;
        });
      this.buffers.set(assetId, buffer);
    }
    return buffer;
  }
}
