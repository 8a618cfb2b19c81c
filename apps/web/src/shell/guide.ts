import { create } from 'zustand';
import { persist } from 'zustand/middleware';

/** Whether views say what comes next; kept in the browser. It ends with the first film, or when it is put away. */
export const useGuide = create<{ readonly shown: boolean }>()(
  persist((): { shown: boolean } => ({ shown: true }), { name: 'bluster-guide' }),
);
