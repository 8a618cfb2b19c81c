import { carryOut, type Command } from '@bluster/core';
import { useEditor } from '../document/editor.ts';

/** Carries out a command; one that goes on with the drag before it takes its place, so that all of the drag is undone at once. */
export function oneStep(command: Command, again: boolean): void {
  const { run, amend } = useEditor.getState();
  if (again) amend((montage) => carryOut(montage, command));
  else run(command);
}
