import { slowed, slowParts, SLOW_OVERLAP_S } from './slow-sound.ts';
import {
  CLIP_FADE_S,
  arrangedLength,
  clipLevel,
  pieceLevel,
  playedPieces,
  tapTime,
  toMontageTime,
  toSongTime,
  type ClipSound,
  type SongPiece,
} from '@bluster/core';

/** One stretch being played: from a place of the arranged song at a moment of the audio clock. */
interface Pass {
  readonly startedAt: number;
  readonly from: number;
  readonly to: number;
  /** seconds of the arranged song a second of the clock */
  readonly speed: number;
}

/** A click to be heard at a place of the arranged song. */
export interface Click {
  readonly time: number;
  readonly bar: boolean;
}

export interface PlayerState {
  readonly playing: boolean;
  /** seconds of the arranged song; while playing, where it last started or was told */
  readonly position: number;
  readonly loop: { readonly from: number; readonly to: number } | null;
  readonly clicks: boolean;
  /** loudness of the clicks, 0 to 1 */
  readonly clickLevel: number;
  /** 1, or 0.5 for hard passages: the pitch stays */
  readonly speed: number;
  readonly length: number;
  /** whether it will play as soon as the song has been loaded */
  readonly waiting: boolean;
}

const TICK_MS = 40;
/** How far ahead sound is handed to the audio clock, seconds. */
const AHEAD_S = 0.25;
const LEAD_IN_S = 0.06;

/**
 * Plays the song on the audio clock. Everything that is heard is scheduled on that clock to the sample, and the time
 * shown is the time heard: the output time stamp of the audio context, not the moment at which code runs.
 */
export class Player {
  private context: AudioContext | null = null;
  private buffer: AudioBuffer | null = null;
  private pieces: readonly SongPiece[] = [];
  private passes: Pass[] = [];
  private sources: AudioScheduledSourceNode[] = [];
  private timer: ReturnType<typeof setInterval> | undefined;
  private clickSounds: { bar: AudioBuffer; beat: AudioBuffer } | null = null;
  private clicksDone = 0;
  private clickTimes: () => readonly Click[] = () => [];
  private clipSounds: () => readonly ClipSound[] = () => [];
  private clipBuffers = new Map<string, Promise<AudioBuffer | null>>();
  private level: (time: number) => number = () => 1;
  private readonly listeners = new Set<() => void>();
  state: PlayerState = { playing: false, position: 0, loop: null, clicks: false, clickLevel: 0.7, speed: 1, length: 0, waiting: false };

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  readonly snapshot = (): PlayerState => this.state;

  private set(change: Partial<PlayerState>): void {
    this.state = { ...this.state, ...change };
    for (const listener of this.listeners) listener();
  }

  /** The song's sound; null takes it away. */
  setSong(buffer: AudioBuffer | null): void {
    const { waiting } = this.state;
    this.pause();
    this.buffer = buffer;
    if (buffer && waiting) void this.play();
  }

  /** Chooses the stretches of the song that are played, keeping the place in the song where it can. */
  setPieces(pieces: readonly SongPiece[]): void {
    if (pieces.length === this.pieces.length && pieces.every((p, i) => p.from === this.pieces[i]!.from && p.to === this.pieces[i]!.to))
      return;
    const wasPlaying = this.state.playing;
    const song = toSongTime(this.pieces, this.time());
    if (wasPlaying) this.pause();
    this.pieces = pieces;
    const position = toMontageTime(pieces, song) ?? 0;
    this.set({ position, length: arrangedLength(pieces), loop: null });
    if (wasPlaying) void this.play();
  }

  onClicks(times: () => readonly Click[]): void {
    this.clickTimes = times;
  }

  onClipSounds(sounds: () => readonly ClipSound[]): void {
    this.clipSounds = sounds;
  }

  /** How loud the song is at a time, 0 to 1. */
  onLevel(level: (time: number) => number): void {
    this.level = level;
  }

  setClicks(clicks: boolean): void {
    this.set({ clicks });
  }

  setClickLevel(clickLevel: number): void {
    this.set({ clickLevel });
  }

  /** Plays on at another speed from where it is. */
  setSpeed(speed: number): void {
    const { playing } = this.state;
    if (playing) this.pause();
    this.set({ speed });
    if (playing) void this.play();
  }

  setLoop(loop: PlayerState['loop']): void {
    const playing = this.state.playing;
    const now = this.time();
    if (playing) this.pause();
    this.set({ loop });
    if (playing) {
      this.set({ position: loop && (now < loop.from || now >= loop.to) ? loop.from : now });
      void this.play();
    }
  }

