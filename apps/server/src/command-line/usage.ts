import { Refusal } from '@bluster/core/refusal/refusal';

export const USAGE = `usage: ./bluster project list
       ./bluster export PROJECT|BUNDLE [--preset h264] [--quality small|good|best] [--shape 9:16]... [--side PIXELS]
           [--from S] [--to S] [--loudness LUFS] [--name NAME] [--out FILE|FOLDER] [--report FILE.json]
       ./bluster template list
       ./bluster template TEMPLATE --footage FILE|FOLDER... [--song SONG] [--length all|as-long]
           [--order story|shuffle|match] [--seed N] [and what export takes]`;

/** Exit codes: bad input and wrong usage, as of the rest of the command line. */
export const EXIT = { ok: 0, badInput: 1, wrongUsage: 2 } as const;

/** Tells what is going on; what was asked for goes to standard output. */
export const say = (text: string): void => void process.stderr.write(`${text}\n`);

/** Reads an option that is a number; undefined where it was not given. @throws Refusal */
export function number(name: string, text: string | undefined): number | undefined {
  if (text === undefined) return undefined;
  const value = Number(text);
  if (text.trim() === '' || !Number.isFinite(value)) throw new Refusal(`--${name} takes a number, not "${text}".`);
  return value;
}

/** Options whose value is a negative number, joined with it: else it is taken for another option. */
export function joined(words: readonly string[]): string[] {
  return words.flatMap((word, i) => {
    if (/^-\d/.test(word) && words[i - 1]?.startsWith('--')) return [];
    const next = words[i + 1] ?? '';
    return word.startsWith('--') && /^-\d/.test(next) ? [`${word}=${next}`] : [word];
  });
}
