// Weighs a process and all that it started, four times a second, until its input ends; then it says the most that it found, bytes:
// node weigh.mjs PID. In a process of its own, since the system walks through all their memory for it.
import { familyMemory } from './family-memory.mjs';

const pid = Number(process.argv[2]);
let most = 0;
const turn = setInterval(() => (most = Math.max(most, familyMemory(pid))), 250);
process.stdin.resume();
process.stdin.once('end', () => {
  clearInterval(turn);
  process.stdout.write(`${most}\n`);
});
