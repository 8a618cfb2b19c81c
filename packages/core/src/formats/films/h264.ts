import { filmPreset } from './film-preset.ts';

export const h264 = filmPreset({
  title: 'MP4 with H.264 and AAC',
  ending: 'mp4',
  type: 'video/mp4',
  video: ['-c:v', 'libx264', '-preset', 'medium', '-crf', '19', '-pix_fmt', 'yuv420p'],
  sound: ['-c:a', 'aac', '-b:a', '192k'],
  container: 'mp4',
  // What players need first stands first, so that a film can be seen while it is still on its way.
  containerOptions: ['-movflags', '+faststart'],
});
