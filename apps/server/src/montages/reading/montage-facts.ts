import { scoreOf, type Montage } from '@bluster/core';

/** A montage as the server keeps it: its text, and what the server has to know of it. Nobody needs the document itself. */
export interface MontageFacts {
  /** the document as JSON, in today's form */
  readonly text: string;
  readonly hasSong: boolean;
  readonly hasShots: boolean;
  /** every file of the song, the footage and the sounds */
  readonly assets: readonly string[];
  /** the files that a film of it reads */
  readonly shown: readonly string[];
  readonly cover: string | null;
  /** seconds */
  readonly length: number;
  /** of a frame, pixels */
  readonly width: number;
  readonly height: number;
  readonly slots: number;
  readonly filled: number;
}

/** What the server has to know of a montage. */
export function montageFacts(montage: Montage): MontageFacts {
  const { song, footage, sounds, faces, titles, shots, effects, shape } = montage;
  const score = scoreOf(montage);
  const placed = [...score.slots, ...score.over].flatMap((slot) => slot.placed?.item.assetId ?? []);
  const written = faces.filter(({ assetId }) => titles.some((t) => t.face === assetId)).map((f) => f.assetId);
  const fired = effects.flatMap((effect) => effect.assetId ?? []);
  return {
    text: JSON.stringify(montage),
    hasSong: song !== null,
    hasShots: shots.length > 0,
    assets: [...new Set([song, ...footage, ...sounds, ...faces].flatMap((item) => item?.assetId ?? []))],
    shown: [...new Set([...(song ? [song.assetId] : []), ...placed, ...fired, ...written])],
    cover: score.slots.find((slot) => slot.placed)?.placed?.item.assetId ?? footage[0]?.assetId ?? null,
    length: score.length,
    width: shape.width,
    height: shape.height,
    slots: score.slots.length,
    filled: score.slots.filter((slot) => slot.placed).length,
  };
}
