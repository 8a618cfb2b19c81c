import { MARK_KINDS } from '../marks/kinds/all.ts';
import { BANDS } from '../music/accents.ts';
import { EFFECT_TRIGGERS } from '../finish/effects/triggers.ts';
import { RULE_FIELDS } from '../pegs/rules/all.ts';
import { ENTRANCE_KINDS } from '../finish/entrances/all.ts';
import { EFFECT_KINDS } from '../finish/effects/all.ts';
import { CURVE_NAMES } from '../finish/effects/curves.ts';
import { LOOK_KINDS } from '../finish/looks/all.ts';
import { EASE_NAMES } from '../finish/motion/eases.ts';
import { WAY_NAMES } from '../finish/motion/ways.ts';
import { MOVE_KINDS } from '../finish/moves/all.ts';
import { TRANSITION_KINDS } from '../finish/transitions/all.ts';
import { z } from 'zod';
import { LONGEST_FADE_S } from '../music/arrangement.ts';
import { LONGEST_SECTION_NAME } from './section-name.ts';
import { MONTAGE_VERSION } from './version.ts';

// Compiling checks at run time would need eval, which the pages' content policy forbids.
z.config({ jitless: true });

const id = z.string().min(1).max(64);
const seconds = z.number().min(0).max(86_400);
const colour = z.string().regex(/^#[0-9a-f]{6}$/, 'not a colour like #1b2733');

/** A moment of the song: a mark, or (where that is null) a time. Song seconds; for marks the last known place. */
const moment = z.object({ markId: id.nullable(), time: seconds });

/**
 * While something is there: from one moment to another, null for the montage's start and end. It comes over so many beats
 * after the first and goes over so many before the last.
 */
const span = z.object({
  from: moment.nullable(),
  to: moment.nullable(),
  rise: z.number().min(0).max(64),
  fall: z.number().min(0).max(64),
});

/** The longest montage, seconds. */
export const LONGEST_MONTAGE_S = 6 * 3600;
/** The most frames a second, of a montage and of the clips in it. */
const FASTEST = 240;

const rate = z
  .object({ num: z.int().min(1).max(240_000), den: z.int().min(1).max(1001) })
  .refine(({ num, den }) => num >= den && num <= FASTEST * den, { message: `not between 1 and ${FASTEST} frames a second` });
const side = z.int().min(16).max(8192).multipleOf(2);

const mark = z.object({
  id,
  kind: z.enum(MARK_KINDS),
  /** song seconds */
  time: seconds,
  origin: z.enum(['detected', 'tapped', 'hand', 'file']),
  /** how clearly it was heard, 0 to 1 */
  confidence: z.number().min(0).max(1).optional(),
  /** of a cue: its word or event */
  label: z.string().max(200).optional(),
  /** of an accent: where in the sound it is, and how strong, 0 to 1 */
  band: z.enum(BANDS).optional(),
  strength: z.number().min(0).max(1).optional(),
  /** nothing moves or replaces it */
  locked: z.boolean().optional(),
});

/** From which strength on the accents of each band count. */
const accentFloor = z.object({
  low: z.number().min(0).max(1.01),
  mid: z.number().min(0).max(1.01),
  high: z.number().min(0).max(1.01),
  voice: z.number().min(0).max(1.01),
});

const song = z.object({
  assetId: id,
  name: z.string().max(400),
  /** of the whole file, seconds */
  length: seconds,
  /** the stretches in use, song seconds */
  pieces: z
    .array(z.object({ from: seconds, to: seconds }))
    .min(1)
    .max(64)
    .refine((pieces) => pieces.reduce((sum, { from, to }) => sum + to - from, 0) <= LONGEST_MONTAGE_S, {
      message: 'longer than six hours',
    }),
  sections: z
    .array(z.object({ id, from: seconds, name: z.string().min(1).max(LONGEST_SECTION_NAME), energy: z.number().min(0).max(1).optional() }))
    .max(500),
  /** beats in a bar */
  metre: z.int().min(1).max(16),
  fadeIn: z.number().min(0).max(LONGEST_FADE_S),
  fadeOut: z.number().min(0).max(LONGEST_FADE_S),
  /** left out where nobody set it */
  accentFloor: accentFloor.optional(),
});

/** A stretch of a clip worth using, clip seconds on its frames' borders. */
const select = z.object({
  id,
  in: seconds,
  out: seconds,
  /** start of the frame where its action happens, or null where none was chosen */
  hit: seconds.nullable(),
});

const footage = z.object({
  assetId: id,
  kind: z.enum(['clip', 'photo']),
  name: z.string().max(400),
  width: z.int().min(1).max(32_768),
  height: z.int().min(1).max(32_768),
  /** of a clip: frames at its own rate; a photo has one */
  rate,
  frames: z.int().min(1).max(20_000_000),
  hasSound: z.boolean(),
  /** of a clip, in the order of time; where there are none, all of it is worth using */
  selects: z.array(select).max(2000),
  rating: z.int().min(0).max(5),
  note: z.string().max(2000),
  tags: z.array(z.string().min(1).max(40)).max(40),
  /** how its shots are framed when they are hung */
  framing: z.enum(['fill', 'fit']),
  /** what stays in the picture when its edges are cropped: parts of its width and height */
  focus: z.object({ x: z.number().min(0).max(1), y: z.number().min(0).max(1) }),
});

/** A sound effect on its own shelf. */
const effectSound = z.object({
  assetId: id,
  name: z.string().max(400),
  length: seconds,
  /** the moment that is to be heard on a mark, seconds */
  hit: seconds,
});

/** How the picture before a cut goes over into the one after it. */
const transition = z.object({
  kind: z.enum(TRANSITION_KINDS),
  /** how long it takes, beats */
  beats: z.number().gt(0).max(16),
  /** on which side of the cut it lies */
  place: z.enum(['before', 'over', 'after']),
  /** where it goes to; left out, to the left. Kinds that know no way pay no heed. */
  way: z.enum(WAY_NAMES).optional(),
});

/** How a cutaway comes and goes: within its own time. */
const passage = transition.omit({ place: true });

const peg = z.object({
  id,
  /** the mark it belongs to; null for a free peg */
  markId: id.nullable(),
  /** where a free peg is, song seconds; for others the last known place */
  time: seconds,
  /** frames after the mark; negative before */
  offset: z.int().min(-10_000).max(10_000),
  /** how far it lies on the way from its mark to the next beat, such as a half; left out where it is on the mark */
  part: z.number().gt(0).lt(1).optional(),
  origin: z.enum(['rule', 'hand']),
  /** it belongs to the over line and divides no slot */
  over: z.boolean().optional(),
  /** where it is left out, the pictures meet in a plain cut */
  transition: transition.optional(),
});

/** A frame of a clip that is seen when a mark is heard. */
const tie = z.object({ markId: id, source: seconds });

/** How the clip's time runs in its slot. Speeds are clip seconds a montage second, negative when it runs backwards. */
const retime = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('rate'),
    rate: z
      .number()
      .min(-20)
      .max(20)
      .refine((r) => Math.abs(r) >= 0.05, 'too slow'),
  }),
  /** so that it reaches `sourceOut` when the slot ends */
  z.object({ kind: z.literal('fit'), sourceOut: seconds }),
  /** one frame stands */
  z.object({ kind: z.literal('freeze') }),
  /** through the tied frames at their marks, at even speed between them or eased (monotone cubic) */
  z.object({
    kind: z.literal('tied'),
    sourceOut: seconds,
    ties: z.array(tie).max(64),
    ease: z.enum(['hard', 'eased']),
    /** speed at the slot's start and end, where it is to go over into the neighbours' */
    edges: z.object({ start: z.number().min(0).max(40), end: z.number().min(0).max(40) }).optional(),
  }),
]);

