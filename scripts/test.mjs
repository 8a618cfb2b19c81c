// Build beside lint; types and the unit tests of the core beside the bare machine; the tests of the server; then browser tests. Ends with
// one line over all of them.
import { spawn } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { delimiter, join, relative, resolve } from 'node:path';
import { stripVTControlCharacters } from 'node:util';
import { BIN, ensureProgram } from './debian-programs.mjs';

const root = resolve(import.meta.dirname, '..');
/** So many lines of what a failed test said are said again at the end. */
const WORDS = 12;
const scratch = mkdtempSync(join(tmpdir(), 'bluster-suite-'));
// Where the foreign folder lies is not to be looked for there.
process.env.BLUSTER_FOREIGN ??= join(tmpdir(), 'foreign');
// What tests make is put away with it, so that a computer that tests often does not fill up.
process.env.TMPDIR = scratch;
process.once('exit', () => rmSync(scratch, { recursive: true, force: true, maxRetries: 3 }));
for (const signal of ['SIGINT', 'SIGTERM']) process.once(signal, () => process.exit(1));
let passed = 0;
let failed = 0;
let skipped = 0;
/** What failed, by name and first words: all that was said of it may be thousands of lines back. */
const names = [];
/** What went well only when it was tried again. */
const unsteady = [];

/** Seconds since something began, for those who wait. */
const since = (from) => `${Math.round((Date.now() - from) / 1000)} s`;

/**
 * Runs one of package.json's scripts.
 * @param {{ args?: string[], env?: Record<string, string>, aside?: boolean, program?: string[] }} how aside: what it says is shown at its
 *   end, so that two can run side by side; program: what is run in place of the script
 * @returns whether it ended well
 */
async function script(name, how) {
  const {
    args = [],
    env = {},
    aside = false,
    program = ['npm', 'run', '--silent', name, ...(args.length > 0 ? ['--', ...args] : [])],
  } = how;
  const title = [name, ...args.slice(-1)].join(' ');
  const from = Date.now();
  if (!aside) process.stdout.write(`\n== ${title}\n`);
  const child = spawn(program[0], program.slice(1), {
    cwd: root,
    stdio: ['ignore', aside ? 'pipe' : 'inherit', aside ? 'pipe' : 'inherit'],
    env: { ...process.env, ...env },
  });
  let said = '';
  for (const stream of [child.stdout, child.stderr]) stream?.on('data', (chunk) => (said += chunk));
  const good = (await new Promise((done) => child.on('close', done))) === 0;
  process.stdout.write(`${aside ? `\n== ${title}\n${said}` : ''}${title}: ${good ? 'passed' : 'FAILED'}, ${since(from)}\n`);
  return good;
}

/** A step that either holds or does not. @param {string[]} [program] what is run in place of the script of that name */
async function check(name, program) {
  const good = await script(name, { aside: true, ...(program ? { program } : {}) });
  if (good) passed++;
  else {
    failed++;
    names.push(name);
  }
  return good;
}

/** Adds up a suite's own count, of the file that it leaves; a suite that left none, or that ran no test, has failed. */
async function suite(name, file, how, count) {
  const good = await script(name, how);
  const counts = existsSync(file) ? count(JSON.parse(readFileSync(file, 'utf8'))) : null;
  if (!counts || counts.passed + counts.failed === 0) {
    failed++;
    names.push(`${name}: no test ran`);
    return;
  }
  names.push(...counts.names);
  unsteady.push(...(counts.unsteady ?? []));
  passed += counts.passed;
  failed += counts.failed;
  skipped += counts.skipped;
  if (!good && counts.failed === 0) {
    failed++;
    names.push(`${name}: ended badly though every test passed`);
  }
}

/** The first lines of what was said, without the codes that colour it, indented. */
const firstWords = (said) =>
  stripVTControlCharacters(said ?? '')
    .split('\n')
    .filter((line) => line.trim() !== '')
    .slice(0, WORDS)
    .map((line) => `\n    ${line}`)
    .join('');

/** The unit tests and files that failed, of what Jest wrote down. */
const failedUnits = ({ testResults }) =>
  testResults.flatMap(({ name, status, message, assertionResults }) => {
    const tests = assertionResults
      .filter((one) => one.status === 'failed')
      .map((one) => `${relative(root, name)}: ${one.fullName}${firstWords(one.failureMessages[0])}`);
    return tests.length === 0 && status === 'failed' ? [`${relative(root, name)}: could not be run${firstWords(message)}`] : tests;
  });

/** The browser tests that ended so, of what Playwright wrote down, each with what was said at its first try. */
const pages = ({ suites = [], specs = [] }, status) => [
  ...specs
    .filter(({ tests }) => tests.some((one) => one.status === status))
    .map(({ file, title, tests }) => `${file}: ${title}${firstWords(tests[0].results[0]?.error?.message)}`),
  ...suites.flatMap((inner) => pages(inner, status)),
];

/** The unit tests of one of Jest's projects. */
function units(project, workers, aside) {
  const file = join(scratch, `${project}.json`);
  const args = ['--ci', `--maxWorkers=${workers}`, '--json', `--outputFile=${file}`, '--selectProjects', project];
  return suite('jest', file, { args, aside }, (r) => ({
    passed: r.numPassedTests,
    failed: r.numFailedTests + r.numRuntimeErrorTestSuites,
    skipped: r.numPendingTests,
    names: failedUnits(r),
  }));
}

/** The browser tests of one of Playwright's projects. */
function browser(project, chromium) {
  const file = join(scratch, `${project}.json`);
  const env = { CI: '1', BLUSTER_CHROMIUM: chromium, PLAYWRIGHT_JSON_OUTPUT_NAME: file };
  return suite('e2e', file, { args: [`--project=${project}`], env }, (r) => ({
    passed: r.stats.expected + r.stats.flaky,
    failed: r.stats.unexpected,
    skipped: r.stats.skipped,
    names: pages(r, 'unexpected'),
    unsteady: pages(r, 'flaky'),
  }));
}

function missing(program) {
  failed++;
  names.push(`${program} is not there`);
}

// Types are needed by the linter, and those of what is compiled to WebAssembly come with it.
await script('kernel', { aside: true });
const lint = check('lint');
// By the launcher, which knows then that nothing is left to build when it is asked for the demo.
const built = await check('build', [join(root, 'bluster'), 'build']);
// What needs no program of Debian's runs beside.
const sources = (async () => {
  await lint;
  await check('types:tests');
  if (built) await units('core', 1, true);
})();
// Before any program is installed, so that on a bare machine it is truly bare.
// The demo that it prepares is what the browser tests find ready.
process.env.BLUSTER_BARE_DATA = process.env.BLUSTER_E2E_DATA = join(scratch, 'data');
if (built) {
  await check('bare');
  if (!ensureProgram('ffmpeg')) missing('ffmpeg');
  process.env.PATH += `${delimiter}${BIN}`;
  await units('server', 2, true);
}
await sources;
if (built) {
  const chromium = ensureProgram('chromium');
  if (chromium) {
    await browser('together', chromium);
    await browser('alone', chromium);
  } else missing('chromium');
}

for (const name of unsteady) process.stdout.write(`\nONLY AT THE SECOND TRY ${name}`);
for (const name of names) process.stdout.write(`\nFAILED ${name}`);
process.stdout.write(
  `\n${passed} passed, ${failed} failed${unsteady.length > 0 ? `, ${unsteady.length} at the second try` : ''}${skipped > 0 ? `, ${skipped} skipped` : ''}\n`,
);
process.exit(failed === 0 ? 0 : 1);
