import { unpackAnimation } from '@bluster/media/photo/animation';
import { isFace, lookAtFace } from '@bluster/media/face/look-at-face';
import { photoKindOf, photoSize, photoTakenAt } from '@bluster/media/photo/photo';
import { UnusableMediaError, probe, type MediaProbe } from '@bluster/media/probe/probe';
import { LONGEST_SONG_S } from '@bluster/media/sound/sound';
import type { AssetInfo, AssetKind } from '@bluster/wire';

/** What a file is brought in as. */
export type AssetRole = 'song' | 'footage';

/** What a file is, as far as a glance tells. */
export interface FileLook {
  readonly kind: AssetKind;
  readonly info: AssetInfo;
  /** of what moves or sounds */
  readonly media?: MediaProbe;
}

const SHORTEST_SONG_S = 3;
const LONGEST_CLIP_S = 6 * 3600;
/** The longest sound effect, seconds. */
const LONGEST_EFFECT_S = 600;

/** Looks at a file that is to be brought in; an animated WebP becomes a film in its place. @throws UnusableMediaError with the reason and the way out */
export const lookAtFile = (path: string, name: string, role: AssetRole): Promise<FileLook> =>
  role === 'song' ? lookAtSong(path, name) : lookAtFootage(path, name);

async function lookAtSong(path: string, name: string): Promise<FileLook> {
  const media = await probe(path, name);
  if (!media.sound)
    throw new UnusableMediaError(
      `"${name}" has no sound in it, so it cannot be the song. Choose a WAV, MP3, FLAC, OGG, Opus, M4A, AAC, AIFF or WMA file, or a video with sound.`,
    );
  if (media.length > 0 && media.length < SHORTEST_SONG_S)
    throw new UnusableMediaError(
      `"${name}" is ${media.length.toFixed(1)} s long. A song needs at least ${SHORTEST_SONG_S} s for a beat to be found; choose a longer one.`,
    );
  if (media.length > LONGEST_SONG_S)
    throw new UnusableMediaError(`"${name}" is longer than ${LONGEST_SONG_S / 60} minutes. Cut out the part you want.`);
  return { kind: 'song', media, info: { length: media.length, codec: media.sound.codec, hasSound: true } };
}

async function lookAtFootage(path: string, name: string): Promise<FileLook> {
  const kind = await photoKindOf(path);
  if (kind) {
    const { width, height, pictures } = await photoSize(path, name);
    if (kind !== 'webp' || pictures < 2) return { kind: 'photo', info: { width, height, ...taken(await photoTakenAt(path)) } };
    await unpackAnimation(path, name);
  }
  if (await isFace(path)) return { kind: 'face', info: { family: await lookAtFace(path, name) } };
  const media = await probe(path, name);
  if (!media.video) {
    if (media.length > LONGEST_EFFECT_S)
      throw new UnusableMediaError(
        `"${name}" is ${Math.round(media.length / 60)} minutes of sound without a picture. Bring it in as the song in Song, or cut out the effect you want.`,
      );
    return { kind: 'sound', media, info: { length: media.length, codec: media.sound!.codec, hasSound: true } };
  }
  if (media.length > LONGEST_CLIP_S) throw new UnusableMediaError(`"${name}" is longer than six hours. Cut out the part you want.`);
  const { width, height, rate, frames, codec } = media.video;
  return {
    kind: 'clip',
    media,
    info: { length: media.length, width, height, rate, frames, codec, hasSound: media.sound !== null, ...taken(media.takenAt) },
  };
}

const taken = (takenAt: number | null): Pick<AssetInfo, 'takenAt'> => (takenAt === null ? {} : { takenAt });