/** The most that a picture is enlarged and made smaller by hand. */
const zoom = z.number().min(0.1).max(12);

/** How a picture stands in the frame: which of its points lies in the middle (parts of its size), how large, how far turned (degrees). */
const view = z.object({ x: z.number().min(-2).max(3), y: z.number().min(-2).max(3), zoom, turn: z.number().min(-180).max(180) });

/** How a picture stands in films of another shape than the montage's: width to height, as "9:16". */
const shapeView = z.object({
  shape: z.string().regex(/^[1-9]\d{0,3}:[1-9]\d{0,3}$/, 'not a shape like 9:16'),
  framing: z.enum(['fill', 'fit']),
  view: view.optional(),
});

/** The frame travels over the picture. */
const move = z.object({
  kind: z.enum(MOVE_KINDS),
  strength: z.number().min(0).max(1),
  ease: z.enum(EASE_NAMES),
  /** null for the start and the end of the slot */
  from: moment.nullable(),
  to: moment.nullable(),
  /** of one that was drawn: from where to where */
  views: z.object({ from: view, to: view }).optional(),
  /** the fuller the section, the farther it goes */
  byEnergy: z.boolean().optional(),
});

/** What a picture is made to look like. */
const shotLook = z.object({
  kind: z.enum(LOOK_KINDS),
  strength: z.number().min(-1).max(1),
  /** of a table of colours: which */
  table: id.optional(),
});

