import { HOSTILE_INPUT, run, type RunOptions } from '../program/run.ts';

/**
 * When the frames of a film are shown, seconds, as its file says: counted one by one, in the order in which they are shown.
 * @throws MediaProgramError where it cannot be read, CancelledError
 */
export async function shownTimes(film: string, how: Pick<RunOptions, 'signal' | 'timeLimit'> = {}): Promise<number[]> {
  const wanted = ['-select_streams', 'v:0', '-show_entries', 'packet=pts_time', '-of', 'csv=p=0'];
  const said = (await run('ffprobe', ['-v', 'error', ...HOSTILE_INPUT, ...wanted, film], { ...how, outputLimit: 64 << 20 })).toString();
  return said
    .split('\n')
    .map(Number.parseFloat)
    .filter(Number.isFinite)
    .sort((a, b) => a - b);
}
