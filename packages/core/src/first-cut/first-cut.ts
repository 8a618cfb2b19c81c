import { withPegsAtPace, type CutWish } from './pegs-at-pace.ts';
import { CommandError } from '../document/command-error.ts';
import { clipLength, WHOLE_CLIP } from '../document/footage-item.ts';
import type { Montage } from '../document/montage.ts';
import { fill } from '../fill/fill.ts';
import { candidateKey, FILL_DEFAULTS, type FillKnowledge, type FillOptions, type SelectLook } from '../fill/fill-options.ts';
import { knowledgeFrom, withFoundHits, type SeenMaterial } from '../fill/seen-material.ts';
import { withGapsClosed } from '../fill/gaps.ts';
import { finishCommands } from '../finish/commands.ts';
import { framesPerSecond } from '../time/rate.ts';
import { arrangedLength } from '../music/arrangement.ts';
import { scoreOf, type Slot } from '../score/score.ts';
import { shotCommands } from '../shots/shot-commands.ts';
import { songCommands } from '../song/commands.ts';
import { varietyOf } from '../settle/variety.ts';

/** What a first cut follows from, besides the montage. */
export interface FirstCutWish extends CutWish {
  readonly order: 'match' | 'story';
}

/** A montage that an editor goes on from, and what was done, in a few lines. */
export interface FirstCut {
  readonly montage: Montage;
  readonly said: readonly string[];
  /** how long the song had better be for this footage, seconds; null where it is not far too long */
  readonly betterLength: number | null;
}

/** The same clip comes again after so many slots at the earliest, where there are enough of them. */
const APART = 8;
/** So many of the clips count as calm. */
const CALM_PART = 1 / 3;
/** How far photos move, and how long the end fades, seconds. */
const PHOTO_STRENGTH = 0.25;
const FADE_OUT_S = 1.5;
/** A cut so near to a drop is on it, seconds. */
const ON_DROP_S = 0.05;
/** A song that is so many times longer than all that is worth using is better made shorter. */
const FAR_TOO_LONG = 3;
/** A song this many times as long as the footage shows each clip about twice, seconds at the least. */
const WELL_FED = 1.5;
const SHORTEST_SONG_S = 15;
/** How a photo counts, seconds. */
const PHOTO_S = 3;
/** How clear a hit counts that somebody set. */
const BY_HAND = 0.8;
/**
 * What the montage opens with: of the calmest third of the clips the one with the most fine detail, as wide shots have it; null where
 * nothing is known of them.
 */
function openingClip(montage: Montage, { looks }: FillKnowledge): string | null {
  const known = montage.footage.flatMap(({ assetId }) => {
    const own = Object.entries(looks).flatMap(([key, look]) => (key.startsWith(candidateKey(assetId, '')) ? [look] : []));
    const mean = (of: (look: SelectLook) => number): number => own.reduce((sum, look) => sum + of(look), 0) / Math.max(1, own.length);
    return own.length > 0 ? [{ assetId, movement: mean((l) => l.movement), detail: mean((l) => l.sharpness) }] : [];
  });
  const calm = known.sort((x, y) => x.movement - y.movement).slice(0, Math.ceil(known.length * CALM_PART));
  return calm.length > 0 ? calm.reduce((x, y) => (y.detail > x.detail ? y : x)).assetId : null;
}

/** The hit that is clearest and in the clip that moves most; undefined where none was found. */
function clearestHit(
  montage: Montage,
  { clips }: SeenMaterial,
  { looks }: FillKnowledge,
): { assetId: string; selectId: string; name: string } | undefined {
  const all = montage.footage.flatMap(({ assetId, name, rate, selects }) =>
    selects.flatMap(({ id, hit }) => {
      if (hit === null) return [];
      const frame = Math.round(hit * framesPerSecond(rate));
      const strength = clips[assetId]?.hits.find((p) => p.frame === frame)?.strength ?? BY_HAND;
      const movement = looks[candidateKey(assetId, id)]?.movement ?? looks[candidateKey(assetId, WHOLE_CLIP)]?.movement ?? 0;
      return [{ assetId, selectId: id, name, clear: strength * (0.5 + movement) }];
    }),
  );
  return all.length > 0 ? all.reduce((a, b) => (b.clear > a.clear ? b : a)) : undefined;
}

/** Another picture in a slot, unless what hangs there is locked. */
function hungIn(montage: Montage, slot: Slot, assetId: string, more: { selectId?: string; hit?: boolean } = {}): Montage {
  if (slot.placed?.shot.locked) return montage;
  const { selectId, hit } = more;
  return shotCommands.hangShot.carryOut(montage, {
    startPeg: slot.start.id,
    assetId,
    ...(selectId === undefined ? {} : { selectId }),
    ...(hit ? { point: { kind: 'hit' } } : {}),
    remedy: 'slow',
  });
}

