import { filmPreset } from './film-preset.ts';

export const png = filmPreset({
  title: 'PNG',
  says: 'The frame at the playhead as a picture.',
  ending: 'png',
  type: 'image/png',
  holds: 'picture',
  // Without rounding that is exact, dark colours come out two steps darker.
  video: {
    good: ['-frames:v', '1', '-vf', 'scale=flags=accurate_rnd+full_chroma_int', '-c:v', 'png', '-pix_fmt', 'rgb24', '-update', '1'],
  },
  sound: [],
  container: 'image2',
  containerOptions: [],
  bits: { good: 12 },
  soundBytes: 0,
  effort: 1,
});
