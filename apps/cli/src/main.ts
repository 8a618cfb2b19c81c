import { Command, CommanderError } from 'commander';
import { EXIT } from './usage.ts';

/** What there is. Only what is asked for is loaded: beats should be out before the exporter would be. */
const COMMANDS = {
  beats: {
    does: 'print the beats of a song, one time in seconds a line',
    define: async () => (await import('./beats-command.ts')).defineBeats,
  },
  cut: { does: 'cut footage to a song', define: async () => (await import('./cut-command.ts')).defineCut },
};

// A command's name stands first, or after `help`.
const program = new Command('bluster').exitOverride().showHelpAfterError(false);
for (const [name, { does, define }] of Object.entries(COMMANDS)) {
  const command = program.command(name).description(does);
  if (process.argv.slice(2, 4).includes(name)) (await define())(command);
}

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