const shot = z.object({
  id,
  assetId: id,
  startPeg: id,
  endPeg: id,
  /** clip seconds */
  sourceIn: seconds,
  retime,
  /** the clip counts as run out here, though there is more of it; clip seconds */
  until: seconds.optional(),
  /** what is seen where the clip has run out */
  whenShort: z.enum(['gap', 'hold']),
  framing: z.enum(['fill', 'fit']),
  /** level of the clip's own sound, 0 is off, 1 is as recorded */
  sound: z.number().min(0).max(4),
  /** what becomes of its sound when it does not run as recorded; left out, its pitch is kept */
  stretchedSound: z.enum(['pitch-kept', 'muted']).optional(),
  /** between two of the clip's frames both are seen, mixed */
  blend: z.boolean().optional(),
  /** filling and moving leave it where it is */
  locked: z.boolean().optional(),
  /** it covers what hangs below */
  over: z.boolean().optional(),
  /** of a cutaway: it lies on the second line, over the first one's */
  upper: z.boolean().optional(),
  /** of a cutaway: how much of it is seen over what lies below; left out, all */
  opacity: z.number().min(0.05).max(1).optional(),
  /** of a cutaway that is a picture in the picture: where its middle stands, and how wide it is; parts of the frame */
  inset: z.object({ x: z.number().min(0).max(1), y: z.number().min(0).max(1), size: z.number().min(0.08).max(1) }).optional(),
  /** of a cutaway: how it comes over what lies below, and goes */
  comes: passage.optional(),
  goes: passage.optional(),
  /** while its own sound is heard, the song is turned down */
  ducks: z.boolean().optional(),
  /** how it stands in the frame, where its framing alone does not say it */
  view: view.optional(),
  /** how it stands in other shapes, where that was said for one */
  shapeViews: z.array(shapeView).max(12).optional(),
  /** how its frame travels, in the order of time; left out, as the rule for moves says; none where it is to stand */
  moves: z.array(move).max(32).optional(),
  looks: z.array(shotLook).max(24).optional(),
  /** what lies beside it where it leaves some of the frame free: a colour, or itself, blurred; left out, black */
  border: z.union([z.literal('blurred'), colour]).optional(),
  /** why filling chose it, in a line */
  why: z.string().max(300).optional(),
});

/** Where pegs are hung. */
const pegRule = z.discriminatedUnion('kind', RULE_FIELDS);

/** A rule for one section; it sleeps where that section is gone. */
const sectionRule = z.object({ section: id, rule: pegRule });

/** Effects that fire on marks or cuts: of the picture, which die away, or a sound, whose hit is heard there. */
const effect = z.object({
  id,
  kind: z.enum(EFFECT_KINDS),
  /** of a sound: which of the montage's sounds */
  assetId: id.optional(),
  on: z.discriminatedUnion('kind', [
    z.object({ kind: z.literal('moment'), ...moment.shape }),
    /** of all the song or of one section (it sleeps where that is gone); without the marks or pegs of some ids */
    z.object({
      kind: z.literal('every'),
      what: z.enum(EFFECT_TRIGGERS),
      section: id.optional(),
      except: z.array(id).max(5000),
    }),
  ]),
  /** of a sound: its level, 1 is as recorded */
  strength: z.number().min(0).max(1),
  /** how long it takes to die away, beats; a sound is heard to its end */
  beats: z.number().gt(0).max(16),
  /** how it dies away, and which way it goes; left out, as its kind does */
  curve: z.enum(CURVE_NAMES).optional(),
  way: z.enum(WAY_NAMES).optional(),
  /** it flashes no more than three times a second */
  gentle: z.boolean().optional(),
  /** of a sound: over how long it comes and goes, seconds; left out, at once */
  fadeIn: z.number().min(0).max(LONGEST_FADE_S).optional(),
  fadeOut: z.number().min(0).max(LONGEST_FADE_S).optional(),
});

/** A look of all pictures: of the whole montage, of a section, or from one moment to another. */
const look = z.object({
  id,
  kind: z.enum(LOOK_KINDS),
  strength: z.number().min(-1).max(1),
  /** of a table of colours: which */
  table: id.optional(),
  /** it sleeps where that section is gone */
  section: id.optional(),
  span: span.optional(),
});

/** A table of colours as it was read from a .cube file, drawn to 17 colours along each edge. */
const table = z.object({
  id,
  name: z.string().min(1).max(200),
  /** three bytes a colour in base64; red runs fastest, then green, then blue */
  colours: z.string().regex(/^[A-Za-z0-9+/]{19652}$/, 'not 17 x 17 x 17 colours in base64'),
});

/** Bars above and below, or left and right. */
const letterbox = z.object({
  id,
  /** width to height of what is left of the picture */
  aspect: z.number().min(0.3).max(4),
  span,
});

/** The picture goes into a colour and out of it again. */
const fade = z.object({ id, colour, span });

