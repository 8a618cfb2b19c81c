import { Refusal, isRefusal } from '@bluster/core';

/** What goes to a worker and what comes back, by a name for each: `{ slow: { ask: Stretch; answer: Float32Array[] } }`. */
export type Requests = Readonly<Record<string, { readonly ask: unknown; readonly answer: unknown }>>;

interface Asked {
  readonly id: number;
  readonly what: string;
  readonly ask: unknown;
}
type Said =
  | { readonly id: number; readonly part: number }
  | { readonly id: number; readonly answer: unknown }
  | { readonly id: number; readonly problem: string; readonly refused: boolean };

/** The work was called off: nothing has to be said about it. */
export class CalledOff extends Error {}

interface Waiting {
  readonly resolve: (answer: unknown) => void;
  readonly reject: (error: Error) => void;
  readonly onPart: ((part: number) => void) | undefined;
}

/** Asks a worker for one thing after another, or several at once; it is started when it is first asked. */
export class WorkerRequests<R extends Requests> {
  private worker: Worker | null = null;
  private lastId = 0;
  private readonly waiting = new Map<number, Waiting>();

  constructor(private readonly start: () => Worker) {}

  /**
   * @param onPart told how much of it is done, 0 to 1
   * @throws Refusal where the worker refused, CalledOff after stop(), another Error where it failed
   */
  ask<N extends keyof R & string>(
    what: N,
    ask: R[N]['ask'],
    { transfer = [], onPart }: { readonly transfer?: Transferable[]; readonly onPart?: (part: number) => void } = {},
  ): Promise<R[N]['answer']> {
    const worker = (this.worker ??= this.started());
    const id = ++this.lastId;
    return new Promise((resolve, reject) => {
      this.waiting.set(id, { resolve, reject, onPart });
      const message: Asked = { id, what, ask };
      worker.postMessage(message, transfer);
    });
  }

  /** Whether a worker is there, with what it has kept from earlier requests. */
  get running(): boolean {
    return this.worker !== null;
  }

  /** Ends the worker and calls off what it was asked for. */
  stop(problem: Error = new CalledOff()): void {
    this.worker?.terminate();
    this.worker = null;
    const asked = [...this.waiting.values()];
    this.waiting.clear();
    for (const { reject } of asked) reject(problem);
  }

  private started(): Worker {
    const worker = this.start();
    worker.onmessage = ({ data }: MessageEvent<Said>) => {
      const asked = this.waiting.get(data.id);
      if (!asked) return;
      if ('part' in data) {
        asked.onPart?.(data.part);
        return;
      }
      this.waiting.delete(data.id);
      if ('answer' in data) asked.resolve(data.answer);
      else asked.reject(data.refused ? new Refusal(data.problem) : new Error(data.problem));
    };
    worker.onerror = (event) => this.stop(new Error(event.message));
    return worker;
  }
}

/** What a worker needs of the world around it. */
interface WorkerScope {
  onmessage: ((event: MessageEvent<Asked>) => void) | null;
  postMessage: (message: Said, transfer?: Transferable[]) => void;
}

type Answering<R extends Requests> = {
  readonly [N in keyof R]: (ask: R[N]['ask'], onPart: (part: number) => void) => R[N]['answer'];
};

/** In a worker: answers what a WorkerRequests on the page asks. */
export function answerRequests<R extends Requests>(answering: Answering<R>): void {
  const scope = self as unknown as WorkerScope;
  scope.onmessage = ({ data: { id, what, ask } }) => {
    let said = -1;
    try {
      const answer = answering[what]!(ask, (part) => {
        if (part - said > 0.01) scope.postMessage({ id, part: (said = part) });
      });
      scope.postMessage({ id, answer });
    } catch (error) {
      scope.postMessage({ id, problem: error instanceof Error ? error.message : String(error), refused: isRefusal(error) });
    }
  };
}
