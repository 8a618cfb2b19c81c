import { framesPerSecond } from '../../time/rate.ts';
import { clipLength } from '../../document/footage-item.ts';
import type { FootageItem, Montage } from '../../document/montage.ts';
import { transitionsOf } from '../../finish/placed-transitions.ts';
import { placedMarks } from '../../marks/placed-marks.ts';
import { cutFormat } from './cut-format.ts';
import { cutList, type CutList, type CutPiece } from './cut-list.ts';
import { readOtio } from './read-otio.ts';
import { dressing, easedRetimes, titlesLost } from './dressed-with.ts';

/** A piece of an OpenTimelineIO document: its schema and what belongs to it. */
type Otio = { readonly OTIO_SCHEMA: string } & Readonly<Record<string, unknown>>;

const rational = (value: number, rate: number): Otio => ({ OTIO_SCHEMA: 'RationalTime.1', rate, value });
const range = (start: Otio, duration: Otio): Otio => ({ OTIO_SCHEMA: 'TimeRange.1', start_time: start, duration });
/** Times that come from seconds are kept to a hundredth of a frame. */
const round = (value: number): number => Math.round(value * 100) / 100;

/** Where a file lies: by its name alone, beside the document, unless it is known otherwise. */
type MediaPlace = (file: { readonly assetId: string; readonly name: string }) => string;

function mediaOf(item: FootageItem, montageRate: number, frames: number, placeOf: MediaPlace): Otio {
  const rate = item.kind === 'clip' ? framesPerSecond(item.rate) : montageRate;
  const count = item.kind === 'clip' ? Math.round(clipLength(item) * rate) : frames;
  return {
    OTIO_SCHEMA: 'ExternalReference.1',
    name: item.name,
    metadata: {},
    target_url: placeOf(item),
    available_range: range(rational(0, rate), rational(count, rate)),
  };
}

function effectsOf({ item, speed }: CutPiece): Otio[] {
  if (!item || item.kind === 'photo' || Math.abs(speed - 1) < 1e-9) return [];
  if (speed === 0) return [{ OTIO_SCHEMA: 'FreezeFrame.1', name: '', effect_name: 'FreezeFrame', time_scalar: 0, metadata: {} }];
  return [{ OTIO_SCHEMA: 'LinearTimeWarp.1', name: '', effect_name: 'LinearTimeWarp', time_scalar: speed, metadata: {} }];
}

function childOf(piece: CutPiece, rate: number, placeOf: MediaPlace): Otio {
  const common = { metadata: {}, effects: effectsOf(piece), markers: [], enabled: true };
  const duration = rational(piece.frames, rate);
  if (!piece.item) return { OTIO_SCHEMA: 'Gap.1', name: '', source_range: range(rational(0, rate), duration), ...common };
  const own = piece.item.kind === 'clip' ? framesPerSecond(piece.item.rate) : rate;
  // What runs backwards is named by its stretch of the media, from its earlier end on.
  const first = Math.max(0, piece.sourceIn + (Math.min(0, piece.speed) * piece.frames) / rate);
  return {
    OTIO_SCHEMA: 'Clip.2',
    name: piece.item.name,
    source_range: range(rational(round(first * own), own), duration),
    ...common,
    metadata: piece.sound > 0 ? { bluster: { sound: piece.sound } } : {},
    media_references: { DEFAULT_MEDIA: mediaOf(piece.item, rate, piece.frames, placeOf) },
    active_media_reference_key: 'DEFAULT_MEDIA',
  };
}

const track = (name: string, kind: 'Video' | 'Audio', children: readonly Otio[]): Otio => ({
  OTIO_SCHEMA: 'Track.1',
  name,
  kind,
  source_range: null,
  metadata: {},
  effects: [],
  markers: [],
  enabled: true,
  children,
});

