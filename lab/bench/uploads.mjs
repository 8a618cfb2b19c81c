// How much memory the server takes while fifty files come in at once by the tus protocol and are prepared.
import { spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';

const root = resolve(import.meta.dirname, '../..');
const FILES = 50;
const TUS = { 'Tus-Resumable': '1.0.0' };
const base64 = (text) => Buffer.from(text).toString('base64');

/** Bytes that a process holds, the largest so far (Linux). */
const peakOf = (pid) => Number(/VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1]) * 1024;

export async function benchUploads() {
  const folder = mkdtempSync(join(tmpdir(), 'bluster-uploads-'));
  const child = spawn('node', [join(root, 'apps/server/dist/main.js'), '--port', '0'], {
    env: { ...process.env, BLUSTER_DATA: folder },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  try {
    const base = await new Promise((found) => {
      let said = '';
      child.stdout.on('data', (chunk) => {
        const match = /http:\/\/127\.0\.0\.1:\d+/.exec((said += chunk));
        if (match) found(match[0]);
      });
    });
    const json = { 'content-type': 'application/json' };
    const made = await fetch(`${base}/api/projects`, { method: 'POST', headers: json, body: JSON.stringify({ name: 'Fifty' }) });
    const { id } = await made.json();
    const film = readFileSync(join(root, 'demo/media/drum.mp4'));
    const send = async (n) => {
      // Bytes after the film's end make each file another one.
      const bytes = Buffer.concat([film, Buffer.from(`kite ${n}`)]);
      const metadata = `project ${base64(id)},role ${base64('footage')},filename ${base64(`kite-${n}.mp4`)}`;
      const begun = await fetch(`${base}/api/uploads`, {
        method: 'POST',
        headers: { ...TUS, 'Upload-Length': String(bytes.length), 'Upload-Metadata': metadata },
      });
      const sent = await fetch(`${base}${begun.headers.get('location')}`, {
        method: 'PATCH',
        headers: { ...TUS, 'Upload-Offset': '0', 'Content-Type': 'application/offset+octet-stream' },
        body: bytes,
      });
      if (sent.status !== 200) throw new Error(`an upload ended with ${sent.status}: ${await sent.text()}`);
    };
    await Promise.all(Array.from({ length: FILES }, (_, n) => send(n)));
    for (;;) {
      const assets = await (await fetch(`${base}/api/projects/${id}/assets`)).json();
      if (assets.length === FILES && assets.every((a) => a.state === 'ready')) break;
      if (assets.some((a) => a.state === 'failed')) throw new Error(assets.find((a) => a.state === 'failed').problem);
      await new Promise((later) => setTimeout(later, 500));
    }
    return [{ what: `memory of the server, ${FILES} uploads at once`, value: peakOf(child.pid) / 1e6, unit: ' MB', limit: 600 }];
  } finally {
    child.kill('SIGTERM');
    rmSync(folder, { recursive: true, force: true });
  }
}
