// Composes the templates that ship: montages without pictures on the two songs of the demo material, each with a pace and a dress of its own.
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  ANALYSIS_RATE,
  DRESSINGS,
  OnsetMeter,
  carryOut,
  detectIn,
  emptyMontage,
  marksByRule,
  readMontage,
  scoreOf,
  templateOf,
  writeTemplate,
  type Command,
  type Montage,
  type PegRule,
} from '@bluster/core';
import { hearSound } from '@bluster/media/sound/sound';

const media = join(import.meta.dirname, '../../../demo/media');
const LANTERNS = 'lanterns-at-nine.mp3';

/** A montage that is written down step by step. */
class Draft {
  constructor(public montage: Montage) {}

  act(command: Command): this {
    this.montage = carryOut(this.montage, command);
    return this;
  }

  dress(name: string): this {
    return this.act({ do: 'wearDressing', dressing: DRESSINGS.find((d) => d.name === name)! });
  }

  /** The bar nearest to a time, song seconds. */
  bar(time: number): { markId: string } {
    const bars = marksByRule(this.montage, { kind: 'pulse', unit: 'bar', every: 1 });
    return { markId: bars.reduce((a, b) => (Math.abs(b.time - time) < Math.abs(a.time - time) ? b : a)).id };
  }

  from(section: string, nth = 0): number {
    return this.montage.song!.sections.filter((s) => s.name === section)[nth]!.from;
  }

  rules(all: PegRule, own: Readonly<Record<string, PegRule>> = {}): this {
    this.act({ do: 'hangByRule', rule: all });
    for (const { id, name } of this.montage.song!.sections) if (own[name]) this.act({ do: 'hangByRule', rule: own[name], section: id });
    return this;
  }

  title(text: string, time: number, beats: number, look: object): this {
    this.act({ do: 'addTitle', text, at: this.bar(time), beats });
    return this.act({ do: 'changeTitle', id: this.montage.titles.at(-1)!.id, ...look });
  }

  write(id: string, name: string, note: string): void {
    const montage = templateOf(this.montage);
    writeFileSync(join(media, `${id}.template.json`), writeTemplate({ name, note, montage }));
    console.log(`${name}: ${scoreOf(montage).slots.length} slots, ${scoreOf(montage).length.toFixed(1)} s`);
  }
}

/** The demo's song as it is marked there. */
function gust(): Draft {
  const demo = readMontage(JSON.parse(readFileSync(join(media, 'kite-day.montage.json'), 'utf8')));
  const { song, marks, lastId } = demo;
  return new Draft({ ...emptyMontage(), lastId, song: { ...song!, fadeIn: 0, fadeOut: 0 }, marks });
}

async function lanterns(): Promise<Draft> {
  const heard = new OnsetMeter(ANALYSIS_RATE);
  await hearSound(join(media, LANTERNS), (samples) => heard.push(samples));
  const { signal, onsets } = heard.finish();
  const detection = detectIn(signal, onsets);
  return new Draft(emptyMontage())
    .act({ do: 'setSong', assetId: LANTERNS, name: LANTERNS, length: detection.length })
    .act({ do: 'takeDetection', detection });
}

const shape = (width: number, height: number): Command => ({ do: 'setShape', shape: { width, height, rate: { num: 30, den: 1 } } });
const bars = (every: number): PegRule => ({ kind: 'pulse', unit: 'bar', every });
const beats = (every: number): PegRule => ({ kind: 'pulse', unit: 'beat', every });
const BIG = { size: 0.14, weight: 'bold' } as const;

gust()
  .act(shape(1920, 1080))
  .rules(bars(2), { drop: bars(1) })
  .dress('First light')
  .act({ do: 'setMoveRule', rule: { what: 'all', kinds: ['drift', 'closer', 'wider'], strength: 0.25, ease: 'in-and-out' } })
  .title('A MORNING\non the hill', 0, 6, { enter: 'fade', size: 0.12 })
  .title('name and day', 54.4, 5, { enter: 'fade', size: 0.07 })
  .act({ do: 'setFades', fadeIn: 0, fadeOut: 2 })
  .write('hill-morning', 'Hill morning', 'A minute, slow and wide: cuts on every second bar, photos and clips that drift.');

const gusts = gust().act(shape(1920, 1080));
gusts
  .rules(bars(1), {
    build: { kind: 'faster' },
    drop: { kind: 'pattern', bars: 1, steps: [true, false, true, true] },
    break: bars(2),
  })
  .dress('Gusts')
  .title('HERE IT COMES', gusts.from('build'), 4, { ...BIG, enter: 'words', enterBeats: 2 })
  .title('the whole day', gusts.from('drop', 1), 4, { ...BIG, enter: 'grow' })
  .act({ do: 'setFades', fadeIn: 0, fadeOut: 1.5 })
  .write('all-gusts', 'All the gusts', 'A minute of action: faster and faster into the drop, then three cuts a bar.');

const upright = gust().act(shape(1080, 1920));
upright
  .act({ do: 'setSongRange', pieces: [{ from: upright.from('build'), to: upright.from('break') }] })
  .rules(bars(1), { build: beats(2), drop: beats(1) })
  .dress('Kite tails')
  .title('hold on tight', upright.from('drop') - 2, 4, { ...BIG, enter: 'marks', wordsOn: 'beat', enterBeats: 0.25 })
  .act({ do: 'setFades', fadeIn: 0, fadeOut: 0.8 })
  .write('quick-upright', 'Quick and upright', 'Twenty-three seconds for a phone held upright: a cut on every beat from the drop on.');

const evening = (await lanterns()).act(shape(1920, 1080));
evening
  .rules(bars(1))
  .dress('Night fair')
  .act({ do: 'addLetterbox', aspect: 2.39, span: {} })
  .title('LANTERNS\nat nine', 1, 6, { enter: 'letters', enterBeats: 2 })
  .act({ do: 'setFades', fadeIn: 0, fadeOut: 2 })
  .write('lantern-evening', 'Lantern evening', 'Under a minute in three: a soft cut on every bar, bars above and below, lamps for letters.');
