import { spawn, type ChildProcess } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { EventEmitter, once } from 'node:events';
import { mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { connect, type Socket } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { guarded } from './guarded.ts';

/** A media program that runs, whoever started it. */
export type Program = EventEmitter &
  Pick<ChildProcess, 'stdin' | 'stdout' | 'stderr'> & {
    /** Ends it at once, or, where it has said something by now, asks it to end. */
    kill(how: 'SIGKILL' | 'SIGTERM'): boolean;
  };

/** Said on a program's first connection to have it end by itself; whatever is said there means that. */
const ASKED_TO_END = 'end\n';

/** What is to be started. */
export interface Order {
  readonly program: string;
  readonly words: readonly string[];
  readonly env: NodeJS.ProcessEnv;
  readonly folder: string;
}

/** What the starter is told first on each connection, as a line of JSON. */
export type Opening = { readonly id: string } & ({ readonly is: 'order'; readonly order: Order } | { readonly is: 'stdout' | 'stderr' });

/** What it says of a program at the end, as a line of JSON. */
export interface Ended {
  readonly code: number | null;
  readonly signal: NodeJS.Signals | null;
  /** where it could not be started */
  readonly problem?: string;
}

/** Where the starter listens; threads and processes that are started from here on find it there. */
export const PLACE = 'BLUSTER_STARTER';
const FOLDER = 'bluster-starter-';

// Tests run from the sources, but a program has to be JavaScript: theirs is the one that was built.
const PROGRAM = join(import.meta.dirname, import.meta.filename.endsWith('.ts') ? '../../dist/program' : '.', 'starter.process.js');

function hasEnded(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return false;
  } catch (error) {
    // Somebody else's may not be asked, and is none of ours.
    return (error as { code?: string }).code === 'ESRCH';
  }
}

/** Takes away what starters left whose process was killed. */
function sweep(): void {
  for (const name of readdirSync(tmpdir()).filter((n) => n.startsWith(FOLDER)))
    if (hasEnded(Number(name.slice(FOLDER.length).split('-')[0])))
      try {
        rmSync(join(tmpdir(), name), { recursive: true, force: true });
      } catch {
        // another's
      }
}

/**
 * Has media programs be started by a small process of their own from now on, in all threads that begin later too. Starting a program
 * (fork(2)) copies what the system knows of its starter's memory: in a process of 350 MB that takes 10 ms and, beside other work, 40,
 * in which the process does nothing else.
 * Where that cannot be, they are started from here as before.
 * @returns what ends it; it ends with this process, too
 */
export async function beginStarter(): Promise<() => void> {
  sweep();
  const folder = mkdtempSync(join(tmpdir(), `${FOLDER}${process.pid}-`));
  const place = join(folder, 'socket');
  let over = false;
  let child: ChildProcess;
  const begin = async (): Promise<void> => {
    const [program, words] = guarded(process.execPath, [PROGRAM, place], { memory: null });
    child = spawn(program, words, { stdio: ['pipe', 'pipe', 'inherit'] });
    const stdout = child.stdout as Socket;
    await Promise.race([
      once(stdout, 'data'),
      once(child, 'close').then(() => Promise.reject(new Error('what starts media programs did not begin'))),
    ]);
    // It holds up nobody who wants to stop.
    for (const one of [child, child.stdin as Socket, stdout]) one.unref();
    // Nobody but this process ends it: where something else did, another takes its place.
    child.once('exit', () => {
      if (!over) begin().catch((error: unknown) => console.error(error));
    });
  };
  const end = (): void => {
    over = true;
    if (process.env[PLACE] === place) delete process.env[PLACE];
    child.kill('SIGKILL');
    rmSync(folder, { recursive: true, force: true });
  };
  try {
    await begin();
    process.env[PLACE] = place;
  } catch (error) {
    console.error(error);
  }
  process.once('exit', end);
  return () => {
    process.off('exit', end);
    end();
  };
}

/** A program that the starter started. It is told of its life by one connection, and its output comes by two others. */
class FarProgram extends EventEmitter implements Program {
  readonly stdin = null;
  readonly stdout: Socket;
  readonly stderr: Socket;
  private readonly life: Socket;
  private ended: Ended | null = null;
  private open = 3;

  constructor(place: string, order: Order) {
    super();
    const id = randomUUID();
    const say = (opening: Opening): Socket => {
      const socket = connect(place);
      socket.write(`${JSON.stringify(opening)}\n`);
      socket.once('close', () => this.closed());
      return socket;
    };
    this.stdout = say({ id, is: 'stdout' });
    this.stderr = say({ id, is: 'stderr' });
    this.life = say({ id, is: 'order', order });
    let said = '';
    this.life.on('data', (chunk: Buffer) => (said += chunk.toString()));
    this.life.once('end', () => (this.ended = said === '' ? null : (JSON.parse(said) as Ended)));
    const all = [this.stdout, this.stderr, this.life];
    for (const socket of all)
      socket.on('error', (error) => {
        this.ended ??= { code: null, signal: null, problem: error.message };
        // Of three connections to a starter that is just beginning some may have come too early: the others would wait for them.
        for (const one of all) one.destroy();
      });
  }

  kill(how: 'SIGKILL' | 'SIGTERM'): boolean {
    if (how === 'SIGTERM') return this.life.write(ASKED_TO_END);
    // What was not asked for yet will never be started, so that its streams would have no end.
    if (this.life.connecting) for (const socket of [this.stdout, this.stderr]) socket.destroy();
    // Whoever started it ends it when nobody asks for it any more.
    this.life.destroy();
    return true;
  }

  private closed(): void {
    if (--this.open > 0) return;
    const { code, signal, problem } = this.ended ?? { code: null, signal: 'SIGKILL' };
    if (problem !== undefined && this.listenerCount('error') > 0) this.emit('error', new Error(problem));
    this.emit('close', problem === undefined ? code : 127, signal);
  }
}

/** Has the starter start a program that reads nothing; null where there is no starter. */
export function startElsewhere(order: Order): Program | null {
  const place = process.env[PLACE];
  return place ? new FarProgram(place, order) : null;
}
