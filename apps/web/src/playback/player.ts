import { arrangedLength, tapTime, toMontageTime, toSongTime, type ClipSound, type SongPiece } from '@bluster/core';

/** One stretch being played: from a place of the arranged song at a moment of the audio clock. */
interface Pass {
  readonly startedAt: number;
  readonly from: number;
  readonly to: number;
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
  state: PlayerState = { playing: false, position: 0, loop: null, clicks: false, length: 0, waiting: false };

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
    const heard = output.contextTime + (pageMs - output.performanceTime) / 1000;
    const pass = this.passAt(heard);
    if (!pass) return this.state.position;
    return Math.min(pass.to, Math.max(pass.from, tapTime(pageMs, output, pass.startedAt, pass.from)));
  }

  /** The place of the arranged song heard now, seconds. */
  time(): number {
    return this.timeAt(performance.now());
  }

  /** The place of the song file heard at a moment of the page's clock. */
  songTimeAt(pageMs: number): number {
    return toSongTime(this.pieces, this.timeAt(pageMs));
  }

  songTime(): number {
    return toSongTime(this.pieces, this.time());
  }

  /** Where montage second `position` is on the page's clock, for whoever paints along. */
  clock(): { playing: boolean; position: number; pageMs: number; loop: PlayerState['loop'] } {
    const pageMs = performance.now();
    return { playing: this.state.playing, position: this.timeAt(pageMs), pageMs, loop: this.state.loop };
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
    this.passes.push({ startedAt, from, to });
    this.clicksDone = from - 1e-3;
    let before = 0;
    for (const piece of this.pieces) {
      const a = Math.max(from, before);
      const b = Math.min(to, before + piece.to - piece.from);
      if (b > a) {
        const source = new AudioBufferSourceNode(context, { buffer: this.buffer! });
        const gain = new GainNode(context);
        // Fades are drawn as steps of a fiftieth of a second.
        for (let t = a; t < b; t += 0.02) if (t === a || this.level(t) < 1) gain.gain.setValueAtTime(this.level(t), startedAt + t - from);
        source.connect(gain).connect(context.destination);
        source.start(startedAt + a - from, piece.from + a - before, b - a);
        this.keep(source);
      }
      before += piece.to - piece.from;
    }
    for (const sound of this.clipSounds()) if (sound.at < to && sound.at + sound.length > from) void this.addClip(sound, startedAt, from);
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
    const source = new AudioBufferSourceNode(context, { buffer, playbackRate: sound.speed });
    const gain = new GainNode(context, { gain: 0 });
    gain.gain.setValueAtTime(0, when);
    gain.gain.linearRampToValueAtTime(sound.level, when + 0.01);
    gain.gain.setValueAtTime(sound.level, when + Math.max(0.01, length - 0.01));
    gain.gain.linearRampToValueAtTime(0, when + length);
    source.connect(gain).connect(context.destination);
    source.start(when, sound.from + skip * sound.speed, length * sound.speed);
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
    const ends = pass.startedAt + pass.to - pass.from;
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
    const until = Math.min(pass.to, pass.from + horizon - pass.startedAt);
    if (this.state.clicks)
      for (const click of this.clickTimes()) {
        if (click.time <= this.clicksDone || click.time > until) continue;
        const when = pass.startedAt + click.time - pass.from;
        if (when < context.currentTime) continue;
        const source = new AudioBufferSourceNode(context, { buffer: this.clickSound(click.bar) });
        source.connect(context.destination);
        source.start(when);
        this.keep(source);
      }
    this.clicksDone = Math.max(this.clicksDone, until);
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
