import { CommandError } from '../document/command-error.ts';
import { command } from '../document/command.ts';
import type { LevelPoint, Montage, Shot } from '../document/montage.ts';
import { momentAt, type At } from './moment-at.ts';

/** Where nothing is drawn, sound is as it is. */
const inOrder = (levels: readonly LevelPoint[]): LevelPoint[] => [...levels].sort((a, b) => a.at.time - b.at.time);

const within = (level: number): number => Math.max(0, Math.min(2, level));

export const soundCommands = {
  /** a point of the line along which a sound is turned up and down; 1 is as it is */
  addLevel: command<{ of: LevelPoint['of']; at: At; level: number }>('Draw the level', (montage, { of, at, level }) => {
    const moment = momentAt(montage, at);
    const there = montage.levels.find((p) => p.of === of && Math.abs(p.at.time - moment.time) < 1e-3);
    const lastId = there ? montage.lastId : montage.lastId + 1;
    const point: LevelPoint = { id: there?.id ?? `v${lastId}`, of, at: moment, level: within(level) };
    return { ...montage, lastId, levels: inOrder([...montage.levels.filter((p) => p !== there), point]) };
  }),

  moveLevel: command<{ id: string; at?: At; level?: number }>('Draw the level', (montage, { id, at, level }) => {
    const old = montage.levels.find((p) => p.id === id);
    if (!old) throw new CommandError('That point of the level is no longer there.');
    const point = { ...old, at: at ? momentAt(montage, at) : old.at, level: level === undefined ? old.level : within(level) };
    return { ...montage, levels: inOrder(montage.levels.map((p) => (p === old ? point : p))) };
  }),

  removeLevels: command<{ ids: readonly string[] }>('Remove points of the level', (montage, { ids }) => ({
    ...montage,
    levels: montage.levels.filter((p) => !ids.includes(p.id)),
  })),

  setDucking: command<Partial<Montage['ducking']>>('Change how the song gives way', (montage, { by, beats }) => ({
    ...montage,
    ducking: { by: by ?? montage.ducking.by, beats: beats ?? montage.ducking.beats },
  })),

  setDucks: command<{ ids: readonly string[]; ducks: boolean }>('Turn the song down under a clip', (montage, { ids, ducks }) => ({
    ...montage,
    shots: montage.shots.map((shot): Shot => {
      if (!ids.includes(shot.id)) return shot;
      const { ducks: _, ...rest } = shot;
      return ducks ? { ...rest, ducks: true } : rest;
    }),
  })),
};
