import { isDeepStrictEqual } from 'node:util';
import { carryOut, emptyMontage, readMontage } from '../../packages/core/dist/index.js';
import { ask, mustAsk } from './asking.mjs';
import { Broken } from './tally.mjs';

const plain = (value) => JSON.parse(JSON.stringify(value));

/** A montage with nothing but a song of a minute. */
export const withSong = () => carryOut(emptyMontage(), { do: 'setSong', assetId: 'song', name: 'song', length: 60 });

/** @typedef {{ name: string, revision: number, document: any, onItsWay: object[] }} Acknowledged */

/** What a server has acknowledged, project by project. What was on its way when it was lost may be there or not. */
export class Ledger {
  constructor() {
    /** @type {Map<string, Acknowledged>} */
    this.projects = new Map();
  }

  /**
   * A project with a song in its document, so that things can be put somewhere.
   * @returns {Promise<string>} its id
   */
  async newProject(base, name) {
    const { id } = await mustAsk(base, 'POST', '/api/projects', { name });
    this.projects.set(id, { name, revision: 1, document: plain(emptyMontage()), onItsWay: [] });
    await this.save(base, id, withSong());
    return id;
  }

  /** Saves; true where it was acknowledged. @throws Broken where it was refused for another reason than a full disk */
  async save(base, id, document) {
    const project = /** @type {Acknowledged} */ (this.projects.get(id));
    const sent = plain(document);
    project.onItsWay.push(sent);
    const { status, answer, text } = await ask(base, 'PUT', `/api/projects/${id}/montage`, { revision: project.revision, document: sent });
    if (status === 200) {
      Object.assign(project, { revision: answer.revision, document: sent, onItsWay: [] });
      return true;
    }
    if (status === 409) throw new Broken(`a save of ${id} was refused as a conflict, and nobody else saves: ${text.slice(0, 200)}`);
    if (status !== 0 && status !== 507) throw new Broken(`a save was answered with ${status}: ${text.slice(0, 300)}`);
    if (status === 507) project.onItsWay.pop();
    return false;
  }

  /** An edit like those that people make: a title more, or one less. */
  /** @returns {Promise<boolean>} whether it was acknowledged */
  async edit(base, id, random) {
    const before = readMontage(this.projects.get(id)?.document);
    const command =
      before.titles.length > 8
        ? { do: 'removeTitles', ids: [before.titles[0].id] }
        : { do: 'addTitle', text: `Kite ${random.between(0, 1e6)}`, at: { time: random.next() }, beats: 4 };
    return this.save(base, id, carryOut(before, /** @type {never} */ (command)));
  }

  /** Looks whether everything that was acknowledged is there. @throws Broken where it is not */
  async check(base) {
    for (const [id, project] of this.projects) {
      const { revision, document } = await mustAsk(base, 'GET', `/api/projects/${id}/montage`);
      const same = isDeepStrictEqual(document, project.document) && revision === project.revision;
      const came = revision === project.revision + 1 && project.onItsWay.some((sent) => isDeepStrictEqual(document, sent));
      if (!same && !came)
        throw new Broken(`"${project.name}" is not as it was acknowledged: revision ${revision}, and it was ${project.revision}`);
      Object.assign(project, { revision, document, onItsWay: [] });
    }
  }
}
