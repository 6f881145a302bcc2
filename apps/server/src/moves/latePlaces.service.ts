import { Injectable } from '@nestjs/common';
import type { EntityManager } from 'typeorm';
import { UnitOfWork } from '../db/unitOfWork';
import { DueTexts } from '../frames/dueTexts.service';
import { FramesService } from '../frames/frames.service';
import { CopyStore } from '../frames/copyStore';
import { OwnTextsService } from '../frames/ownTexts.service';
import { SidecarsService } from '../sidecars/sidecars.service';
import type { Volume } from '../volumes/volume.entity';
import { FileWays, type Way } from './fileWays';

/**
 * Frames that were given another place while a drive was away: there they lie where they lay, and their copies say so,
 * until the drive returns and follows.
 */
@Injectable()
export class LatePlaces {
  constructor(
    private readonly ways: FileWays,
    private readonly work: UnitOfWork,
    private readonly archive: FramesService,
    private readonly copyStore: CopyStore,
    private readonly texts: OwnTextsService,
    private readonly sidecars: SidecarsService,
    private readonly due: DueTexts,
  ) {
    due.register('place', (volume, frameId) => this.follow(volume, frameId));
  }

  /** A frame's files lie at their old places on these drives. In the transaction that gives it its new one. */
  async owe(
    manager: EntityManager,
    frameId: string,
    lying: readonly { assetId: string; volumeId: string; at: string; to: string }[],
  ): Promise<void> {
    const behind = lying.filter(({ at, to }) => at !== to);
    for (const { assetId, volumeId, at } of behind)
      await this.copyStore.liesAt(manager, assetId, volumeId, at);
    await this.due.owe(manager, [...new Set(behind.map(({ volumeId }) => volumeId))], 'place', frameId);
  }

  private async follow(volume: Volume, frameId: string): Promise<void> {
    const frame = await this.archive.frame(frameId);
    if (frame?.state !== 'here') return;
    await this.sidecars.without(async () => {
      const ways: Way[] = [];
      const copies: string[] = [];
      for (const { id, at, sha256 } of await this.archive.ofFrame(frameId))
        for (const copy of await this.archive.copies(id)) {
          if (copy.volumeId !== volume.id || copy.at === at) continue;
          copies.push(id);
          const way = { volume, from: copy.at, to: at, sha256 };
          ways.push(way);
          const beside = await this.ways.beside(way);
          ways.push(...beside.filter(({ from }) => !ways.some((other) => other.from === from)));
        }
      await this.ways.go(ways, () =>
        this.work.write(async (manager) => {
          for (const id of copies) await this.copyStore.liesAt(manager, id, volume.id, null);
          for (const { from, to, sha256 } of ways)
            if (sha256 === null) await this.texts.renamed(manager, from, to, volume.id);
          await this.due.owe(manager, [volume.id], 'shoot', frame.shootId);
        }),
      );
    });
    this.due.soon();
  }
}
