import { layLines, pulse, toSongTime } from '@bluster/core';
import { montageNow, useEditor } from '../document/editor.ts';
import { viewOf } from '../interface/action.ts';
import { player } from '../playback/player.ts';

const onSong = (): boolean => viewOf(location.pathname) === 'song';

/** Loops the line of the score under the playhead, or stops looping. */
export function toggleLoopLine(): void {
  if (player.state.loop) {
    player.setLoop(null);
    return;
  }
  const montage = montageNow();
  if (!montage.song) return;
  const { selection, barsALine } = useEditor.getState();
  if (selection.range && onSong()) {
    player.setLoop(selection.range);
    return;
  }
  const pieces = onSong() ? [{ from: 0, to: montage.song.length }] : montage.song.pieces;
  const now = player.time();
  const line = layLines(montage, pieces, barsALine).find((l) => now >= l.from && now < l.to);
  if (line) player.setLoop({ from: line.from, to: line.to });
}

/** Goes to the beat before or after the playhead. */
export function jumpBeat(direction: 1 | -1): void {
  const montage = montageNow();
  if (!montage.song) return;
  const now = player.time();
  const here = onSong() ? now : toSongTime(montage.song.pieces, now);
  const beats = pulse(montage);
  const next = direction === 1 ? beats.find((m) => m.time > here + 0.02) : beats.findLast((m) => m.time < here - 0.02);
  if (next) player.seekSong(next.time);
}