/** How pictures move that nobody moved by hand: by turns, so that neighbours differ. */
const moveRule = z.object({
  what: z.enum(['photos', 'all']),
  kinds: z.array(z.enum(MOVE_KINDS)).min(1).max(8),
  strength: z.number().min(0).max(1),
  ease: z.enum(EASE_NAMES),
  byEnergy: z.boolean().optional(),
});

/** How a title looks, comes and goes: what a style keeps by name. */
const titleLook = z.object({
  /** a typeface that ships, or one of the montage's own by its file; left out, the plain one */
  face: id.optional(),
  /** height of its letters, a part of the picture's height */
  size: z.number().min(0.02).max(0.5),
  weight: z.enum(['light', 'bold']),
  colour: z.union([z.enum(['white', 'cream', 'coral', 'gold', 'ink']), colour]),
  /** how it comes and goes, and over how many beats where its kind does not say it */
  enter: z.enum(ENTRANCE_KINDS),
  enterBeats: z.number().min(0).max(64).optional(),
  /** of one whose words come on marks: on which */
  wordsOn: z.enum(EFFECT_TRIGGERS).optional(),
  /** from letter to letter, and from line to line, in sizes beyond what the typeface has */
  spacing: z.number().min(-0.1).max(1).optional(),
  leading: z.number().min(-0.4).max(1).optional(),
  /** a line around its letters: how wide, in sizes */
  outline: z.object({ width: z.number().gt(0).max(0.2), colour }).optional(),
  /** what it stands on */
  plate: z.object({ colour, opacity: z.number().min(0).max(1) }).optional(),
  /** left out, it has one */
  shadow: z.boolean().optional(),
});

/** A look of titles by name: all that wear it are changed together. */
const style = z.object({ id, name: z.string().min(1).max(60), look: titleLook });

/** A typeface that the editor brought in. */
const face = z.object({ assetId: id, name: z.string().min(1).max(200) });

/** A point of the line along which the song's or the clips' sound is turned up and down; 1 is as it is. */
const level = z.object({ id, of: z.enum(['song', 'clips']), at: moment, level: z.number().min(0).max(2) });

/** How the song gives way to the sound of clips that ask for it: by how much, dB, and over how many beats it goes and comes. */
const ducking = z.object({ by: z.number().min(0).max(40), beats: z.number().min(0).max(16) });

const title = titleLook.extend({
  id,
  text: z.string().min(1).max(400),
  from: moment,
  /** how long it stays, beats */
  beats: z.number().gt(0).max(256),
  place: z.enum(['top', 'middle', 'bottom']),
  /** the style that it wears; its look is that style's */
  style: id.optional(),
  /** where it ends in place of after its beats: at a moment, or at the cut after its start */
  until: z.union([moment, z.literal('cut')]).optional(),
  /** where the middle of its lines stands in place of `place`, parts of the picture */
  at: z.object({ x: z.number().min(0).max(1), y: z.number().min(0).max(1) }).optional(),
});

/** Parts of a montage that a dressing keeps as well. */
export const DRESSING_PARTS = { colour, ducking, effect, letterbox, look, moveRule, table, title, titleLook, transition };

/** One montage. Every edit is a pure function on it; what is not in it is derived from it. */
export const montageSchema = z.object({
  format: z.literal('bluster-montage'),
  version: z.literal(MONTAGE_VERSION),
  /** ids given out so far */
  lastId: z.int().min(0),
  shape: z.object({ width: side, height: side, rate }),
  song: song.nullable(),
  marks: z.array(mark).max(50_000),
  /** in story order */
  footage: z.array(footage).max(5000),
  sounds: z.array(effectSound).max(2000),
  pegs: z.array(peg).max(20_000),
  pegRule: pegRule.nullable(),
  /** where they are, the rule for all does not count */
  sectionRules: z.array(sectionRule).max(500),
  shots: z.array(shot).max(20_000),
  effects: z.array(effect).max(5000),
  titles: z.array(title).max(1000),
  styles: z.array(style).max(200),
  faces: z.array(face).max(40),
  levels: z.array(level).max(4000),
  ducking,
  looks: z.array(look).max(2000),
  tables: z.array(table).max(40),
  moveRule: moveRule.nullable(),
  /** the picture comes out of black at the start, and goes into it at the end; seconds */
  pictureFades: z.object({ in: z.number().min(0).max(LONGEST_FADE_S), out: z.number().min(0).max(LONGEST_FADE_S) }),
  fades: z.array(fade).max(500),
  letterboxes: z.array(letterbox).max(500),
  cut: z.object({ rule: z.enum(['nearest', 'never-late', 'never-early']), lead: z.int().min(-100).max(100) }),
});
