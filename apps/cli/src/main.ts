import { Command, CommanderError, InvalidArgumentError, Option } from 'commander';
import { parseRate, type FrameRate } from '@bluster/core/time/rate';
import { FILL_ORDERS } from '@bluster/core/fill/orders/all';
import type { MarksFormat } from '@bluster/core';
import type { Wanted } from './beats.ts';
import { EVERY } from './every.ts';
import type { CutOptions } from './cut.ts';
import { EXIT } from './usage.ts';

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

const program = new Command('bluster').exitOverride().showHelpAfterError(false);

program
  .command('beats')
  .description('print the beats of a song, one time in seconds a line')
  .argument('<song>', 'a WAV, MP3, FLAC, OGG or M4A file')
  .option('--format <format>', 'how to print them', 'text')
  .option('--json', 'the same as --format json')
  .option('--beats', 'print beats')
  .option('--bars', 'print where bars start')
  .option('--accents', 'print accents')
  .option('--sections', 'print where sections start')
  .option('--drops', 'print drops')
  .action(async (song: string, { format, json, ...wanted }: Wanted & { format: MarksFormat; json?: boolean }) => {
    // What a command needs is loaded when it runs: beats should be out before the exporter would be.
    if (format !== 'text') {
      const { BEAT_FORMATS } = await import('./beat-formats.ts');
      if (!BEAT_FORMATS.includes(format))
        program.error(
          `error: option '--format <format>' argument '${String(format)}' is invalid. Allowed choices are ${BEAT_FORMATS.join(', ')}.`,
          { code: 'commander.invalidArgument', exitCode: EXIT.wrongUsage },
        );
    }
    const { findBeats, printDetection } = await import('./beats.ts');
    const detection = await findBeats(song);
    process.stdout.write(await printDetection(detection, json ? 'json' : format, wanted));
    if (detection.verdict) process.stderr.write(`bluster: ${detection.verdict}\n`);
  });

program
  .command('cut')
  .description('cut footage to a song')
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
      const [{ cut }, { beginStarter }] = await Promise.all([import('./cut.ts'), import('@bluster/media/program/starter')]);
      await beginStarter();
      await cut({ ...o, ...o.size, every: EVERY[o.every]!, rate: o.fps, say });
    },
  );

try {
  await program.parseAsync();
} catch (error) {
  if (error instanceof CommanderError) process.exit(error.exitCode === 0 ? EXIT.ok : EXIT.wrongUsage);
  // Loaded only here: most runs end well, and should not wait for it.
  const { isSaid } = await import('./said-errors.ts');
  const full = (error as { code?: string }).code === 'ENOSPC';
  process.stderr.write(
    `bluster: ${full ? 'The disk is full. Make room and try again.' : isSaid(error) ? error.message : `something went wrong: ${(error as Error).stack}`}\n`,
  );
  process.exit(EXIT.badInput);
}
