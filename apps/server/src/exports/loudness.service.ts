import { BadRequestException, Injectable } from '@nestjs/common';
import { loudnessInThread } from '@bluster/media/film/loudness-thread';
import type { LoudnessAnswer } from '@bluster/wire';
import { AssetFiles } from '../assets/asset-files.ts';
import { AssetsService } from '../assets/assets.service.ts';
import { MontagesService } from '../montages/montages.service.ts';

/** Montages whose loudness is kept at hand. */
const KEPT = 20;

/** Measures how loud a montage is, as it is saved: what its film will be. */
@Injectable()
export class LoudnessService {
  /** by project: the revision that was measured, and what came of it */
  private readonly measured = new Map<string, { readonly revision: number; readonly answer: Promise<LoudnessAnswer> }>();

  constructor(
    private readonly files: AssetFiles,
    private readonly assets: AssetsService,
    private readonly montages: MontagesService,
  ) {}

  /** @throws BadRequestException where nothing can be heard yet */
  async of(projectId: string): Promise<LoudnessAnswer> {
    // One at a time of a project: what is saved meanwhile is measured once, when the one before is done.
    await this.measured.get(projectId)?.answer.catch(() => undefined);
    const { facts, revision } = await this.montages.load(projectId);
    if (!facts.hasSong) throw new BadRequestException('There is no song yet, so there is nothing to measure. Choose one in Song.');
    const known = this.measured.get(projectId);
    if (known?.revision === revision) return known.answer;
    const sounds = Object.fromEntries(facts.shown.map((id) => [id, this.files.path(id, 'sound')]));
    const waits = (await this.assets.list(projectId)).some(({ id, state }) => state === 'working' && facts.shown.includes(id));
    if (waits) throw new BadRequestException('Files are still being made ready. It can be measured in a moment.');
    const answer = loudnessInThread({ montage: facts.text, sounds }).then((found) => ({ revision, ...found }));
    this.measured.delete(projectId);
    this.measured.set(projectId, { revision, answer });
    answer.catch(() => this.measured.delete(projectId));
    for (const id of [...this.measured.keys()].slice(0, -KEPT)) this.measured.delete(id);
    return answer;
  }
}
