import { sendFile } from '../../scripts/tus-upload.mjs';
import { mustAsk } from './asking.mjs';
import { montageOf } from './material.mjs';
import { idle } from './whole.mjs';

/**
 * A project with a song, a clip and a montage of them, ready to be filmed.
 * @param {string} base
 * @param {import('./ledger.mjs').Ledger} ledger
 * @param {string} name
 * @param {ReturnType<typeof import('./material.mjs').smallMaterial>} small
 * @returns {Promise<string>} its id
 */
export async function filledProject(base, ledger, name, { song, clip }) {
  const project = await ledger.newProject(base, name);
  await sendFile(base, { project, role: 'song', ...song });
  await sendFile(base, { project, role: 'footage', ...clip });
  await idle(base);
  const assets = await mustAsk(base, 'GET', `/api/projects/${project}/assets`);
  const ready = (kind) => assets.filter((asset) => asset.kind === kind);
  await ledger.save(base, project, montageOf(ready('song')[0], ready('clip')));
  return project;
}
