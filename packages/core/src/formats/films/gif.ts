import { filmPreset } from './film-preset.ts';

export const gif = filmPreset({
  title: 'GIF',
  says: 'Pictures that move, without sound: a short stretch.',
  ending: 'gif',
  type: 'image/gif',
  holds: 'pictures',
  // Colours of its own, chosen from those that move. All frames are held for that, so it is short.
  video: { good: ['-vf', 'split[a][b];[a]palettegen=stats_mode=diff[p];[b][p]paletteuse=dither=bayer:bayer_scale=4', '-loop', '0'] },
  sound: [],
  container: 'gif',
  containerOptions: [],
  bits: { good: 2.2 },
  soundBytes: 0,
  effort: 1.5,
  // Its frames last whole hundredths of a second: 25 a second are exact, 30 are not.
  most: { rate: 25, side: 640, seconds: 30 },
});
