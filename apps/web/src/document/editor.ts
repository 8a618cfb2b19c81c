import { sayProblem } from '../interface/say-problem.ts';
import { create } from 'zustand';
import { toast } from 'sonner';
import {
  amend,
  edit,
  emptyMontage,
  redo,
  startHistory,
  step,
  undo,
  type BarsALine,
  type Command,
  type History,
  type Montage,
} from '@bluster/core';

/** How the document on the screen stands against the one on the server. */
export type SaveState =
  | { readonly is: 'saved'; readonly at: number }
  | { readonly is: 'unsaved' }
  | { readonly is: 'saving' }
  | { readonly is: 'failed'; readonly problem: string }
  | { readonly is: 'conflict'; readonly current: { revision: number; savedAt: number; document: Montage } };

/** What is chosen on the screen; not part of the document. */
export interface Selection {
  readonly markIds: readonly string[];
  readonly pegId: string | null;
  /** the first peg of the chosen slot */
  readonly slotStart: string | null;
  /** first pegs of slots that are chosen besides it */
  readonly moreSlots: readonly string[];
  /** a stretch of the song, song seconds */
  readonly range: { readonly from: number; readonly to: number } | null;
}

export const NOTHING: Selection = { markIds: [], pegId: null, slotStart: null, moreSlots: [], range: null };

/** A cut that was set while it played, to be looked at afterwards. */
export interface LiveTrim {
  readonly pegId: string;
  readonly frame: number;
}

interface Editor {
  readonly projectId: string | null;
  readonly history: History;
  readonly revision: number;
  readonly save: SaveState;
  readonly selection: Selection;
  readonly barsALine: BarsALine;
  /** clips and photos picked in Footage, in the order in which they were picked */
  readonly picked: readonly string[];
  readonly liveTrims: readonly LiveTrim[];
  /** the section whose rule and slots are worked on; null for all of the song */
  readonly section: string | null;
  open: (projectId: string, montage: Montage, revision: number, savedAt: number, history?: History) => void;
  /** carries out a command; what cannot be done is said, and nothing changes */
  run: (command: Command) => boolean;
  /** several commands as one step that is undone at once */
  runAll: (title: string, work: (montage: Montage) => Montage) => boolean;
  /** changes the last step, so that what belongs together is undone together */
  amend: (work: (montage: Montage) => Montage) => boolean;
  undo: () => void;
  redo: () => void;
  select: (selection: Partial<Selection>) => void;
  setSave: (save: SaveState, revision?: number) => void;
  setBarsALine: (bars: BarsALine) => void;
  setPicked: (picked: readonly string[]) => void;
  setLiveTrims: (trims: readonly LiveTrim[]) => void;
  setSection: (id: string | null) => void;
}

/** The montage being edited, with its history. */
export const useEditor = create<Editor>((set, get) => {
  const take = (history: History): boolean => {
    if (history === get().history) return true;
    set((state) => ({ history, save: state.save.is === 'conflict' ? state.save : { is: 'unsaved' } }));
    return true;
  };
  const attempt = (work: () => History): boolean => {
    try {
      return take(work());
    } catch (problem) {
      sayProblem(problem);
      return false;
    }
  };
  return {
    projectId: null,
    history: startHistory(emptyMontage()),
    revision: 0,
    save: { is: 'saved', at: 0 },
    selection: NOTHING,
    barsALine: 4,
    picked: [],
    liveTrims: [],
    section: null,
    open: (projectId, montage, revision, savedAt, history = startHistory(montage)) =>
      set({
        projectId,
        history,
        revision,
        save: { is: 'saved', at: savedAt },
        selection: NOTHING,
        picked: [],
        liveTrims: [],
        section: null,
      }),
    run: (command) => attempt(() => edit(get().history, command)),
    runAll: (title, work) => attempt(() => step(get().history, work(get().history.now), title)),
    amend: (work) => attempt(() => amend(get().history, work(get().history.now))),
    undo: () => {
      const title = get().history.past.at(-1)?.title;
      if (title) toast(`Undone: ${title}`, { duration: 1500, id: 'undo' });
      take(undo(get().history));
    },
    redo: () => {
      const title = get().history.future[0]?.title;
      if (title) toast(`Done again: ${title}`, { duration: 1500, id: 'undo' });
      take(redo(get().history));
    },
    // Another slot alone is chosen unless it is said which others stay.
    select: (selection) =>
      set((state) => ({ selection: { ...state.selection, ...('slotStart' in selection ? { moreSlots: [] } : {}), ...selection } })),
    setSave: (save, revision) => set(revision === undefined ? { save } : { save, revision }),
    setBarsALine: (barsALine) => set({ barsALine }),
    setPicked: (picked) => set({ picked }),
    setLiveTrims: (liveTrims) => set({ liveTrims }),
    setSection: (section) => set({ section }),
  };
});

/** The document being edited. */
export const useMontage = (): Montage => useEditor((state) => state.history.now);
export const montageNow = (): Montage => useEditor.getState().history.now;
