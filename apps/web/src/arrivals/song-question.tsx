import { create } from 'zustand';
import { shortClock } from '@bluster/core';
import { Button } from '../interface/button.tsx';
import { Dialog } from '../interface/dialog.tsx';
import type { AskSong, Candidate } from './sort-files.ts';

interface Question {
  readonly candidates: readonly Candidate[];
  readonly answer: (song: File | null) => void;
}

const useQuestion = create<{ readonly question: Question | null }>(() => ({ question: null }));

/** Asks on the page which of several sounds is the song. */
export const askSong: AskSong = (candidates) =>
  new Promise((resolve) =>
    useQuestion.setState({
      question: {
        candidates,
        answer: (song) => {
          useQuestion.setState({ question: null });
          resolve(song);
        },
      },
    }),
  );

/** The question which of the sounds that came together is the song; nothing while it is not asked. */
export function SongQuestion(): React.JSX.Element | null {
  const { question } = useQuestion();
  if (!question) return null;
  const { candidates, answer } = question;
  return (
    <Dialog open onClose={() => answer(null)} title="Which of these is the song?">
      <p className="text-soft">They are about as long as each other. The others go to the shelf of sounds.</p>
      <ul className="mt-3 space-y-1.5">
        {candidates.map(({ file, length }) => (
          <li key={file.name}>
            <button
              className="flex w-full items-baseline gap-3 rounded-lg border border-edge px-3 py-2 text-left hover:border-spruce hover:bg-cloth"
              onClick={() => answer(file)}
            >
              <span className="min-w-0 flex-1 truncate font-semibold">{file.name}</span>
              <span className="figures text-[12px] text-soft">{shortClock(length)}</span>
            </button>
          </li>
        ))}
      </ul>
      <p className="mt-4 flex justify-end">
        <Button onClick={() => answer(null)}>None of them</Button>
      </p>
    </Dialog>
  );
}
