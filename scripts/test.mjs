// Build, then lint and types beside the bare machine, then unit tests, then browser tests; ends with one line over all of them.
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { delimiter, join, relative, resolve } from 'node:path';
import { stripVTControlCharacters } from 'node:util';
import { BIN, ensureProgram } from './debian-programs.mjs';

const root = resolve(import.meta.dirname, '..');
/** So many lines of what a failed test said are said again at the end. */
const WORDS = 12;
const scratch = mkdtempSync(join(tmpdir(), 'bluster-suite-'));
let passed = 0;
let failed = 0;
let skipped = 0;
/** What failed, by name and first words: all that was said of it may be thousands of lines back. */
const names = [];
/** What went well only when it was tried again. */
const unsteady = [];

/** Runs one of package.json's scripts; true when it ended well. */
function script(name, args = [], env = {}) {
  process.stdout.write(`\n== ${name}\n`);
  const options = { cwd: root, stdio: /** @type {const} */ ('inherit'), env: { ...process.env, ...env } };
  return spawnSync('npm', ['run', '--silent', name, ...(args.length > 0 ? ['--', ...args] : [])], options).status === 0;
}

/** Seconds since something began, for those who wait. */
const since = (from) => `${Math.round((Date.now() - from) / 1000)} s`;

/** A step that either holds or does not; what it says is shown at its end, so that two can run side by side. */
async function check(name) {
  const from = Date.now();
  const child = spawn('npm', ['run', '--silent', name], { cwd: root, stdio: ['ignore', 'pipe', 'pipe'] });
  let said = '';
  for (const stream of [child.stdout, child.stderr]) stream.on('data', (chunk) => (said += chunk));
  const good = (await new Promise((done) => child.on('close', done))) === 0;
  if (good) passed++;
  else {
    failed++;
    names.push(name);
  }
  process.stdout.write(`\n== ${name}\n${said}${name}: ${good ? 'passed' : 'FAILED'}, ${since(from)}\n`);
  return good;
}

/** Adds up a suite's own count; a suite that left none, or that ran no test, has failed. */
function suite(name, args, env, file, count) {
  const from = Date.now();
  const good = script(name, args, env);
  process.stdout.write(`${[name, ...args.slice(-1)].join(' ')}: ${since(from)}\n`);
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

function missing(program) {
  failed++;
  names.push(`${program} is not there`);
}

const built = await check('build');
const sources = check('lint').then(() => check('types'));
// Before any program is installed, so that on a bare machine it is truly bare.
// The demo that it prepares is what the browser tests find ready.
process.env.BLUSTER_BARE_DATA = process.env.BLUSTER_E2E_DATA = join(scratch, 'data');
if (built) await check('bare');
await sources;
if (built) {
  if (!ensureProgram('ffmpeg')) missing('ffmpeg');
  process.env.PATH += `${delimiter}${BIN}`;
  const unit = join(scratch, 'jest.json');
  suite('jest', ['--ci', '--maxWorkers=2', '--json', `--outputFile=${unit}`], {}, unit, (r) => ({
    passed: r.numPassedTests,
    failed: r.numFailedTests + r.numRuntimeErrorTestSuites,
    skipped: r.numPendingTests,
    names: failedUnits(r),
  }));
  const chromium = ensureProgram('chromium');
  if (chromium) {
    for (const project of ['together', 'alone']) {
      const file = join(scratch, `${project}.json`);
      suite('e2e', [`--project=${project}`], { CI: '1', BLUSTER_CHROMIUM: chromium, PLAYWRIGHT_JSON_OUTPUT_NAME: file }, file, (r) => ({
        passed: r.stats.expected + r.stats.flaky,
        failed: r.stats.unexpected,
        skipped: r.stats.skipped,
        names: pages(r, 'unexpected'),
        unsteady: pages(r, 'flaky'),
      }));
    }
  } else missing('chromium');
}

for (const name of unsteady) process.stdout.write(`\nONLY AT THE SECOND TRY ${name}`);
for (const name of names) process.stdout.write(`\nFAILED ${name}`);
process.stdout.write(
  `\n${passed} passed, ${failed} failed${unsteady.length > 0 ? `, ${unsteady.length} at the second try` : ''}${skipped > 0 ? `, ${skipped} skipped` : ''}\n`,
);
process.exit(failed === 0 ? 0 : 1);
