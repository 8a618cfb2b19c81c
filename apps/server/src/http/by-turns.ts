import type { NextFunction, Request, Response } from 'express';

/**
 * Begins requests one in each turn of the event loop, in the order in which they came. Node hands out all that come at one moment in one
 * turn: fifty uploads that begin together would hold up timers, sockets and whatever else is due for as long as all of them take.
 */
export function byTurns(): (request: Request, response: Response, next: NextFunction) => void {
  const waiting: NextFunction[] = [];
  const turn = (): void => {
    const begin = waiting.shift()!;
    if (waiting.length > 0) setImmediate(turn);
    begin();
  };
  return (_request, _response, next) => {
    if (waiting.push(next) === 1) setImmediate(turn);
  };
}
