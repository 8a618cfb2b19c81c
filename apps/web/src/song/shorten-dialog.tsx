import { Play, Square } from 'lucide-react';
import { useMemo, useState } from 'react';
import {
  SHORTEST_ARRANGED_S,
  arrangedLength,
  moveJoin,
  pulse,
  shortClock,
  whatFallsOutside,
  type Proposal,
  type SongPiece,
} from '@bluster/core';
import { Button } from '../interface/button.tsx';
import { Dialog } from '../interface/dialog.tsx';
import { NumberField } from '../interface/number-field.tsx';
import { Progress } from '../interface/progress.tsx';
import { player } from '../playback/player.ts';
import { usePlayer } from '../playback/use-player.ts';
import { useMontage } from '../document/editor.ts';
import { outsideInWords, takeStretch, withRange } from './song-range.ts';
import { useListening } from '../marking/listening.ts';

const USUAL_WISH_S = 30;
/** How much is played before and after a join, seconds. */
const AROUND_JOIN_S = 4;

/** Ways to bring the song to a wished length: heard, compared, adjusted by bars, and taken. @param wish seconds, where one is proposed */
export function ShortenDialog({ wish, onClose }: { wish?: number | undefined; onClose: () => void }): React.JSX.Element {
  const montage = useMontage();
  const song = montage.song!;
  const [wished, setWished] = useState<number | null>(
    wish !== undefined && wish < song.length
      ? wish
      : song.length > USUAL_WISH_S
        ? USUAL_WISH_S
        : Math.max(SHORTEST_ARRANGED_S, Math.floor(song.length / 2)),
  );
  const [proposals, setProposals] = useState<readonly Proposal[] | null>(null);
  const [chosen, setChosen] = useState(0);
  const [pieces, setPieces] = useState<readonly SongPiece[]>([]);
  const [titlesAlong, setTitlesAlong] = useState(true);
  const outside = useMemo(() => (pieces.length > 0 ? whatFallsOutside(montage, withRange(montage, pieces)) : null), [montage, pieces]);
  const words = outside && outsideInWords(outside);
  const { part, at, cancel } = useListening();
  const playing = usePlayer((state) => state.playing);
  const beats = pulse(montage);
  const barTimes = beats.filter((b) => b.kind === 'bar').map((b) => b.time);

  const look = async (): Promise<void> => {
    if (wished === null) return;
    setProposals(null);
    const found = await useListening.getState().shorten(
      song.assetId,
      {
        beats: beats.map((b) => ({ time: b.time, bar: b.kind === 'bar' })),
        sections: song.sections,
        drops: montage.marks.filter((m) => m.kind === 'drop').map((m) => m.time),
        length: song.length,
      },
      wished,
    );
    setProposals(found);
    setChosen(0);
    setPieces(found[0]?.pieces ?? []);
  };
  const close = (): void => {
    player.pause();
    player.setPieces([{ from: 0, to: song.length }]);
    onClose();
  };
  /** Plays around a join of what is chosen; the last one is the ending. */
  const play = (join: number): void => {
    if (playing) {
      player.pause();
      return;
    }
    const place = arrangedLength(pieces.slice(0, join + 1));
    player.setPieces(pieces);
    player.seek(Math.max(0, place - AROUND_JOIN_S));
    void player.play();
  };
  const playStart = (): void => {
    if (playing) player.pause();
    else {
      player.setPieces(pieces);
      player.seek(0);
      void player.play();
    }
  };
  const move = (join: number, bars: number): void => {
    const moved = moveJoin(pieces, join, bars, barTimes);
    if (moved) setPieces(moved);
  };
  const take = (): void => {
    player.pause();
    if (takeStretch(pieces, titlesAlong)) close();
  };
  return (
    <Dialog open onClose={close} title="Make the song shorter" wide>
      <form
        className="flex items-center gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          void look();
        }}
      >
        <label className="flex items-center gap-2">
          About
          <NumberField
            label="Wished length, seconds"
            value={wished}
            from={SHORTEST_ARRANGED_S}
            to={Math.floor(song.length)}
            onChange={setWished}
            onNone={() => setWished(null)}
          />
          seconds, of {shortClock(song.length)}
        </label>
        <Button type="submit" look="main" disabled={part !== null || wished === null}>
          Look for ways
        </Button>
      </form>
      {part !== null && (
        <div className="mt-3 flex items-center gap-3" aria-live="polite">
          <span className="shrink-0 text-soft">{at}…</span>
          <Progress part={part} label={at} />
          <Button onClick={cancel}>Cancel</Button>
        </div>
      )}
      {proposals === null && part === null && (
        <p className="mt-3 text-soft">
          The song is joined at bar lines, where the music before and after is alike. The ending is kept. You hear every join before you
          take it, and taking it can be undone.
        </p>
      )}
      {proposals && proposals.length > 0 && (
        <>
          <ul className="mt-3 space-y-1" aria-label="Ways to shorten">
            {proposals.map((p, i) => (
              <li key={i}>
                <label
                  className={`flex cursor-pointer items-center gap-3 rounded-md border px-2.5 py-1.5 ${i === chosen ? 'border-spruce bg-cloth' : 'border-edge'}`}
                >
                  <input
                    type="radio"
                    name="way"
                    checked={i === chosen}
                    onChange={() => {
                      player.pause();
                      setChosen(i);
                      setPieces(p.pieces);
                    }}
                    className="accent-spruce"
                  />
                  <span className="figures w-12">{p.length.toFixed(1)} s</span>
                  <Overview pieces={p.pieces} length={song.length} />
                  <span className="flex-1 truncate text-soft">
                    {p.start} · {p.joins.length} {p.joins.length === 1 ? 'join' : 'joins'}
                  </span>
                  <b className="figures" title="How well the joins match, and how strong the start is">
                    {Math.round(p.rating * 100)}
                  </b>
                </label>
              </li>
            ))}
          </ul>
          <div className="mt-3 space-y-1.5" aria-label="Joins of the chosen way">
            <p className="flex items-center gap-2">
              <Button onClick={playStart}>{playing ? <Square size={12} /> : <Play size={12} />} From its start</Button>
              <span className="figures text-soft">{arrangedLength(pieces).toFixed(2)} s</span>
            </p>
            {pieces.slice(0, -1).map((piece, i) => (
              <p key={i} className="flex items-center gap-2" data-testid={`join-${i}`}>
                <Button onClick={() => play(i)}>
                  {playing ? <Square size={12} /> : <Play size={12} />} Join {i + 1}
                </Button>
                <span className="figures flex-1 text-[12px] text-soft">
                  {shortClock(piece.to)} → {shortClock(pieces[i + 1]!.from)}
                  {proposals[chosen]?.joins[i] && ` · ${Math.round(proposals[chosen].joins[i].likeness * 100)} % alike`}
                </span>
                <Button onClick={() => move(i, -1)} disabled={!moveJoin(pieces, i, -1, barTimes)}>
                  a bar earlier
                </Button>
                <Button onClick={() => move(i, 1)} disabled={!moveJoin(pieces, i, 1, barTimes)}>
                  a bar later
                </Button>
              </p>
            ))}
          </div>
        </>
      )}
      {outside && words && (
        <div className="mt-3 rounded-md border border-gold/60 bg-cloth p-2 text-[12.5px]" role="status" data-testid="falls-outside">
          <p>Outside of it: {words}. They sleep there, and wake when the whole song is used again.</p>
          {outside.titles.outside > 0 && (
            <label className="mt-1 flex items-center gap-1.5">
              <input type="checkbox" checked={titlesAlong} onChange={(e) => setTitlesAlong(e.target.checked)} className="accent-spruce" />
              Bring the titles along, each to a bar as far into the montage as it was
            </label>
          )}
        </div>
      )}
      <p className="mt-4 flex justify-end gap-2">
        <Button onClick={close}>Leave it as it is</Button>
        <Button look="main" onClick={take} disabled={pieces.length === 0}>
          Take this way
        </Button>
      </p>
    </Dialog>
  );
}

/** Which parts of the song stay, at a glance. */
function Overview({ pieces, length }: { pieces: readonly SongPiece[]; length: number }): React.JSX.Element {
  return (
    <svg width="150" height="10" viewBox="0 0 150 10" aria-hidden className="rounded bg-edge/60">
      {pieces.map((p) => (
        <rect
          key={p.from}
          x={(p.from / length) * 150}
          width={Math.max(1, ((p.to - p.from) / length) * 150)}
          height="10"
          fill="var(--spruce)"
        />
      ))}
    </svg>
  );
}
