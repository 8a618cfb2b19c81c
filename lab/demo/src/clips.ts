import { AIR_CLIPS } from './air-clips.ts';
import type { ClipScript } from './clip-script.ts';
import { HILL_CLIPS } from './hill-clips.ts';

/** Every clip of the demo. */
export const CLIPS: readonly ClipScript[] = [...HILL_CLIPS, ...AIR_CLIPS];
