import { spawnSync } from 'node:child_process';

function onPath() {
  const found = spawnSync('sh', ['-c', 'command -v chromium'], { encoding: 'utf8' });
  return found.status === 0 ? found.stdout.trim() : null;
}

/**
 * Path of Debian's Chromium: BLUSTER_CHROMIUM, else the one on the PATH, else installed through apt where we may.
 * Null when there is none; what to do then was said.
 */
export function ensureChromium() {
  const there = process.env.BLUSTER_CHROMIUM ?? onPath();
  if (there) return there;
  if (process.getuid?.() !== 0) {
    process.stderr.write('The browser tests need Chromium: run "apt-get install chromium" as root, then ./bluster test again.\n');
    return null;
  }
  process.stderr.write('installing chromium through apt ...\n');
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  for (const args of [['update'], ['install', '-y', '--no-install-recommends', 'chromium']]) {
    const { status, stderr } = spawnSync('apt-get', ['-q', ...args], { env, encoding: 'utf8', stdio: ['ignore', 'ignore', 'pipe'] });
    if (status !== 0) {
      process.stderr.write(
        `apt-get ${args[0]} failed: ${stderr}\nInstall Debian's package chromium by hand, then run ./bluster test again.\n`,
      );
      return null;
    }
  }
  return onPath();
}
