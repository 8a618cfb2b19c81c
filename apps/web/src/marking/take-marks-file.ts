import { toast } from 'sonner';
import { readMarks } from '@bluster/core';
import { useEditor } from '../document/editor.ts';
import { sayProblem } from '../interface/say-problem.ts';

/** Reads a file of marks, captions or lyrics and takes what is in it; what is wrong with it is said. */
export async function takeMarksFile(file: File): Promise<void> {
  try {
    const marking = readMarks(file.name, new Uint8Array(await file.arrayBuffer()));
    if (useEditor.getState().run({ do: 'takeMarking', marking }))
      toast(`${marking.marks.length} marks read from ${file.name}. ${marking.notes.join(' ')}`);
  } catch (problem) {
    sayProblem(problem, file.name);
  }
}
