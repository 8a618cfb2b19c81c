// ./bluster export, project and template: films of projects, bundles and templates without a page, over the same services.
import 'reflect-metadata';
import { parseArgs } from 'node:util';
import { isRefusal } from '@bluster/core/refusal/refusal';
import { EXIT, joined, say, USAGE } from './usage.ts';

const text = { type: 'string' } as const;
const OF_FILMS = {
  preset: text,
  quality: text,
  shape: { type: 'string', multiple: true },
  side: text,
  from: text,
  to: text,
  loudness: text,
  name: text,
  out: text,
  report: text,
} as const;
const OF_TEMPLATES = {
  footage: { type: 'string', multiple: true },
  song: text,
  length: text,
  order: text,
  seed: text,
} as const;

/** Several values after one option, as in --footage a b: each gets the option before it. */
function spread(words: readonly string[], option: string): string[] {
  const spreadOut: string[] = [];
  let open = false;
  for (const word of words) {
    if (word.startsWith('-')) open = word === option;
    else if (open && spreadOut.at(-1) !== option) spreadOut.push(option);
    spreadOut.push(word);
  }
  return spreadOut;
}

async function main(): Promise<number> {
  let parsed;
  try {
    parsed = parseArgs({
      allowPositionals: true,
      options: { ...OF_FILMS, ...OF_TEMPLATES },
      args: joined(spread(process.argv.slice(2), '--footage')),
    });
  } catch (error) {
    say(`${(error as Error).message}\n${USAGE}`);
    return EXIT.wrongUsage;
  }
  const [command, what, ...rest] = parsed.positionals;
  const ofTemplates = Object.keys(OF_TEMPLATES).some((option) => option in parsed.values);
  if (what !== undefined && rest.length === 0) {
    // What a command needs is loaded when it runs: whoever made a slip of the pen should not wait for the whole server.
    if (command === 'project' && what === 'list') return (await import('./projects.ts')).listProjects();
    if (command === 'template' && what === 'list') return (await import('./template.ts')).listTemplates();
    if (command === 'template' || command === 'export') (await import('./film-words.ts')).checkFilmWords(parsed.values);
    if (command === 'template') {
      const words = await (await import('./template-words.ts')).readTemplateWords(parsed.values);
      return (await import('./template.ts')).filmFromTemplate(what, words);
    }
    if (command === 'export' && !ofTemplates) return (await import('./films.ts')).exportFilms(what, parsed.values);
  }
  say(USAGE);
  return EXIT.wrongUsage;
}

try {
  process.exitCode = await main();
} catch (error) {
  const { code, message, stack } = error as { code?: string; message: string; stack?: string };
  const refused = isRefusal(error) || (error instanceof Error && 'getStatus' in error);
  say(
    `bluster: ${code === 'ENOSPC' ? 'The disk is full. Make room and try again.' : refused ? message : `something went wrong: ${stack ?? message}`}`,
  );
  process.exitCode = EXIT.badInput;
}
