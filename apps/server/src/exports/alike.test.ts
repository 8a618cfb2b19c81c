import { beforeAll, describe, expect, jest, test } from '@jest/globals';
import { join } from 'node:path';
import {
  EFFECTS,
  comesOver,
  EFFECT_KINDS,
  FACE_NAMES,
  ENTRANCE_KINDS,
  LOOKS,
  LOOK_KINDS,
  MOVE_KINDS,
  TRANSITIONS,
  TRANSITION_KINDS,
  UNDESCRIBED,
  WAY_NAMES,
  carryOut,
  emptyMontage,
  readCube,
  scoreOf,
  tableNamed,
  tableText,
  type Command,
  type FootageItem,
  type Montage,
} from '@bluster/core';
import { composeFrame, type ComposedLayer, type Cubes, type Dressing } from '@bluster/media/film/compose-frame';
import { filmFrames } from '@bluster/media/film/film-frames';
import { probe, type MediaProbe } from '@bluster/media/probe/probe';
import { ffmpeg, scratchFolder } from '@bluster/media/testing/made-media';
import { rememberedDecoders } from '@bluster/media/testing/remembered-decoders';
import { brightnessLikeness, brightnessOf, brightnessOfPlanes, paintedFrame, rgbaOf } from '@bluster/media/testing/painted-frame';

jest.setTimeout(240_000);

// The compositor exists twice: on a canvas for the preview, on planes of video for the film. Here both draw every kind of thing that a
// montage can be dressed in, and have to agree.

/** How alike the two are at least, dB of brightness. */
const ALIKE_DB = 40;

