import { filmPreset } from './film-preset.ts';

export const wav = filmPreset({
  title: 'WAV',
  says: 'The sound alone, as it is: 16 bit, 44,100 Hz.',
  ending: 'wav',
  type: 'audio/wav',
  holds: 'sound',
  video: {},
  sound: ['-c:a', 'pcm_s16le'],
  container: 'wav',
  containerOptions: [],
  bits: {},
  soundBytes: 176_400,
  effort: 1,
});