/** The main line with its transitions between the clips. */
function mainChildren(montage: Montage, list: CutList, rate: number, placeOf: MediaPlace): Otio[] {
  const at = new Map(transitionsOf(montage).map((t) => [t.cut, t]));
  return list.main.flatMap((piece, i) => {
    const transition = i > 0 ? at.get(piece.frame) : undefined;
    const child = childOf(piece, rate, placeOf);
    if (!transition) return [child];
    const { kind } = transition.transition;
    const between: Otio = {
      OTIO_SCHEMA: 'Transition.1',
      name: kind,
      transition_type: kind === 'dissolve' ? 'SMPTE_Dissolve' : 'Custom_Transition',
      in_offset: rational(transition.cut - transition.from, rate),
      out_offset: rational(transition.to - transition.cut, rate),
      metadata: { bluster: { kind } },
    };
    return [between, child];
  });
}

/** The song's pieces, one after the other. */
function songChildren({ song }: Montage, rate: number, placeOf: MediaPlace): Otio[] {
  if (!song) return [];
  return song.pieces.map(({ from, to }) => ({
    OTIO_SCHEMA: 'Clip.2',
    name: song.name,
    source_range: range(rational(round(from * rate), rate), rational(round((to - from) * rate), rate)),
    metadata: {},
    effects: [],
    markers: [],
    enabled: true,
    media_references: {
      DEFAULT_MEDIA: {
        OTIO_SCHEMA: 'ExternalReference.1',
        name: song.name,
        metadata: {},
        target_url: placeOf(song),
        available_range: range(rational(0, rate), rational(round(song.length * rate), rate)),
      },
    },
    active_media_reference_key: 'DEFAULT_MEDIA',
  }));
}

/** Marks as markers; accents are too many to be of use there. */
function markersOf(montage: Montage, rate: number): Otio[] {
  return placedMarks(montage).flatMap(({ mark, time }) =>
    mark.kind === 'accent'
      ? []
      : [
          {
            OTIO_SCHEMA: 'Marker.2',
            name: mark.label ?? mark.kind,
            color: mark.kind === 'beat' ? 'WHITE' : mark.kind === 'bar' ? 'BLACK' : 'ORANGE',
            marked_range: range(rational(round(time * rate), rate), rational(0, rate)),
            comment: mark.kind,
            metadata: { bluster: { mark: mark.kind } },
          },
        ],
  );
}

export const otio = cutFormat({
  title: 'OpenTimelineIO',
  says: 'Every cut, retiming, transition and mark, with the media by their names, as an open exchange document (.otio).',
  ending: 'otio',
  type: 'application/json',
  write(montage, { name, placeOf: place = (file) => file.name }) {
    const placeOf: MediaPlace = (file) => place(file).split('/').map(encodeURIComponent).join('/');
    const list = cutList(montage);
    const rate = framesPerSecond(list.rate);
    const tracks: Otio = {
      OTIO_SCHEMA: 'Stack.1',
      name: 'tracks',
      source_range: null,
      metadata: {},
      effects: [],
      markers: markersOf(montage, rate),
      enabled: true,
      children: [
        track('Score', 'Video', mainChildren(montage, list, rate, placeOf)),
        ...list.over.map((pieces, i) =>
          track(
            i === 0 ? 'Over' : 'Over 2',
            'Video',
            pieces.map((piece) => childOf(piece, rate, placeOf)),
          ),
        ),
        track('Song', 'Audio', songChildren(montage, rate, placeOf)),
      ],
    };
    const timeline: Otio = {
      OTIO_SCHEMA: 'Timeline.1',
      name,
      global_start_time: null,
      metadata: { bluster: { width: montage.shape.width, height: montage.shape.height, rate: list.rate } },
      tracks,
    };
    return `${JSON.stringify(timeline, null, 2)}\n`;
  },
  read: (text) => readOtio(text),
  loses: (montage) => [...titlesLost(montage), ...dressing(montage), ...easedRetimes(montage)],
});
