import type { ChildProcess } from 'node:child_process';

/** A server of one's own on a free port. */
export interface OwnServer {
  /** its address */
  readonly base: string;
  readonly child: ChildProcess;
  /** where its data lie */
  readonly folder: string;
  readonly ended: Promise<{ readonly code: number | null; readonly signal: NodeJS.Signals | null }>;
  readonly stop: (signal?: NodeJS.Signals) => OwnServer['ended'];
}

export function ownServer(how?: { folder?: string; args?: string[]; node?: string[]; env?: Record<string, string> }): Promise<OwnServer>;
export function endServers(): void;
export function addressOf(child: ChildProcess): Promise<string>;
