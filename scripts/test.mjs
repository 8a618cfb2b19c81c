// Lint, types, unit tests, build and browser tests, one after the other; ends with one line over all of them.
import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { delimiter, join, resolve } from 'node:path';
import { BIN, ensureProgram } from './debian-programs.mjs';

const root = resolve(import.meta.dirname, '..');
const scratch = mkdtempSync(join(tmpdir(), 'bluster-suite-'));
let passed = 0;
let failed = 0;
let skipped = 0;

/** Runs one of package.json's scripts; true when it ended well. */
function script(name, args = [], env = {}) {
  process.stdout.write(`\n== ${name}\n`);
  const options = { cwd: root, stdio: /** @type {const} */ ('inherit'), env: { ...process.env, ...env } };
  return spawnSync('npm', ['run', '--silent', name, ...(args.length > 0 ? ['--', ...args] : [])], options).status === 0;
}

/** A step that either holds or does not. */
function check(name) {
  const good = script(name);
  if (good) passed++;
  else failed++;
  process.stdout.write(`${name}: ${good ? 'passed' : 'FAILED'}\n`);
  return good;
}

/** Adds up a suite's own count; a suite that left none, or that ran no test, has failed. */
function suite(name, args, env, file, count) {
  const good = script(name, args, env);
  const counts = existsSync(file) ? count(JSON.parse(readFileSync(file, 'utf8'))) : null;
  if (!counts || counts.passed + counts.failed === 0) {
    failed++;
    return;
  }
  passed += counts.passed;
  failed += counts.failed;
  skipped += counts.skipped;
  if (!good && counts.failed === 0) failed++;
}

const built = check('build');
check('lint');
check('types');
if (built) {
  // First, so that on a bare machine it is truly bare.
  check('bare');
  if (!ensureProgram('ffmpeg')) failed++;
  process.env.PATH += `${delimiter}${BIN}`;
  const unit = join(scratch, 'jest.json');
  suite('jest', ['--ci', '--maxWorkers=2', '--json', `--outputFile=${unit}`], {}, unit, (r) => ({
    passed: r.numPassedTests,
    failed: r.numFailedTests + r.numRuntimeErrorTestSuites,
    skipped: r.numPendingTests,
  }));
  const chromium = ensureProgram('chromium');
  if (chromium) {
    const pages = join(scratch, 'playwright.json');
    suite('e2e', [], { BLUSTER_CHROMIUM: chromium, PLAYWRIGHT_JSON_OUTPUT_NAME: pages }, pages, ({ stats }) => ({
      passed: stats.expected + stats.flaky,
      failed: stats.unexpected,
      skipped: stats.skipped,
    }));
  } else failed++;
}

process.stdout.write(`\n${passed} passed, ${failed} failed${skipped > 0 ? `, ${skipped} skipped` : ''}\n`);
process.exit(failed === 0 ? 0 : 1);