  /** The context, made when it is first needed: browsers want a gesture before they let anything sound. */
  private audio(): AudioContext {
    this.context ??= new AudioContext({ sampleRate: 44100, latencyHint: 'interactive' });
    return this.context;
  }

  /** What left the speakers when, on the page's clock; steadier than the context's current time. */
  private output(): { contextTime: number; performanceTime: number } {
    const context = this.audio();
    const stamp = context.getOutputTimestamp();
    if (stamp.contextTime && stamp.performanceTime) return { contextTime: stamp.contextTime, performanceTime: stamp.performanceTime };
    return { contextTime: context.currentTime - (context.outputLatency || context.baseLatency || 0), performanceTime: performance.now() };
  }

  private passAt(contextTime: number): Pass | undefined {
    let found = this.passes[0];
    for (const pass of this.passes) if (pass.startedAt <= contextTime) found = pass;
    return found;
  }

  /** The place of the arranged song that was heard at a moment of the page's clock, ms. */
  timeAt(pageMs: number): number {
    if (!this.state.playing) return this.state.position;
    const output = this.output();
    const pass = this.passAt(this.heardAt(pageMs));
    if (!pass) return this.state.position;
    return Math.min(pass.to, Math.max(pass.from, tapTime(pageMs, output, pass.startedAt, pass.from, pass.speed)));
  }

  /** The place of the arranged song heard now, seconds. */
  time(): number {
    return this.timeAt(performance.now());
  }

  /**
   * The place of the song file heard at a moment of the page's clock.
   * @param lateness of whoever names the moment, seconds of real time, taken off
   */
  songTimeAt(pageMs: number, lateness = 0): number {
    return toSongTime(this.pieces, this.timeAt(pageMs - 1000 * lateness));
  }

  songTime(): number {
    return toSongTime(this.pieces, this.time());
  }

  /** Where montage second `position` is on the page's clock, for whoever paints along. */
  clock(): { playing: boolean; position: number; pageMs: number; speed: number; loop: PlayerState['loop'] } {
    const pageMs = performance.now();
    return { playing: this.state.playing, position: this.timeAt(pageMs), pageMs, speed: this.state.speed, loop: this.state.loop };
  }

  seek(position: number): void {
    const playing = this.state.playing;
    if (playing) this.pause();
    this.set({ position: Math.min(this.state.length, Math.max(0, position)) });
    if (playing) void this.play();
  }

  seekSong(songTime: number): void {
    const at = toMontageTime(this.pieces, songTime);
    if (at !== null) this.seek(at);
  }

  async play(): Promise<void> {
    if (this.state.playing || this.state.length === 0) return;
    if (!this.buffer) {
      this.set({ waiting: true });
      return;
    }
    const context = this.audio();
    if (context.state !== 'running') await context.resume();
    if (this.state.playing) return;
    const { loop, length } = this.state;
    let from = this.state.position >= length - 0.01 ? 0 : this.state.position;
    if (loop && (from < loop.from - 0.001 || from >= loop.to)) from = loop.from;
    this.passes = [];
    this.clicksDone = 0;
    this.addPass(context.currentTime + LEAD_IN_S, from);
    this.set({ playing: true, waiting: false, position: from });
    this.tick();
    this.timer = setInterval(() => this.tick(), TICK_MS);
  }

  pause(): void {
    if (this.state.waiting) this.set({ waiting: false });
    if (!this.state.playing) return;
    const position = this.time();
    clearInterval(this.timer);
    for (const source of this.sources) {
      try {
        source.stop();
      } catch {
        // it had not started yet
      }
      source.disconnect();
    }
    this.sources = [];
    this.passes = [];
    this.set({ playing: false, position });
  }

  toggle(): void {
    if (this.state.playing || this.state.waiting) this.pause();
    else void this.play();
  }

