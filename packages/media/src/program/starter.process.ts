// Starts media programs for a larger process; see starter.ts. Each connection begins with a line that says what it is.
import { spawn, type ChildProcess } from 'node:child_process';
import { rmSync } from 'node:fs';
import { createServer, type Socket } from 'node:net';
import { dirname } from 'node:path';
import { standBack } from './guarded.ts';
import type { Ended, Opening, Order } from './starter.ts';

/** The connections of a program that is to be started, as far as they have come. */
interface Coming {
  order?: { readonly socket: Socket; readonly what: Order };
  stdout?: Socket;
  stderr?: Socket;
}
const coming = new Map<string, Coming>();
const running = new Set<ChildProcess>();

function start({ socket, what }: Required<Coming>['order'], stdout: Socket, stderr: Socket): void {
  const tell = (ended: Ended): void => void socket.end(JSON.stringify(ended));
  try {
    const child = spawn(what.program, what.words, { stdio: ['ignore', stdout, stderr], env: what.env, cwd: what.folder });
    standBack(child.pid);
    running.add(child);
    const ended = (how: Ended): void => {
      running.delete(child);
      tell(how);
    };
    child.once('error', ({ message }) => ended({ code: null, signal: null, problem: message }));
    child.once('exit', (code, signal) => ended({ code, signal }));
    socket.once('close', () => child.kill('SIGKILL'));
    socket.on('data', () => child.kill('SIGTERM'));
  } catch (error) {
    // One order that makes no sense may not end the programs of others.
    tell({ code: null, signal: null, problem: (error as Error).message });
  }
  // They are the program's now.
  stdout.destroy();
  stderr.destroy();
}

function take(opening: Opening, socket: Socket): void {
  const parts = coming.get(opening.id) ?? {};
  coming.set(opening.id, parts);
  if (opening.is === 'order') parts.order = { socket, what: opening.order };
  else parts[opening.is] = socket;
  const { order, stdout, stderr } = parts;
  if (!order || !stdout || !stderr) return;
  coming.delete(opening.id);
  if (order.socket.destroyed) {
    stdout.destroy();
    stderr.destroy();
  } else start(order, stdout, stderr);
}

const server = createServer((socket) => {
  let said = '';
  const hear = (chunk: Buffer): void => {
    said += chunk.toString();
    if (!said.endsWith('\n')) return;
    const opening = JSON.parse(said) as Opening;
    socket.off('data', hear);
    // That it is closed is heard; and of a program that runs, that it is asked to end.
    socket.resume();
    socket.once('close', () => coming.delete(opening.id));
    take(opening, socket);
  };
  socket.on('data', hear);
  socket.on('error', () => socket.destroy());
});
const place = process.argv[2]!;
// Of one that was killed before.
rmSync(place, { force: true });
server.listen(place, () => process.stdout.write('ready\n'));

// It lives as long as the one it works for, whatever is said to both of them at once.
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const) process.on(signal, () => undefined);
process.stdin.resume();
process.stdin.once('close', () => {
  for (const child of running) child.kill('SIGKILL');
  rmSync(dirname(place), { recursive: true, force: true });
  process.exit();
});
