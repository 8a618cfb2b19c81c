import { create } from 'zustand';

/** The project whose montage is to go along to the song that comes in; null where none is. */
export const useAlong = create<{ readonly projectId: string | null }>(() => ({ projectId: null }));
