import { nearestMark, pegAtTime, toSongTime, type Montage } from '@bluster/core';
import { montageNow, useEditor } from '../../document/editor.ts';
/** A live cut is meant for the mark that is near; farther away it is free. Seconds. */
const PEG_REACH_LIVE_S = 0.15;

const PEG_REACH_STILL_S = 0.04;

/** Hangs a peg at the playhead, or takes away the one that is there. */
export function togglePegAt(montage: Montage, time: number, playing: boolean): void {
  const { run, select } = useEditor.getState();
  if (!montage.song) return;
  const songTime = toSongTime(montage.song.pieces, time);
  const mark = nearestMark(montage, songTime, playing ? PEG_REACH_LIVE_S : PEG_REACH_STILL_S);
  const onMark = mark && montage.pegs.find((p) => p.markId === mark.id);
  const there = onMark ?? pegAtTime(montage, time);
  if (there) run({ do: 'removePeg', id: there.id });
  else if (run(mark ? { do: 'hangPeg', markId: mark.id } : { do: 'hangPeg', time: songTime }))
    select({ pegId: montageNow().pegs.at(-1)?.id ?? null });
}
