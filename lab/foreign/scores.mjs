// The scores of the foreign folder (../shared/foreign/build.sh), by composer as far as their files tell: by how they name
// their tracks. What is trained on, what is tuned on and what is only ever checked against are different people's.

/** Two composers: one of "drm", "ovr" and "MIDI out", one of a trio with a warm pad. */
export const TRAINED = [
  ...['1-e1m1', '1-e1m5', '1-e1m7', '1-e2m4', '1-e3m1', '1-e3m2', '1-e3m3', '1-e3m4', '1-e3m5', '1-e3m6', '1-e3m7', '1-e3m8'],
  ...['2-ddtblu', '2-doom', '2-doom2', '2-evil', '2-in_cit', '2-romero', '2-runni2', '2-runnin', '2-shawn3', '2-stalks', '2-stlks3'],
  ...['2-tense', '1-e1m6', '1-e2m1', '2-ampie', '2-messag', '2-read_m', '2-stlks2'],
];
/** One who numbers titles and verses, and six that are each like no other. */
export const TUNED = [
  ...['1-e1m4', '1-e1m8', '1-e1m9', '1-e2m2', '1-e2m3', '2-ddtbl2', '2-romer2', '2-ultima'],
  ...['1-e1m2', '1-e2m8', '2-countd', '2-ddtbl3', '2-dead2', '2-theda2'],
];
/** One of layered guitars, voices and synthesisers. */
export const CHECKED = [...['1-e1m3', '1-e2m5', '1-e2m7', '1-e3m9', '1-inter', '1-victor', '2-adrian', '2-betwee', '2-count2', '2-messg2']];
// Left out: 1-e2m6, which is 1-e1m5 again; 1-e2m9, whose file counts eighths of a slow six; and eleven whose notes do not sit on
// their files' bars (1-bunny, 1-intro, 1-introa, 2-dead, 2-dm2int, 2-dm2ttl, 2-openin, 2-shawn, 2-shawn2, 2-the_da, 2-theda3).
