import { byNumber, filmPreset } from './film-preset.ts';

export const av1 = filmPreset({
  title: 'AV1',
  says: 'WebM with AV1 and Opus: the smallest, for new players.',
  ending: 'webm',
  type: 'video/webm',
  holds: 'film',
  video: byNumber(['-c:v', 'libsvtav1', '-preset', '9', '-crf'], { small: 42, good: 32, best: 24 }, ['-pix_fmt', 'yuv420p']),
  sound: ['-c:a', 'libopus', '-b:a', '160k'],
  // The encoder looks ahead 312 samples at 48 kHz; the container takes them off twice (seen in ffmpeg 5.1, and measured by the proof).
  soundEarly: 312 / 48_000,
  container: 'webm',
  containerOptions: [],
  bits: { small: 0.025, good: 0.05, best: 0.09 },
  soundBytes: 20_000,
  effort: 1.5,
});
