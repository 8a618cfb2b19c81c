import { useEffect } from 'react';
import { create } from 'zustand';

type Theme = 'light' | 'dark';
const KEY = 'bluster-theme';

const night = matchMedia('(prefers-color-scheme: dark)');

/** As it was chosen here, else as the system has it. */
function current(): Theme {
  const kept = localStorage.getItem(KEY);
  if (kept === 'light' || kept === 'dark') return kept;
  return night.matches ? 'dark' : 'light';
}

const useStore = create<{ theme: Theme; turn: () => void }>((set) => ({
  theme: current(),
  turn: () =>
    set(({ theme }) => {
      const next = theme === 'light' ? 'dark' : 'light';
      localStorage.setItem(KEY, next);
      return { theme: next };
    }),
}));

// Where nothing was chosen, it turns with the system's.
night.addEventListener('change', () => useStore.setState({ theme: current() }));

/** The day or night theme, kept in this browser. */
export function useTheme(): { theme: Theme; turn: () => void } {
  const store = useStore();
  useEffect(() => {
    document.documentElement.dataset['theme'] = store.theme;
  }, [store.theme]);
  return store;
}