  private addPass(startedAt: number, from: number): void {
    const context = this.audio();
    const to = this.state.loop?.to ?? this.state.length;
    const { speed } = this.state;
    this.passes.push({ startedAt, from, to, speed });
    this.clicksDone = from - 1e-3;
    if (speed !== 1) {
      this.slow(startedAt, from, to);
      return;
    }
    for (const piece of playedPieces(this.pieces)) {
      const a = Math.max(from, piece.at);
      const b = Math.min(to, piece.at + piece.length);
      if (b <= a) continue;
      const source = new AudioBufferSourceNode(context, { buffer: this.buffer! });
      const gain = new GainNode(context);
      this.follow(
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
      source.connect(gain).connect(context.destination);
      source.start(startedAt + a - from, piece.from + a - piece.at, b - a);
      this.keep(source);
    }
    for (const sound of this.clipSounds()) if (sound.at < to && sound.at + sound.length > from) void this.addClip(sound, startedAt, from);
  }

  /** Draws a level on a gain: in steps of a fiftieth of a second, and finer where the song is joined. */
  private follow(
    gain: GainNode,
    a: number,
    b: number,
    when: (time: number) => number,
    level: (time: number) => number,
    joins: readonly (readonly [from: number, to: number])[],
  ): void {
    const set = (t: number): void => void gain.gain.setValueAtTime(level(t), when(t));
    set(a);
    for (let t = a + 0.02; t < b; t += 0.02) if (level(t) < 1) set(t);
    for (const [from, to] of joins) for (let t = Math.max(a, from); t < Math.min(b, to); t += 0.002) set(t);
    for (const [, to] of joins) if (to > a && to < b) set(to);
  }

  /** Plays a stretch more slowly at its own pitch, in parts that are made while those before them sound. */
  private slow(startedAt: number, from: number, to: number): void {
    const context = this.audio();
    const { speed } = this.state;
    const buffer = this.buffer!;
    const pass = this.passes.at(-1)!;
    const parts = slowParts(this.pieces, from, to);
    const next = async (i: number): Promise<void> => {
      const part = parts[i];
      if (!part || !this.passes.includes(pass)) return;
      const channels = await slowed(buffer, part.song, part.length + SLOW_OVERLAP_S, 1 / speed);
      if (!this.passes.includes(pass)) return;
      const when = startedAt + (part.at - from) / speed;
      const late = Math.max(0, context.currentTime + 0.01 - when);
      const sound = context.createBuffer(channels.length, channels[0]!.length, buffer.sampleRate);
      channels.forEach((channel, c) => sound.copyToChannel(channel as Float32Array<ArrayBuffer>, c));
      const source = new AudioBufferSourceNode(context, { buffer: sound });
      const gain = new GainNode(context, { gain: 0 });
      const end = when + part.length / speed;
      const fade = SLOW_OVERLAP_S / speed;
      gain.gain.setValueAtTime(i === 0 ? this.level(part.at) : 0, when + late);
      gain.gain.linearRampToValueAtTime(this.level(part.at), when + late + fade);
      gain.gain.setValueAtTime(this.level(part.at + part.length), end);
      gain.gain.linearRampToValueAtTime(0, end + fade);
      source.connect(gain).connect(context.destination);
      source.start(when + late, late);
      this.keep(source);
      // Two parts ahead are enough.
      const wait = Math.max(0, end - context.currentTime - 3);
      setTimeout(() => void next(i + 1), wait * 1000);
    };
    void next(0);
  }

  private async addClip(sound: ClipSound, startedAt: number, from: number): Promise<void> {
    const context = this.audio();
    const buffer = await this.clipBuffer(sound.assetId);
    const pass = this.passes.find((p) => p.startedAt === startedAt);
    if (!buffer || !pass) return;
    const skip = Math.max(0, from - sound.at, context.currentTime - startedAt - (sound.at - from));
    if (skip >= sound.length) return;
    const when = startedAt + sound.at + skip - from;
    const length = sound.length - skip;
    const gain = new GainNode(context, { gain: clipLevel(sound, skip) });
    const [rise, fall] = [CLIP_FADE_S, Math.max(CLIP_FADE_S, length - CLIP_FADE_S)];
    gain.gain.setValueAtTime(sound.comesIn ? 0 : sound.level, when);
    gain.gain.linearRampToValueAtTime(sound.level, when + rise);
    gain.gain.setValueAtTime(sound.level, when + fall);
    gain.gain.linearRampToValueAtTime(sound.goesOut ? 0 : sound.level, when + length);
    gain.connect(context.destination);
    if (sound.speed === 1) {
      const source = new AudioBufferSourceNode(context, { buffer });
      source.connect(gain);
      source.start(when, sound.from + skip, length);
      this.keep(source);
      return;
    }
    // Made longer or shorter at its own pitch, as in the film.
    const channels = await slowed(buffer, sound.from + skip * sound.speed, length * sound.speed, 1 / sound.speed);
    const late = Math.max(0, context.currentTime + 0.005 - when);
    if (!this.passes.includes(pass) || late >= length || !channels[0]?.length) return;
    const made = context.createBuffer(channels.length, channels[0].length, buffer.sampleRate);
    channels.forEach((channel, c) => made.copyToChannel(channel as Float32Array<ArrayBuffer>, c));
    const source = new AudioBufferSourceNode(context, { buffer: made });
    source.connect(gain);
    source.start(when + late, late, length - late);
    this.keep(source);
  }

  private clipBuffer(assetId: string): Promise<AudioBuffer | null> {
    let buffer = this.clipBuffers.get(assetId);
    if (!buffer) {
      buffer = fetch(`/api/assets/${assetId}/sound`)
        .then((r) => (r.ok ? r.arrayBuffer() : Promise.reject(new Error('not made yet'))))
        .then((data) => this.audio().decodeAudioData(data))
        .catch(() => {
          this.clipBuffers.delete(assetId);
          return null;
        });
      this.clipBuffers.set(assetId, buffer);
    }
    return buffer;
  }

  private keep(source: AudioScheduledSourceNode): void {
    this.sources.push(source);
    source.onended = () => (this.sources = this.sources.filter((s) => s !== source));
  }

  /** Hands the audio clock what is soon to be heard. */
  private tick(): void {
    const context = this.audio();
    const horizon = context.currentTime + AHEAD_S;
    let pass = this.passes.at(-1)!;
    this.scheduleClicks(pass, horizon);
    const ends = pass.startedAt + (pass.to - pass.from) / pass.speed;
    if (this.state.loop && ends < horizon) {
      this.addPass(ends, this.state.loop.from);
      pass = this.passes.at(-1)!;
      this.scheduleClicks(pass, horizon);
      if (this.passes.length > 4) this.passes.shift();
    }
    if (!this.state.loop && this.time() >= pass.to - 0.005) {
      this.pause();
      this.set({ position: pass.to });
    }
  }

  private scheduleClicks(pass: Pass, horizon: number): void {
    const context = this.audio();
    const until = Math.min(pass.to, pass.from + (horizon - pass.startedAt) * pass.speed);
    if (this.state.clicks)
      for (const click of this.clickTimes()) {
        if (click.time <= this.clicksDone || click.time > until) continue;
        const when = pass.startedAt + (click.time - pass.from) / pass.speed;
        if (when < context.currentTime) continue;
        const source = new AudioBufferSourceNode(context, { buffer: this.clickSound(click.bar) });
        source.connect(new GainNode(context, { gain: this.state.clickLevel })).connect(context.destination);
        source.start(when);
        this.keep(source);
      }
    this.clicksDone = Math.max(this.clicksDone, until);
  }

  /**
   * Sounds clicks by themselves, every so many seconds.
   * @returns when each sounds, seconds of the audio clock, and what ends them
   */
  async countIn(clicks: number, every: number): Promise<{ readonly times: readonly number[]; readonly stop: () => void }> {
    this.pause();
    const context = this.audio();
    if (context.state !== 'running') await context.resume();
    const first = context.currentTime + 0.6;
    const sources = Array.from({ length: clicks }, (_, i) => {
      const source = new AudioBufferSourceNode(context, { buffer: this.clickSound(i % 4 === 0) });
      source.connect(context.destination);
      source.start(first + i * every);
      return source;
    });
    return { times: sources.map((_, i) => first + i * every), stop: () => sources.forEach((source) => source.stop()) };
  }

  /** The moment of the audio clock that was heard at a moment of the page's clock (ms), seconds. */
  heardAt(pageMs: number): number {
    const { contextTime, performanceTime } = this.output();
    return contextTime + (pageMs - performanceTime) / 1000;
  }

  private clickSound(bar: boolean): AudioBuffer {
    const context = this.audio();
    if (!this.clickSounds) {
      const make = (hz: number): AudioBuffer => {
        const buffer = context.createBuffer(1, Math.round(context.sampleRate * 0.035), context.sampleRate);
        const samples = buffer.getChannelData(0);
        for (let i = 0; i < samples.length; i++) {
          const t = i / context.sampleRate;
          samples[i] = 0.7 * Math.sin(2 * Math.PI * hz * t) * Math.exp(-t / 0.007);
        }
        return buffer;
      };
      this.clickSounds = { bar: make(2093), beat: make(1319) };
    }
    return bar ? this.clickSounds.bar : this.clickSounds.beat;
  }
}

/** The one player of the page. */
export const player = new Player();
