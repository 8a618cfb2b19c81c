import { byNumber, filmPreset } from './film-preset.ts';

export const h265 = filmPreset({
  title: 'H.265',
  says: 'MP4 with H.265 and AAC: smaller, for newer players, and slower to make.',
  ending: 'mp4',
  type: 'video/mp4',
  holds: 'film',
  video: byNumber(['-c:v', 'libx265', '-preset', 'medium', '-crf'], { small: 29, good: 23, best: 18 }, [
    '-pix_fmt',
    'yuv420p',
    // By this name players of the other kind know it too.
    '-tag:v',
    'hvc1',
    '-x265-params',
    'log-level=error',
  ]),
  sound: ['-c:a', 'aac', '-b:a', '192k'],
  container: 'mp4',
  containerOptions: ['-movflags', '+faststart'],
  bits: { small: 0.03, good: 0.06, best: 0.13 },
  soundBytes: 24_000,
  effort: 3,
});
