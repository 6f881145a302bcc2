import { Injectable } from '@nestjs/common';
import { UnitOfWork } from '../db/unitOfWork';
import { byEnds } from '../frames/alike';
import type { NewPlace } from '../frames/frameStore';
import { LeavingFrames } from '../frames/leavingFrames';
import { BinStore, type Forgotten } from './binStore';
import { BinTexts } from './binTexts.service';

/**
 * Frames that were forgotten with their files left, to which somebody else gave another name or folder since: they stay forgotten, and
 * are brought back from where they lie now.
 */
@Injectable()
export class Strayed {
  constructor(
    private readonly work: UnitOfWork,
    private readonly bins: BinStore,
    private readonly leaving: LeavingFrames,
    private readonly texts: BinTexts,
  ) {}

  /** Forgotten files of a drive that are as these by length and both ends; by their ends. */
  async alike(volumeId: string, ends: readonly string[]): Promise<Map<string, Forgotten[]>> {
    return byEnds(await this.bins.forgottenAlike(volumeId, ends));
  }

  filesOf(volumeId: string, frameId: string): Promise<Forgotten[]> {
    return this.bins.forgottenOf(volumeId, frameId);
  }

  /** `files`: those that were found, each with where it lies now. */
  async moved(
    volumeId: string,
    to: Omit<NewPlace, 'shootId'>,
    files: readonly { was: Forgotten; at: string }[],
  ): Promise<void> {
    const { frameId, binId } = files[0]!.was;
    await this.work.write(async (manager) => {
      await this.leaving.strayed(manager, frameId, to);
      for (const { was, at } of files) await this.bins.strayed(manager, volumeId, was.assetId, at);
      // With the rows, so that a stop does not part them; of a whole folder that was renamed the list is written once.
      await this.texts.oweWithin(manager, binId);
    });
  }
}
