import { arrangedLength, tapTime, toMontageTime, toSongTime, type ClipSound, type SongPiece } from '@bluster/core';
import { AudioOut } from './audio-out.ts';
import { Clicks, type Click } from './clicks.ts';
import { LiveMeter } from './live-meter.ts';
import { ClipVoices } from './clip-voices.ts';
import type { Pass } from './pass.ts';
import { SongVoice } from './song-voice.ts';

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
  private readonly out = new AudioOut();
  private passes: Pass[] = [];
  private readonly isCurrent = (pass: Pass): boolean => this.passes.includes(pass);
  private readonly song = new SongVoice(this.out, this.isCurrent);
  private readonly clips = new ClipVoices(this.out, this.isCurrent);
  private readonly clicks = new Clicks(this.out);
  private measured: LiveMeter | null = null;
  private timer: ReturnType<typeof setInterval> | undefined;
  private readonly listeners = new Set<() => void>();
  state: PlayerState = { playing: false, position: 0, loop: null, clicks: false, clickLevel: 0.7, speed: 1, length: 0, waiting: false };

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  private set(change: Partial<PlayerState>): void {
    this.state = { ...this.state, ...change };
    for (const listener of this.listeners) listener();
  }

  /** The song's sound; null takes it away. */
  setSong(buffer: AudioBuffer | null): void {
    const { waiting } = this.state;
    this.pause();
    this.song.buffer = buffer;
    if (buffer && waiting) void this.play();
  }

  /** Chooses the stretches of the song that are played, keeping the place in the song where it can. */
  setPieces(pieces: readonly SongPiece[]): void {
    const before = this.song.pieces;
    if (pieces.length === before.length && pieces.every((p, i) => p.from === before[i]!.from && p.to === before[i]!.to)) return;
    const wasPlaying = this.state.playing;
    const place = toSongTime(before, this.time());
    if (wasPlaying) this.pause();
    this.song.pieces = pieces;
    const position = toMontageTime(pieces, place) ?? 0;
    this.set({ position, length: arrangedLength(pieces), loop: null });
    if (wasPlaying) void this.play();
  }

  /** A meter of what is heard now; it begins when it is first asked for. */
  meter(): LiveMeter {
    return (this.measured ??= new LiveMeter(this.out.bus));
  }

  onClicks(times: () => readonly Click[]): void {
    this.clicks.times = times;
  }

  onClipSounds(sounds: () => readonly ClipSound[]): void {
    this.clips.sounds = sounds;
  }

  /** How loud the song is at a time, 0 to 1. */
  onLevel(level: (time: number) => number): void {
    this.song.level = level;
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

  private passAt(contextTime: number): Pass | undefined {
    let found = this.passes[0];
    for (const pass of this.passes) if (pass.startedAt <= contextTime) found = pass;
    return found;
  }

  /** The place of the arranged song that was heard at a moment of the page's clock, ms. */
  timeAt(pageMs: number): number {
    if (!this.state.playing) return this.state.position;
    const output = this.out.heard();
    const pass = this.passAt(this.out.heardAt(pageMs));
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
    return toSongTime(this.song.pieces, this.timeAt(pageMs - 1000 * lateness));
  }

  songTime(): number {
    return toSongTime(this.song.pieces, this.time());
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
    const at = toMontageTime(this.song.pieces, songTime);
    if (at !== null) this.seek(at);
  }

  async play(): Promise<void> {
    if (this.state.playing || this.state.length === 0) return;
    if (!this.song.buffer) {
      this.set({ waiting: true });
      return;
    }
    const context = await this.out.running();
    if (this.state.playing) return;
    const { loop, length } = this.state;
    let from = this.state.position >= length - 0.01 ? 0 : this.state.position;
    if (loop && (from < loop.from - 0.001 || from >= loop.to)) from = loop.from;
    this.passes = [];
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
    this.out.silence();
    this.passes = [];
    this.set({ playing: false, position });
  }

  toggle(): void {
    if (this.state.playing || this.state.waiting) this.pause();
    else void this.play();
  }

  private addPass(startedAt: number, from: number): void {
    const pass: Pass = { startedAt, from, to: this.state.loop?.to ?? this.state.length, speed: this.state.speed };
    this.passes.push(pass);
    this.clicks.beginAt(from);
    this.song.play(pass);
    if (pass.speed === 1) this.clips.play(pass);
  }

  /** Hands the audio clock what is soon to be heard. */
  private tick(): void {
    const horizon = this.out.context.currentTime + AHEAD_S;
    const level = this.state.clicks ? this.state.clickLevel : null;
    let pass = this.passes.at(-1)!;
    this.clicks.schedule(pass, horizon, level);
    const ends = pass.startedAt + (pass.to - pass.from) / pass.speed;
    if (this.state.loop && ends < horizon) {
      this.addPass(ends, this.state.loop.from);
      pass = this.passes.at(-1)!;
      this.clicks.schedule(pass, horizon, level);
      if (this.passes.length > 4) this.passes.shift();
    }
    if (!this.state.loop && this.time() >= pass.to - 0.005) {
      this.pause();
      this.set({ position: pass.to });
    }
  }

  /**
   * Sounds clicks by themselves, every so many seconds.
   * @returns when each sounds, seconds of the audio clock, and what ends them
   */
  countIn(clicks: number, every: number): ReturnType<Clicks['countIn']> {
    this.pause();
    return this.clicks.countIn(clicks, every);
  }

  /** The moment of the audio clock that was heard at a moment of the page's clock (ms), seconds. */
  heardAt(pageMs: number): number {
    return this.out.heardAt(pageMs);
  }
}

/** The one player of the page. */
export const player = new Player();
