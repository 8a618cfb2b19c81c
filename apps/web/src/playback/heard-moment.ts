import { player } from './player.ts';
import { useTapSettings } from './tap-settings.ts';

/** How late whoever sits at this computer is, seconds; taken off everything that is done by ear. */
const lateness = (): number => useTapSettings.getState().lateness ?? 0;

/**
 * The moment of the montage that was meant by a key or click, seconds: what was heard when it went down, less this
 * computer's lateness while the song plays; the playhead where it stands, or where nothing went down.
 */
export function heardMoment(event: Event | undefined): number {
  if (!event || !player.state.playing) return player.time();
  return player.timeAt(event.timeStamp - 1000 * lateness());
}

/** The moment of the song file that was meant by a tap, seconds. @param eventMs the event's time stamp */
export function heardSongMoment(eventMs: number): number {
  return player.songTimeAt(eventMs, lateness());
}
