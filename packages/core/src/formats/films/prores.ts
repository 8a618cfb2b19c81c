import { filmPreset, type Quality } from './film-preset.ts';

/** The three sizes of the 422 family, as the encoder counts them. */
const profile = (n: number): readonly string[] => ['-c:v', 'prores_ks', '-profile:v', String(n), '-pix_fmt', 'yuv422p10le'];
const PROFILES: Record<Quality, readonly string[]> = { small: profile(1), good: profile(2), best: profile(3) };

export const prores = filmPreset({
  title: 'ProRes 422',
  says: 'MOV with ProRes 422 and plain sound: large, for further work.',
  ending: 'mov',
  type: 'video/quicktime',
  holds: 'film',
  video: PROFILES,
  sound: ['-c:a', 'pcm_s16le'],
  container: 'mov',
  containerOptions: [],
  bits: { small: 1.6, good: 2.2, best: 3.2 },
  soundBytes: 176_400,
  effort: 1,
});
