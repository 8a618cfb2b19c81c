import { filmPreset } from './film-preset.ts';

export const m4a = filmPreset({
  title: 'M4A',
  says: 'The sound alone as AAC: small.',
  ending: 'm4a',
  type: 'audio/mp4',
  holds: 'sound',
  video: {},
  sound: ['-c:a', 'aac', '-b:a', '256k'],
  container: 'ipod',
  containerOptions: ['-movflags', '+faststart'],
  bits: {},
  soundBytes: 32_000,
  effort: 1,
});
