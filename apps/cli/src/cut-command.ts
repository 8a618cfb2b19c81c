import { InvalidArgumentError, Option, type Command } from 'commander';
import { parseRate, type FrameRate } from '@bluster/core/time/rate';
import { FILL_ORDERS } from '@bluster/core/fill/orders/all';
import { beginStarter } from '@bluster/media/program/starter';
import type { CutOptions } from './cut.ts';
import { EVERY } from './every.ts';
import { stopWhenAsked } from './stopping.ts';

function size(text: string): { width: number; height: number } {
  const match = /^(\d{2,4})x(\d{2,4})$/.exec(text);
  const [width, height] = [Number(match?.[1]), Number(match?.[2])];
  if (!match || width < 16 || height < 16 || width > 8192 || height > 8192 || width % 2 || height % 2)
    throw new InvalidArgumentError('Give width x height in even pixels, such as 1280x720.');
  return { width, height };
}

function rate(text: string): FrameRate {
  try {
    return parseRate(text);
  } catch (error) {
    throw new InvalidArgumentError((error as Error).message);
  }
}

function whole(text: string): number {
  if (!/^\d{1,9}$/.test(text)) throw new InvalidArgumentError('Give a whole number.');
  return Number(text);
}

/** One line that is written over on a terminal, and one line a message elsewhere. */
function say(text: string): void {
  process.stderr.write(process.stderr.isTTY ? `\r\u001b[K${text}${text.startsWith('done') ? '\n' : ''}` : `${text}\n`);
}

/** What `bluster cut` is told. */
export function defineCut(command: Command): void {
  command
    .requiredOption('--song <file>', 'the song')
    .requiredOption('--footage <file...>', 'clips and photos, in story order')
    .addOption(new Option('--every <what>', 'where to cut').choices(Object.keys(EVERY)).makeOptionMandatory())
    .requiredOption('--out <film.mp4>', 'the film to write')
    .option('--size <WxH>', 'size in pixels', size, { width: 1280, height: 720 })
    .option('--fps <rate>', 'frames a second', rate, { num: 30, den: 1 })
    .addOption(
      new Option('--order <order>', 'order of the clips').choices(FILL_ORDERS.filter((order) => order !== 'picked')).default('story'),
    )
    .option('--seed <n>', 'for the shuffled order', whole, 1)
    .option('--marks <file>', 'marks to use instead of detection: times, labels, CSV, JAMS, MIDI or JSON')
    .option('--report <file.json>', 'write where every cut lies')
    .action(
      async (o: {
        song: string;
        footage: string[];
        every: string;
        out: string;
        size: { width: number; height: number };
        fps: FrameRate;
        order: CutOptions['order'];
        seed: number;
        marks?: string;
        report?: string;
      }) => {
        const { signal, code } = stopWhenAsked();
        await beginStarter();
        // Loaded only here: who made a slip of the pen should not wait for the exporter.
        const { cut } = await import('./cut.ts');
        try {
          await cut({ ...o, ...o.size, every: EVERY[o.every]!, rate: o.fps, say, signal });
        } catch (error) {
          if (!signal.aborted) throw error;
          say('stopped; nothing was written');
          process.exit(code());
        }
      },
    );
}
