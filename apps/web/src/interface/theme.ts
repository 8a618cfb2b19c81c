import { useEffect } from 'react';
import { create } from 'zustand';

type Theme = 'light' | 'dark';
const KEY = 'bluster-theme';

function initial(): Theme {
  const kept = localStorage.getItem(KEY);
  if (kept === 'light' || kept === 'dark') return kept;
  return matchMedia('(prefers-color-scheme: dark)').matches ? 'dark' : 'light';
}

const useStore = create<{ theme: Theme; turn: () => void }>((set) => ({
  theme: initial(),
  turn: () =>
    set(({ theme }) => {
      const next = theme === 'light' ? 'dark' : 'light';
      localStorage.setItem(KEY, next);
      return { theme: next };
    }),
}));

/** The day or night theme, kept in this browser. */
export function useTheme(): { theme: Theme; turn: () => void } {
  const store = useStore();
  useEffect(() => {
    document.documentElement.dataset['theme'] = store.theme;
  }, [store.theme]);
  return store;
}
