import { CommandError } from '../document/command-error.ts';
import { sectionName } from '../document/section-name.ts';
import { command } from '../document/command.ts';
import type { Span } from '../document/montage.ts';
import type { SongPiece } from '../music/arrangement.ts';

/** The shortest stretch of a song that can carry a montage, seconds. */
export const SHORTEST_STRETCH_S = 0.5;

const isWhole = ({ from, to }: Span): boolean => from === null && to === null;

export const songCommands = {
  // Another song has other moments: marks and pegs go with the old one, and so does all that hung there.
  setSong: command<{ assetId: string; name: string; length: number }>('Choose the song', (montage, { assetId, name, length }) => ({
    ...montage,
    song: { assetId, name, length, pieces: [{ from: 0, to: length }], sections: [], metre: 4, fadeIn: 0, fadeOut: 0 },
    marks: [],
    pegs: [],
    pegRule: null,
    sectionRules: [],
    shots: [],
    effects: montage.effects.filter((e) => e.on.kind === 'every' && e.on.section === undefined),
    titles: [],
    levels: [],
    // What belonged to moments of the old song goes with them; what is for all of the montage stays.
    looks: montage.looks.filter((l) => l.section === undefined && (!l.span || isWhole(l.span))),
    fades: [],
    letterboxes: montage.letterboxes.filter((l) => isWhole(l.span)),
  })),

  setSongRange: command<{ pieces: readonly SongPiece[] }>('Set in and out of the song', (montage, { pieces }) => {
    if (!montage.song) throw new CommandError('There is no song yet. Choose one first.');
    const length = montage.song.length;
    for (const [i, piece] of pieces.entries()) {
      if (piece.from < 0 || piece.to > length + 1e-6 || piece.to - piece.from < SHORTEST_STRETCH_S)
        throw new CommandError(`A stretch of the song must be at least ${SHORTEST_STRETCH_S} s long and lie inside it.`);
      if (i > 0 && piece.from < pieces[i - 1]!.to) throw new CommandError('The stretches of the song must follow one another.');
    }
    if (pieces.length === 0) throw new CommandError('At least one stretch of the song must stay.');
    return { ...montage, song: { ...montage.song, pieces: pieces.map((p) => ({ ...p })) } };
  }),

  nameSection: command<{ id: string; name: string }>('Name a section', (montage, { id, name }) => {
    const { song } = montage;
    if (!song?.sections.some((s) => s.id === id)) throw new CommandError('That section is no longer there.');
    const clean = sectionName(name);
    if (clean === null) throw new CommandError('A section needs a name: a letter will do.');
    return { ...montage, song: { ...song, sections: song.sections.map((s) => (s.id === id ? { ...s, name: clean } : s)) } };
  }),

  setFades: command<{ fadeIn: number; fadeOut: number }>('Change the fades', (montage, { fadeIn, fadeOut }) => {
    if (!montage.song) throw new CommandError('There is no song to fade. Choose one first.');
    return { ...montage, song: { ...montage.song, fadeIn, fadeOut } };
  }),
};
