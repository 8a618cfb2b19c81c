import type { NextFunction, Request, Response } from 'express';

/**
 * Begins requests one in each turn of the event loop, in the order in which they came. Node hands out all that come at one moment in one
 * turn: fifty uploads that begin together would hold up timers, sockets and whatever else is due for as long as all of them take.
 */
export function byTurns(): (request: Request, response: Response, next: NextFunction) => void {
  const waiting: (() => void)[] = [];
  const turn = (): void => {
    const begin = waiting.shift()!;
    if (waiting.length > 0) setImmediate(turn);
    begin();
  };
  return ({ socket }, _response, next) => {
    // Who has gone while it waited is not heard to go any more by what would follow it until then.
    const begin = (): void => {
      if (!socket.destroyed) next();
    };
    if (waiting.push(begin) === 1) setImmediate(turn);
  };
}
