import type { Command } from 'commander';
import type { MarksFormat } from '@bluster/core';
import { findBeats, printDetection, type Wanted } from './beats.ts';
import { EXIT } from './usage.ts';

/** What `bluster beats` is told. */
export function defineBeats(command: Command): void {
  command
    .argument('<song>', 'a WAV, MP3, FLAC, OGG or M4A file')
    .option('--format <format>', 'how to print them', 'text')
    .option('--json', 'the same as --format json')
    .option('--beats', 'print beats')
    .option('--bars', 'print where bars start')
    .option('--accents', 'print accents')
    .option('--sections', 'print where sections start')
    .option('--drops', 'print drops')
    .action(async (song: string, { format, json, ...wanted }: Wanted & { format: MarksFormat; json?: boolean }) => {
      if (format !== 'text') {
        const { BEAT_FORMATS } = await import('./beat-formats.ts');
        if (!BEAT_FORMATS.includes(format))
          command.error(
            `error: option '--format <format>' argument '${String(format)}' is invalid. Allowed choices are ${BEAT_FORMATS.join(', ')}.`,
            { code: 'commander.invalidArgument', exitCode: EXIT.wrongUsage },
          );
      }
      const detection = await findBeats(song);
      // Who reads only the first lines has all that was wanted.
      process.stdout.on('error', (error: NodeJS.ErrnoException) => {
        if (error.code !== 'EPIPE') throw error;
      });
      process.stdout.write(await printDetection(detection, json ? 'json' : format, wanted));
      if (detection.verdict) process.stderr.write(`bluster: ${detection.verdict}\n`);
    });
}
