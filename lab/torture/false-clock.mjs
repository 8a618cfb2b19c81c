// Loaded before the server (node --import): its clock goes wrong by what a file says, ms.
import { readFileSync } from 'node:fs';

const TrueDate = Date;
const off = () => {
  try {
    return Number(readFileSync(process.env.BLUSTER_FALSE_CLOCK ?? '', 'utf8')) || 0;
  } catch {
    return 0;
  }
};
/** Everything of the true clock, but for what time it is now. */
globalThis.Date = new Proxy(TrueDate, {
  construct: (Clock, words) => Reflect.construct(Clock, words.length === 0 ? [TrueDate.now() + off()] : words),
  get: (Clock, name) => (name === 'now' ? () => TrueDate.now() + off() : Reflect.get(Clock, name)),
});
