import { ROUTES } from '@bluster/wire/routes';

const asked = new Map<string, Promise<Response>>();

/** Asks for what a project's views need first, before there is code to show it. */
export function askAhead(projectId: string): void {
  for (const path of [ROUTES.project(projectId), ROUTES.montage(projectId), ROUTES.assets(projectId)]) {
    const answer = fetch(path);
    answer.catch(() => undefined); // said by whoever needs it
    asked.set(path, answer);
  }
}

/** The answer to what was asked for ahead, for the first one who needs it. */
export function takeAnswer(path: string): Promise<Response> | undefined {
  const answer = asked.get(path);
  asked.delete(path);
  return answer;
}
