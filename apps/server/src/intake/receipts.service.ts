import { Injectable } from '@nestjs/common';
import {
  ArkivError,
  isoTime,
  leftOutFile,
  receiptFile,
  receiptText,
  SHOOT_FOLDER,
  type Receipt,
  type ReceiptFile,
} from '@arkiv/core';
import { Disk, diskErrorCode } from '../disk/disk';
import { discard, placeNew } from '../disk/place';
import { temporaryName } from '../disk/temporary';
import type { Job, JobItem } from '../jobs/job.entity';
import { Shoot } from '../shoots/shoot.entity';
import { ShootsService } from '../shoots/shoots.service';
import { ShootTextsService } from '../shoots/shootTexts.service';
import { Clock } from '../system/clock';
import { volumeError, VolumesService } from '../volumes/volumes.service';
import type { Volume } from '../volumes/volume.entity';
import { cardPart } from './intake.service';
import type { IntakeItem, IntakeParams } from './intake.types';

/** Writes the proof of an intake and the state of a shoot into the shoot's folders, on each volume. */
@Injectable()
export class ReceiptsService {
  constructor(
    private readonly disk: Disk,
    private readonly volumes: VolumesService,
    private readonly shoots: ShootsService,
    private readonly texts: ShootTextsService,
    private readonly clock: Clock,
  ) {}

  /**
   * Receipt (never changed), manifest and facts (kept true) on every volume that is there. A volume that refuses them
   * does not stop the others: what it lacks is said in `problems`.
   */
  async write(job: Job, items: readonly JobItem[]): Promise<{ written: string[]; problems: string[] }> {
    const params = job.params as IntakeParams;
    const shoot = await this.shoots.get(params.shootId);
    const files = items.map((item) => {
      const data = item.data as IntakeItem;
      return receiptFile({ from: data.from, to: data.to, size: item.size, progress: data.progress });
    });
    files.push(...(params.leftOut ?? []).map(leftOutFile));
    const targets = await Promise.all(params.targets.map((id) => this.volumes.get(id)));
    const receipt = this.receiptOf(job, shoot, params, targets, files);
    const written = new Set<string>();
    const problems: string[] = [];
    for (const volume of targets) {
      if (!(await this.volumes.isOnline(volume))) continue;
      for (const folder of params.folders) {
        // A volume that took in nothing for this folder has nothing to prove there.
        if (receiptText(files, volume.id, folder) === '' && !files.some((f) => f.fate === 'already-here'))
          continue;
        try {
          written.add(await this.writeReceipt(job, volume, folder, receipt, params.card));
          await this.texts.write(shoot, volume, folder, job.id);
        } catch (error) {
          if (!(error instanceof ArkivError) && diskErrorCode(error) === null) throw error;
          const shown = volumeError(error, volume, `${folder}/${SHOOT_FOLDER}`, 0, 0);
          problems.push(`The receipt is missing on ${volume.name}: ${shown.message} ${shown.body().next}`);
        }
      }
    }
    return { written: [...written], problems };
  }

  private receiptOf(
    job: Job,
    shoot: Shoot,
    params: IntakeParams,
    targets: readonly Volume[],
    files: ReceiptFile[],
  ): Receipt {
    return {
      schema: 1,
      intake: job.id,
      shoot: { id: shoot.id, title: shoot.title },
      card: { name: params.card, fingerprint: params.fingerprint },
      startedAt: isoTime(job.startedAt ?? job.createdAt),
      finishedAt: isoTime(this.clock.now()),
      volumes: targets.map(({ id, name, device }) => ({ id, name, device })),
      files,
    };
  }

  /** A second run of the same intake (after failures were put right) leaves a second receipt beside the first. */
  private async writeReceipt(
    job: Job,
    volume: Volume,
    folder: string,
    receipt: Receipt,
    card: string,
  ): Promise<string> {
    const day = isoTime(job.startedAt ?? job.createdAt).slice(0, 10);
    const text = receiptText(receipt.files, volume.id, folder);
    for (let run = 1; ; run++) {
      const base = `${folder}/${SHOOT_FOLDER}/receipts/${day}_${cardPart(card)}_${job.id.slice(-6).toLowerCase()}${run > 1 ? `_${run}` : ''}`;
      const file = await this.volumes.resolve(volume, `${base}.sha256`);
      const there = await this.disk.facts(file);
      if (there) {
        if ((await this.disk.readAll(file, MAX_RECEIPT)).toString() !== text) continue;
        // The same text: this step has been done before, perhaps but for its last touch.
        await discard(this.disk, temporaryName(file, job.id));
        return `${base}.sha256`;
      }
      await this.placeOnce(
        await this.volumes.resolve(volume, `${base}.json`),
        `${JSON.stringify(receipt, null, 1)}\n`,
        job.id,
      );
      await placeNew(this.disk, file, Buffer.from(text), job.id);
      return `${base}.sha256`;
    }
  }

  private async placeOnce(file: string, text: string, job: string): Promise<void> {
    try {
      await placeNew(this.disk, file, Buffer.from(text), job);
    } catch (error) {
      if (!(error instanceof ArkivError && error.code === 'file.exists')) throw error;
    }
  }
}

/** Half a million lines of a receipt are under 100 MB. */
const MAX_RECEIPT = 100 * 1024 * 1024;
