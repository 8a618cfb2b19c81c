// Hot reload: the compiler watches, the server restarts on what it writes, and Vite serves the pages.
import { spawn, spawnSync } from 'node:child_process';
import { resolve } from 'node:path';

const root = resolve(import.meta.dirname, '..');
const bin = (name) => resolve(root, 'node_modules/.bin', name);
if (spawnSync('node', [resolve(root, 'scripts/build-kernel.mjs')], { stdio: 'inherit' }).status !== 0) process.exit(1);
if (spawnSync(bin('tsc'), ['-b'], { cwd: root, stdio: 'inherit' }).status !== 0) process.exit(1);
const children = [
  spawn(bin('tsc'), ['-b', '--watch', '--preserveWatchOutput'], { cwd: root, stdio: 'inherit' }),
  spawn('node', ['--watch', 'apps/server/dist/main.js', '--demo', '--no-web', ...process.argv.slice(2)], { cwd: root, stdio: 'inherit' }),
  spawn(bin('vite'), [], { cwd: resolve(root, 'apps/web'), stdio: 'inherit' }),
];
const stop = () => children.forEach((child) => child.kill('SIGTERM'));
process.on('SIGINT', stop);
process.on('SIGTERM', stop);
