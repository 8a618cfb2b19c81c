/** By LEVEL_CUES: mean, spread and weight. Written by lab/training/judge-levels.py; not to be edited. */
export const LEVEL_WEIGHTS: readonly (readonly [mean: number, spread: number, weight: number])[] = [
  [0.3532, 0.6671, -0.6833], // tempo
  [0.5697, 0.6035, 0.0635], // tempo squared
  [-0.8916, 2.1385, 1.5644], // beats heard
  [-2.2919, 2.9125, -0.1118], // middles heard
  [-4.6637, 1.3536, -0.5136], // quarters heard
  [-4.1313, 2.0189, -0.7062], // thirds heard
  [1.3455, 0.5465, -0.0737], // low on beats
  [0.9765, 0.6744, -0.1528], // low on middles
  [0.4588, 0.435, -0.0436], // low on quarters
  [1.1947, 0.5338, 0.7061], // mid on beats
  [0.8733, 0.6409, 0.0788], // mid on middles
  [0.3786, 0.4, -0.2193], // mid on quarters
  [1.5583, 0.6309, -0.0717], // high on beats
  [1.1152, 0.865, 0.1585], // high on middles
  [0.3757, 0.6809, 0.3504], // high on quarters
  [0.3035, 0.3881, 0.2961], // low and high by turns, beat to beat
  [0.728, 0.8697, -0.1758], // all by turns, beat to beat
  [-0.0133, 0.557, -0.0142], // low beats and high middles
  [0.3742, 0.4128, 0.0953], // low beats and high middles, either way
  [0.7513, 1.7109, 0.0707], // all on beats and not on middles
  [0.3781, 0.4101, -0.1268], // low and high by turns, two beats to two beats
  [0.6666, 0.6112, 0.0981], // all by turns, two beats to two beats
  [-3.5898, 1.4952, 0.0103], // downbeats heard
  [-2.1206, 2.204, 0.2881], // downbeats heard on one of four
  [1.1986, 1.5952, 0.3523], // that one before the other three
  [-4.3973, 1.77, -0.1192], // downbeats heard on middles
  [0.0314, 0.0363, -0.334], // unsteadiness
  [-0.2495, 0.3931, -0.0], // density
  [0.1526, 0.3596, 0.4244], // likeliest path
];