describe('the preview and the film draw alike', () => {
  const media = scratchFolder();
  const videos = new Map<string, MediaProbe['video']>();
  const paths = new Map<string, string>();
  const pathOf = (id: string): string => paths.get(id)!;
  const items: FootageItem[] = [];

  async function clip(id: string, source: string): Promise<void> {
    const path = join(media, `${id}.mp4`);
    const colours = 'scale=out_color_matrix=bt709:out_range=tv,format=yuv420p';
    ffmpeg('-f', 'lavfi', '-i', `${source},${colours}`, '-frames:v', '120', '-c:v', 'libx264', '-crf', '4', '-colorspace', 'bt709', path);
    paths.set(id, path);
    const { video } = await probe(path, id);
    videos.set(id, video);
    const { width, height, rate, frames } = video!;
    items.push({ assetId: id, kind: 'clip', name: id, width, height, rate, frames, hasSound: false, ...UNDESCRIBED });
  }

  beforeAll(async () => {
    // Soft shapes and colours, as pictures of things have; sharp patterns would measure how each scales, and nothing else.
    await clip('hill', 'testsrc2=s=320x180:r=30,gblur=sigma=1.6,eq=saturation=0.7');
    await clip('kite', 'mandelbrot=s=320x180:r=30,gblur=sigma=1.6,eq=saturation=0.7');
  });

  /** A table that swaps a little of red and blue and bends green. */
  const DUSK = ['LUT_3D_SIZE 3']
    .concat(
      [0, 0.5, 1].flatMap((b) =>
        [0, 0.5, 1].flatMap((g) => [0, 0.5, 1].map((r) => `${0.8 * r + 0.2 * b} ${g ** 1.3} ${0.8 * b + 0.2 * r}`)),
      ),
    )
    .join('\n');
  const dusk = tableText(readCube(DUSK).cube);

  /** Two seconds with one cut in their middle. */
  function brief(size: { width: number; height: number }): Montage {
    let m: Montage = { ...emptyMontage(), shape: { ...size, rate: { num: 30, den: 1 } } };
    m = carryOut(m, { do: 'setSong', assetId: 'song', name: 'song', length: 2 });
    m = carryOut(m, { do: 'takeBeatTimes', times: [0, 0.5, 1, 1.5], metre: 2 });
    m = carryOut(m, { do: 'addFootage', items });
    m = carryOut(m, { do: 'addTable', name: 'dusk', colours: dusk });
    m = carryOut(m, { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } });
    for (const [i, { assetId }] of items.entries()) m = carryOut(m, { do: 'hangShot', startPeg: scoreOf(m).slots[i]!.start.id, assetId });
    return m;
  }

  type Dressed = readonly [name: string, commands: (m: Montage) => readonly Command[], frames: readonly number[]];
  const shot = (m: Montage, n: number): string => scoreOf(m).slots[n]!.placed!.shot.id;
  const cut = (m: Montage): string => scoreOf(m).slots[1]!.start.id;
  const tableOf = (kind: string, m: Montage): { table?: string } => (kind === 'table' ? { table: m.tables[0]!.id } : {});

  const effects = EFFECT_KINDS.filter((kind) => EFFECTS[kind].at).flatMap((kind) =>
    (EFFECTS[kind].ways.length > 0 ? EFFECTS[kind].ways : [undefined]).map((way): Dressed => {
      const laid = (m: Montage): Command[] => [
        { do: 'addEffect', kind, what: 'bar' },
        ...(way ? [{ do: 'changeEffects' as const, ids: [`e${m.lastId + 1}`], way }] : []),
      ];
      return [`the effect ${kind} ${way ?? ''}`, laid, [30, 31]];
    }),
  );
  const transitions = TRANSITION_KINDS.flatMap((kind) =>
    (TRANSITIONS[kind].directed ? WAY_NAMES : (['left'] as const)).map((way): Dressed => [
      `the transition ${kind} ${TRANSITIONS[kind].directed ? way : ''}`,
      (m) => [{ do: 'setTransition', pegIds: [cut(m)], transition: { kind, beats: 2, place: 'over', way } }],
      [24, 33],
    ]),
  );
  const looks = LOOK_KINDS.flatMap((kind) =>
    (LOOKS[kind].least < 0 ? [0.6, -0.6] : [0.6]).flatMap((strength): Dressed[] => [
      [`the look ${kind} ${strength}`, (m) => [{ do: 'addLook', kind, strength, ...tableOf(kind, m) }], [10, 40]],
      [
        `the look ${kind} ${strength} of a shot`,
        (m) => [{ do: 'setShotLook', ids: [shot(m, 1)], kind, strength, ...tableOf(kind, m) }],
        [40],
      ],
    ]),
  );
  const moves = MOVE_KINDS.map((kind): Dressed => {
    const views = { from: { x: 0.3, y: 0.6, zoom: 1.8, turn: 0 }, to: { x: 0.6, y: 0.4, zoom: 1.2, turn: 10 } };
    const move = { kind, strength: 0.8, ease: 'in-and-out' as const, ...(kind === 'drawn' ? { views } : {}) };
    return [`the move ${kind}`, (m) => [{ do: 'setMoves', ids: [shot(m, 0), shot(m, 1)], moves: [move] }], [14, 45]];
  });
  const framings: Dressed[] = [
    ['a picture turned and moved', (m) => [{ do: 'setView', ids: [shot(m, 1)], view: { x: 0.3, y: 0.7, zoom: 1.6, turn: -17 } }], [40]],
    [
      'a small picture on a colour',
      (m) => [
        { do: 'setFraming', ids: [shot(m, 1)], framing: 'fit' },
        { do: 'setView', ids: [shot(m, 1)], view: { x: 0.5, y: 0.5, zoom: 0.7, turn: 0 } },
        { do: 'setBorder', ids: [shot(m, 1)], border: '#c8d8b8' },
      ],
      [40],
    ],
    [
      'a picture before itself, blurred',
      (m) => [
        { do: 'setFraming', ids: [shot(m, 1)], framing: 'fit' },
        { do: 'setView', ids: [shot(m, 1)], view: { x: 0.5, y: 0.5, zoom: 0.8, turn: 0 } },
        { do: 'setBorder', ids: [shot(m, 1)], border: 'blurred' },
      ],
      [40],
    ],
  ];
  const frames: Dressed[] = [
    [
      'a letterbox that opens',
      () => [{ do: 'addLetterbox', aspect: 2.39, span: { from: { time: 0.5 }, to: { time: 1.5 }, rise: 1, fall: 1 } }],
      [20, 40],
    ],
    ['bars at the sides', () => [{ do: 'addLetterbox', aspect: 0.5 }], [30]],
    [
      'a fade into a colour',
      () => [{ do: 'addFade', colour: '#284060', span: { from: { time: 0.5 }, to: { time: 1.5 }, rise: 1, fall: 1 } }],
      [20, 30, 40],
    ],
  ];
  const titles: Dressed[] = ENTRANCE_KINDS.map((enter): Dressed => {
    const id = (m: Montage): string => `t${m.lastId + 1}`;
    const worn = { outline: { width: 0.06, colour: '#102030' }, plate: { colour: '#c83828', opacity: 0.6 }, spacing: 0.1, shadow: null };
    const colour = '#f0c858';
    return [
      `a title that comes ${enter}`,
      (m) => [
        { do: 'addTitle', text: 'Kite day\non the down', at: { markId: m.marks[0]!.id }, beats: 3 },
        { do: 'changeTitle', id: id(m), enter, ...(enter === 'fade' ? worn : {}), colour },
      ],
      [4, 20],
    ];
  });
  const faces = FACE_NAMES.map((face): Dressed => [
    `a title in the typeface ${face}`,
    (m) => [
      { do: 'addTitle', text: 'Kite Åskväder', at: { markId: m.marks[0]!.id }, beats: 3 },
      { do: 'changeTitle', id: `t${m.lastId + 1}`, face, enter: 'cut', size: 0.2, colour: '#f0c858', weight: 'light' },
    ],
    [20],
  ]);
  /** A picture over the first shot, and what is done to it. */
  const cutaway = (to: Partial<Omit<Extract<Command, { do: 'setCutaways' }>, 'do' | 'ids'>>, upper = false) => {
    return (m: Montage): Command[] => {
      const hang: Command = { do: 'hangOver', from: { frame: 8 }, to: { frame: 26 }, assetId: 'kite', ...(upper ? { upper } : {}) };
      const there = new Set(m.shots.map((s) => s.id));
      const ids = carryOut(m, hang).shots.flatMap((s) => (there.has(s.id) ? [] : [s.id]));
      return [hang, { do: 'setCutaways', ids, ...to }];
    };
  };
  const cutaways: Dressed[] = [
    ['a cutaway that lets through what lies below', cutaway({ opacity: 0.6 }), [14]],
    ['a picture in the picture', cutaway({ inset: { x: 0.7, y: 0.3, size: 0.45 } }), [14]],
    ['a picture in the picture at the edge', cutaway({ inset: { x: 0.9, y: 0.9, size: 0.3 }, opacity: 0.8 }), [14]],
    ...TRANSITION_KINDS.filter(comesOver).map((kind): Dressed => [
      `a cutaway that comes and goes by ${kind}`,
      cutaway({ comes: { kind, beats: 0.5, way: 'left' }, goes: { kind, beats: 0.5, way: 'up' } }),
      [10, 23],
    ]),
    [
      'a cutaway over a cutaway',
      (m) => {
        const first: Command = { do: 'hangOver', from: { frame: 4 }, to: { frame: 22 }, assetId: 'kite' };
        return [first, ...cutaway({ inset: { x: 0.5, y: 0.5, size: 0.4 } }, true)(carryOut(m, first))];
      },
      [14],
    ],
  ];
  const everything: Dressed = [
    'everything at once',
    (m) => [
      { do: 'setMoves', ids: [shot(m, 0), shot(m, 1)], moves: [{ kind: 'closer', strength: 0.4, ease: 'out' }] },
      { do: 'setShotLook', ids: [shot(m, 0)], kind: 'warmth', strength: 0.5 },
      { do: 'addLook', kind: 'contrast', strength: 0.2 },
      { do: 'addLook', kind: 'vignette', strength: 0.5 },
      { do: 'addEffect', kind: 'punch', what: 'beat' },
      { do: 'addEffect', kind: 'shake', what: 'bar' },
      { do: 'addEffect', kind: 'dip', what: 'bar' },
      { do: 'setTransition', pegIds: [cut(m)], transition: { kind: 'push', beats: 1, place: 'over', way: 'up' } },
      { do: 'addLetterbox', aspect: 2.39 },
    ],
    [4, 26, 30, 33],
  ];

  /** Root of the mean square of how far red, green and blue are apart, levels. */
  function colourError(a: ArrayLike<number>, b: ArrayLike<number>): number {
    let sum = 0;
    for (let i = 0; i < a.length; i++) sum += (a[i]! - b[i]!) ** 2;
    return Math.sqrt(sum / a.length);
  }
  const sources = { picturePath: pathOf, video: (id: string) => videos.get(id) ?? null };
  // Most kinds need the same pictures of the same two clips.
  const open = rememberedDecoders();
  const cubes = (m: Montage): Cubes => Object.fromEntries(m.tables.map(({ id }) => [id, tableNamed(m, id)!]));
  const bare = new Map<string, Uint8ClampedArray>();
  /** A frame as it is painted before anything is done to it. */
  function bareFrame(start: Montage, n: number): Uint8ClampedArray {
    const key = `${start.shape.width} ${n}`;
    const frame = bare.get(key) ?? paintedFrame(start, n, pathOf);
    bare.set(key, frame);
    return frame;
  }

  // Which way something goes is the same in either shape: upright each goes one way.
  const oneWay = ([name]: Dressed): boolean => !/ (right|up|down)$/.test(name) || name.startsWith('the move');

  describe.each([
    ['16:9', { width: 320, height: 180 }, () => true],
    ['9:16', { width: 180, height: 320 }, oneWay],
  ] as const)('in %s', (_, size, asked) => {
    test.each(
      [...effects, ...transitions, ...looks, ...moves, ...framings, ...frames, ...titles, ...faces, ...cutaways, everything].filter(asked),
    )('%s', async (_name, commands, seen) => {
      const start = brief(size);
      const m = commands(start).reduce(carryOut, start);
      const from = Math.min(...seen);
      const films = new Map<number, Uint8Array>();
      const composer = {
        compose: (layers: readonly ComposedLayer[], dressing: Dressing) =>
          Promise.resolve(composeFrame(layers, dressing, size, { cubes: cubes(m), faces: {} })),
      };
      let at = from;
      for await (const planes of filmFrames(m, sources, { from, to: Math.max(...seen) + 1, composer, open })) {
        // What lies in it is written over by the next.
        if (seen.includes(at)) films.set(at, Uint8Array.from(planes));
        at++;
      }
      for (const n of seen) {
        const planes = films.get(n)!;
        const bright = brightnessOfPlanes(planes, size);
        const painted = paintedFrame(m, n, pathOf);
        const alike = brightnessLikeness(brightnessOf(painted), bright);
        expect(alike).toBeGreaterThan(ALIKE_DB);
        // Bare it is another picture by far, so that the comparison means something.
        const plain = bareFrame(start, n);
        if (brightnessLikeness(brightnessOf(plain), bright) < alike - 4) continue;
        const film = rgbaOf(planes, size);
        expect(colourError(plain, film)).toBeGreaterThan(2 * colourError(painted, film));
      }
    });
  });
});
