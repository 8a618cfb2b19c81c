// The daily round: types, lint, arrows and the quick unit tests, side by side. Files that were linted before as they are, are not
// linted again, though what they import may have changed: what that hides, and what is slow, waits for ./bluster test.
import { spawn } from 'node:child_process';
import { resolve } from 'node:path';

const root = resolve(import.meta.dirname, '..');
/** Looking through whole films and songs takes longer than all the rest together. */
const SLOW = 'lab/composer|music/(detect|track-beats|onset-strength|shortening|teaching)|footage/(hits|picture-changes|clip-summary)';

/** @param {string} name @param {string[]} args @returns {Promise<boolean>} whether it ended well */
function run(name, args) {
  return new Promise((done) => {
    const child = spawn('npm', ['run', '--silent', ...args], { cwd: root, stdio: ['ignore', 'pipe', 'pipe'] });
    let said = '';
    child.stdout.on('data', (chunk) => (said += chunk));
    child.stderr.on('data', (chunk) => (said += chunk));
    child.on('close', (code) => {
      process.stdout.write(code === 0 ? `${name}: passed\n` : `\n== ${name}\n${said}\n${name}: FAILED\n`);
      done(code === 0);
    });
  });
}

const started = Date.now();
// Two cores: what is longest begins first.
const [first, second] = await Promise.all([
  run('unit tests', ['jest', '--', '--selectProjects', 'core', '--maxWorkers=1', '--testPathIgnorePatterns', SLOW]),
  run('types', ['types']).then(async (types) => (await run('lint', ['lint'])) && types),
]);
process.stdout.write(`${first && second ? 'all well' : 'FAILED'} after ${Math.round((Date.now() - started) / 1000)} s\n`);
process.exit(first && second ? 0 : 1);
