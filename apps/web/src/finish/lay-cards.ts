import { ROUTES } from '@bluster/wire/routes';
import type { AssetAnswer } from '@bluster/wire';
import { mutate } from 'swr';
import { toast } from 'sonner';
import { carryOut, scoreOf, type Montage, type Slot } from '@bluster/core';
import { RequestError } from '../api/request.ts';
import { montageNow, useEditor } from '../document/editor.ts';
import { sayProblem } from '../interface/say-problem.ts';
import { cardFile, type CardGround } from './card-ground.ts';

/** Which cards are laid where. */
export interface CardWish {
  readonly ground: CardGround;
  /** first pegs of the slots, in order */
  readonly slots: readonly string[];
  /** what stands on them, one after the other; the others stay empty */
  readonly words: readonly string[];
  /** the style of the words; left out, they come from the middle outwards */
  readonly style?: string;
}

async function broughtIn(projectId: string, file: File): Promise<AssetAnswer> {
  const body = new FormData();
  body.append('file', file);
  const response = await fetch(`${ROUTES.assets(projectId)}?role=footage`, { method: 'POST', body });
  const answer = (await response.json()) as AssetAnswer & { message?: string };
  if (!response.ok) throw new RequestError(answer.message ?? 'The card could not be brought in. Try again.', response.status);
  await mutate(ROUTES.assets(projectId));
  return answer;
}

/** Waits until a file has been taken into the montage. */
function taken(assetId: string): Promise<void> {
  const isThere = (): boolean => montageNow().footage.some((f) => f.assetId === assetId);
  return new Promise((resolve) => {
    if (isThere()) return resolve();
    const stop = useEditor.subscribe(() => {
      if (!isThere()) return;
      stop();
      resolve();
    });
  });
}

/** On letters that nobody chose a colour for: dark on a light card, light on a dark one. */
const inkOn = (ground: string): 'ink' | 'cream' => {
  const [r, g, b] = [1, 3, 5].map((at) => parseInt(ground.slice(at, at + 2), 16)) as [number, number, number];
  return 0.2126 * r + 0.7152 * g + 0.0722 * b > 140 ? 'ink' : 'cream';
};

function written(montage: Montage, slot: Slot, text: string, { style, ground }: CardWish): Montage {
  const { markId, time } = { markId: slot.start.peg?.markId ?? null, time: slot.start.time };
  const id = `t${montage.lastId + 1}`;
  const at = markId === null ? { time } : { markId };
  const added = carryOut(montage, { do: 'addTitle', text, at, beats: 4 });
  const placed = carryOut(added, {
    do: 'changeTitle',
    id,
    place: 'middle',
    until: 'cut',
    enter: 'middle',
    size: 0.16,
    colour: inkOn(ground.from),
    shadow: false,
  });
  return style === undefined ? placed : carryOut(placed, { do: 'wearStyle', ids: [id], style });
}

/** Makes a card, brings it in among the footage and hangs it, with its words. One step to undo. */
export async function layCards(projectId: string, wish: CardWish): Promise<void> {
  try {
    const { id } = await broughtIn(projectId, await cardFile(wish.ground, montageNow().shape));
    await taken(id);
    useEditor.getState().runAll('Lay cards', (montage) => {
      let next = montage;
      for (const startPeg of wish.slots) next = carryOut(next, { do: 'hangShot', startPeg, assetId: id });
      const slots = scoreOf(next).slots.filter((s) => wish.slots.includes(s.start.id));
      for (const [i, text] of wish.words.entries()) if (slots[i]) next = written(next, slots[i], text, wish);
      return next;
    });
    toast(`${wish.slots.length} ${wish.slots.length === 1 ? 'card hangs' : 'cards hang'} now.`);
  } catch (problem) {
    sayProblem(problem);
  }
}