/** What fills slots, with a clip in the first of them that all others are chosen to go with; what is locked there stays. */
function filledAround(montage: Montage, assetId: string | null, filled: (montage: Montage) => Montage): Montage {
  const opening = scoreOf(montage).slots[0]!;
  if (assetId === null || opening.placed?.shot.locked) return filled(montage);
  const hung = hungIn(montage, opening, assetId);
  const id = scoreOf(hung).slots[0]!.placed?.shot.id;
  if (id === undefined) return filled(montage);
  const held = shotCommands.lockShots.carryOut(hung, { ids: [id], locked: true });
  return shotCommands.lockShots.carryOut(filled(held), { ids: [id], locked: false });
}

/** The slot that begins on the first drop. */
function dropSlot(montage: Montage): Slot | undefined {
  const drops = montage.marks.filter((m) => m.kind === 'drop').map((m) => m.time);
  return scoreOf(montage).slots.find(({ start: { mark } }) => mark && drops.some((drop) => Math.abs(drop - mark.time) < ON_DROP_S));
}

/**
 * A first cut: hits are taken, pegs hung by the music's pace, slots filled, what is missing made up for, photos set moving and
 * the end faded out. Shots that are locked stay, and so do the pegs that hold them.
 * @param seen what is known of the song and the footage, for hits and the best match
 * @throws CommandError where there is no song, no mark or no footage
 */
export function firstCut(montage: Montage, wish: FirstCutWish, seen: SeenMaterial): FirstCut {
  if (!montage.song) throw new CommandError('A first cut needs a song. Choose one under Song.');
  if (montage.footage.length === 0) throw new CommandError('A first cut needs footage. Bring some in under Footage.');
  const said: string[] = [];
  let m = withPegsAtPace(withFoundHits(montage, seen), wish);
  const { slots } = scoreOf(m);
  const drops = slots.filter((s) => s.start.mark?.kind === 'drop').length;
  const shortest = Math.min(...slots.map((s) => s.length));
  const longest = Math.max(...slots.map((s) => s.length));
  said.push(
    `${slots.length} slots, from ${shortest.toFixed(1)} to ${longest.toFixed(1)} s: longer where the music is quiet, shorter where it is full${drops > 0 ? ', and a cut on every drop' : ''}.`,
  );

  const matches = wish.order === 'match';
  const knowledge = knowledgeFrom(m, seen);
  const apart = Math.min(APART, Math.max(1, Math.floor(m.footage.length / 2)));
  const options: FillOptions = {
    ...FILL_DEFAULTS,
    order: matches ? 'match' : 'story',
    from: 'hit-mark',
    tooShort: 'next',
    apart,
    seed: wish.seed,
  };
  if (matches) m = filledAround(m, openingClip(m, knowledge), (held) => fill(held, options, knowledge));
  else m = fill(m, options);
  if (matches) {
    const strongest = clearestHit(m, seen, knowledge);
    const first = dropSlot(m);
    if (strongest && first) {
      m = hungIn(m, first, strongest.assetId, { selectId: strongest.selectId, hit: true });
      said.push(`The clearest hit, of ${strongest.name}, falls on the first drop.`);
    }
    said.push('What moves most hangs where the music is fullest; the opening is calm, with much to see.');
  } else said.push('The footage hangs in story order.');

  m = withGapsClosed(m);
  const end = scoreOf(m).slots.at(-1)!;
  if (end.placed && !end.placed.shot.locked && end.placed.item.kind === 'clip')
    m = { ...m, shots: m.shots.map((s) => (s.id === end.placed!.shot.id ? { ...s, whenShort: 'hold' } : s)) };
  if (m.moveRule === null && m.footage.some((f) => f.kind === 'photo')) {
    m = finishCommands.setMoveRule.carryOut(m, {
      rule: { what: 'photos', kinds: ['closer', 'left', 'wider', 'right'], strength: PHOTO_STRENGTH, ease: 'in-and-out' },
    });
    said.push('Photos move gently, by turns.');
  }
  if (m.song!.fadeOut === 0) m = songCommands.setFades.carryOut(m, { fadeIn: m.song!.fadeIn, fadeOut: FADE_OUT_S });
  if (m.pictureFades.out === 0) m = finishCommands.setPictureFades.carryOut(m, { in: m.pictureFades.in, out: FADE_OUT_S });

  const usable = m.footage.reduce((sum, item) => sum + (item.kind === 'photo' ? PHOTO_S : clipLength(item)), 0);
  const length = arrangedLength(m.song!.pieces);
  const betterLength = length > FAR_TOO_LONG * usable ? Math.max(SHORTEST_SONG_S, Math.round(usable * WELL_FED)) : null;
  if (betterLength !== null)
    said.push(
      `The song is ${Math.round(length / usable)} times as long as the footage, so clips come again and again: made ${betterLength} s long it would do.`,
    );
  const foretold = Math.round(100 * varietyOf(m).predictable);
  said.push(`The length of a slot can be foretold in ${foretold} of 100.`);
  return { montage: m, said, betterLength };
}
