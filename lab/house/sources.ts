import { readdirSync } from 'node:fs';
import { join } from 'node:path';

/** TypeScript sources below some folders of the repository, as paths from its root; without tests and what they are made with. */
export function sourcesIn(root: string, folders: readonly string[]): string[] {
  return folders.flatMap((folder) =>
    readdirSync(join(root, folder), { recursive: true, encoding: 'utf8' })
      .filter((file) => !/(^|\/)(node_modules|dist|testing)\//.test(file) && /\.tsx?$/.test(file) && !/\.(test|d)\.ts$/.test(file))
      .map((file) => `${folder}/${file}`),
  );
}
