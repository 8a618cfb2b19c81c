import { byNumber, filmPreset } from './film-preset.ts';

export const vp9 = filmPreset({
  title: 'VP9',
  says: 'WebM with VP9 and Opus: free of licences, for pages.',
  ending: 'webm',
  type: 'video/webm',
  holds: 'film',
  video: byNumber(['-c:v', 'libvpx-vp9', '-b:v', '0', '-deadline', 'good', '-cpu-used', '4', '-row-mt', '1', '-crf'], {
    small: 38,
    good: 30,
    best: 22,
  }),
  sound: ['-c:a', 'libopus', '-b:a', '160k'],
  // The encoder looks ahead 312 samples at 48 kHz; the container takes them off twice (seen in ffmpeg 5.1, and measured by the proof).
  soundEarly: 312 / 48_000,
  container: 'webm',
  containerOptions: [],
  bits: { small: 0.03, good: 0.06, best: 0.12 },
  soundBytes: 20_000,
  effort: 3,
});
