import { spawn } from 'node:child_process';

/** Runs a program to its end and returns how long it took, seconds. Throws with what it said when it fails. */
export async function timed(command, args, options = {}) {
  const start = process.hrtime.bigint();
  await new Promise((resolve, reject) => {
    const child = spawn(command, args, { stdio: ['ignore', 'ignore', 'pipe'], ...options });
    let said = '';
    child.stderr.on('data', (chunk) => (said = (said + chunk).slice(-2000)));
    child.on('error', reject);
    child.on('close', (code) => (code === 0 ? resolve(undefined) : reject(new Error(`${command} ended with ${code}: ${said}`))));
  });
  return Number(process.hrtime.bigint() - start) / 1e9;
}

/**
 * Runs two things by turns, so that whatever else the machine does meets both alike.
 * @returns the middle of each one's times, seconds, and the middle of the ratios of neighbours
 */
export async function byTurns(rounds, a, b) {
  const times = [];
  for (let i = 0; i < rounds; i++) times.push([await a(), await b()]);
  const middle = (values) => [...values].sort((x, y) => x - y)[Math.floor(values.length / 2)];
  return { a: middle(times.map((t) => t[0])), b: middle(times.map((t) => t[1])), ratio: middle(times.map((t) => t[0] / t[1])) };
}
