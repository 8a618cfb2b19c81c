import { spawn } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';

const root = resolve(import.meta.dirname, '..');

/** Waits until a server that was started with the demo project has prepared everything in it. @param child with its output piped */
export async function serverReady(child) {
  const { base, project } = await new Promise((found, failed) => {
    let said = '';
    child.stdout.on('data', (chunk) => {
      const match = /(http:\/\/127\.0\.0\.1:\d+)\/projects\/([0-9a-f-]+)/.exec((said += chunk));
      if (match) found({ base: match[1], project: match[2] });
    });
    child.on('close', () => failed(new Error('the server ended')));
  });
  for (;;) {
    const assets = await (await fetch(`${base}/api/projects/${project}/assets`)).json();
    const bad = assets.find((a) => a.state === 'failed');
    if (bad) throw new Error(`${bad.name}: ${bad.problem}`);
    if (assets.length > 0 && assets.every((a) => a.state === 'ready')) return { base, project };
    await new Promise((later) => setTimeout(later, 200));
  }
}

/** Starts a server of its own with the demo project, and waits until everything in it is prepared. */
export async function demoServer() {
  const env = { ...process.env, BLUSTER_DATA: mkdtempSync(join(tmpdir(), 'bluster-demo-')) };
  const args = [join(root, 'apps/server/dist/main.js'), '--demo', '--port', '0'];
  const child = spawn('node', args, { env, stdio: ['ignore', 'pipe', 'inherit'] });
  return { ...(await serverReady(child)), stop: () => child.kill('SIGTERM') };
}
