import { byNumber, filmPreset } from './film-preset.ts';

export const h264 = filmPreset({
  title: 'H.264',
  says: 'MP4 with H.264 and AAC: plays everywhere.',
  ending: 'mp4',
  type: 'video/mp4',
  holds: 'film',
  video: byNumber(['-c:v', 'libx264', '-preset', 'medium', '-crf'], { small: 25, good: 19, best: 15 }, ['-pix_fmt', 'yuv420p']),
  sound: ['-c:a', 'aac', '-b:a', '192k'],
  container: 'mp4',
  // What players need first stands first, so that a film can be seen while it is still on its way.
  containerOptions: ['-movflags', '+faststart'],
  bits: { small: 0.05, good: 0.11, best: 0.19 },
  soundBytes: 24_000,
  effort: 1,
});
