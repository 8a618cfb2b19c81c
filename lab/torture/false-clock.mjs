// Loaded before the server (node --import): its clock goes wrong by what a file says, ms.
import { readFileSync } from 'node:fs';

const TrueDate = Date;
const off = () => {
  try {
    return Number(readFileSync(process.env.BLUSTER_FALSE_CLOCK, 'utf8')) || 0;
  } catch {
    return 0;
  }
};
globalThis.Date = class extends TrueDate {
  constructor(...words) {
    super(...(words.length === 0 ? [TrueDate.now() + off()] : words));
  }

  static now() {
    return TrueDate.now() + off();
  }
};
