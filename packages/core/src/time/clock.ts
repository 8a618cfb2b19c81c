/**
 * A time as m:ss.mmm. Negative times carry a minus sign.
 * @param seconds rounded to the millisecond
 */
export function clock(seconds: number): string {
  const ms = Math.round(Math.abs(seconds) * 1000);
  const sign = seconds < 0 && ms > 0 ? '-' : '';
  const rest = ms % 60000;
  return `${sign}${Math.floor(ms / 60000)}:${String(Math.floor(rest / 1000)).padStart(2, '0')}.${String(rest % 1000).padStart(3, '0')}`;
}

/**
 * A length as m:ss, rounded to the second.
 * @param seconds of 0 and more
 */
export function shortClock(seconds: number): string {
  const s = Math.round(seconds);
  return `${Math.floor(s / 60)}:${String(s % 60).padStart(2, '0')}`;
}
