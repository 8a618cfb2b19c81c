import { useEffect, useRef, useState, type RefObject } from 'react';
import { clipLength, frameAt, type FootageItem } from '@bluster/core';

export const SPEEDS = [0.25, 0.5, 1, 2, 4] as const;
export type Speed = (typeof SPEEDS)[number];

/** A clip that is looked at: its picture, its sound, and where it is. */
export interface ClipPlayer {
  readonly video: RefObject<HTMLVideoElement | null>;
  readonly audio: RefObject<HTMLAudioElement | null>;
  /** clip seconds */
  readonly time: number;
  readonly playing: boolean;
  readonly speed: Speed;
  /** start of the frame on the screen, clip seconds */
  here: () => number;
  goTo: (seconds: number) => void;
  toggle: () => void;
  pause: () => void;
  step: (frames: number) => void;
  setSpeed: (speed: Speed) => void;
  onLoaded: () => void;
  onPlay: () => void;
  onPause: () => void;
}

/** @param start where it is shown first, clip seconds; @param heard whether its sound is on */
export function useClipPlayer(item: FootageItem, start: number, heard: boolean): ClipPlayer {
  const video = useRef<HTMLVideoElement>(null);
  const audio = useRef<HTMLAudioElement>(null);
  const [time, setTimeShown] = useState(start);
  /** where it is, also before its preview is there or has loaded: what keys mean between two paintings */
  const at = useRef(start);
  const setTime = (seconds: number): void => {
    at.current = seconds;
    setTimeShown(seconds);
  };
  const [playing, setPlaying] = useState(false);
  const [speed, setSpeedState] = useState<Speed>(1);
  const frame = item.rate.den / item.rate.num;
  const length = clipLength(item);

  useEffect(() => {
    let handle = 0;
    const follow = (): void => {
      if (video.current) setTime(video.current.currentTime);
      handle = requestAnimationFrame(follow);
    };
    if (playing) follow();
    return () => cancelAnimationFrame(handle);
  }, [playing]);
  useEffect(() => {
    if (audio.current) audio.current.muted = !heard;
  }, [heard, playing]);

  const goTo = (seconds: number): void => {
    const n = Math.max(0, Math.min(item.frames - 1, frameAt(seconds, item.rate)));
    setTime(n * frame);
    const v = video.current;
    if (!v) return;
    // The middle of a frame, so that rounding never shows its neighbour.
    v.currentTime = (n + 0.5) * frame;
    if (audio.current && playing) audio.current.currentTime = n * frame;
  };
  const pause = (): void => {
    video.current?.pause();
    audio.current?.pause();
  };
  const setSpeed = (to: Speed): void => {
    setSpeedState(to);
    if (video.current) video.current.playbackRate = to;
    if (audio.current) audio.current.playbackRate = to;
  };
  return {
    video,
    audio,
    time,
    playing,
    speed,
    here: () => frameAt((playing && video.current ? video.current.currentTime : at.current) + frame / 4, item.rate) * frame,
    goTo,
    pause,
    toggle: () => {
      const v = video.current;
      if (!v) return;
      if (playing) {
        pause();
        return;
      }
      if (v.currentTime >= length - frame) v.currentTime = start;
      v.playbackRate = speed;
      void v.play();
      if (audio.current) {
        audio.current.currentTime = v.currentTime;
        audio.current.playbackRate = speed;
        void audio.current.play();
      }
    },
    step: (by) => {
      pause();
      const now = playing && video.current ? video.current.currentTime : at.current;
      goTo((frameAt(now + frame / 4, item.rate) + by) * frame + frame / 4);
    },
    setSpeed,
    // A preview that comes while one was stepping through the filmstrip shows the same moment.
    onLoaded: () => {
      if (video.current && !playing) video.current.currentTime = (frameAt(at.current + frame / 4, item.rate) + 0.5) * frame;
    },
    onPlay: () => setPlaying(true),
    onPause: () => {
      setPlaying(false);
      audio.current?.pause();
      if (video.current) setTime(video.current.currentTime);
    },
  };
}
