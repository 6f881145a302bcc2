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
import type { Arrival } from '../ledger/arrival.entity';
import { ArrivalLedger } from '../ledger/arrivalLedger';
import type { Shoot } from '../shoots/shoot.entity';
import { ShootsService } from '../shoots/shoots.service';
import { ShootTextsService } from '../shoots/shootTexts.service';
import { Clock } from '../system/clock';
import { volumeError, VolumesService } from '../volumes/volumes.service';
import type { Volume } from '../volumes/volume.entity';
import { cardPart } from './intake.service';

/** Writes the proof of an intake and the state of a shoot into the shoot's folders, on each volume. */
@Injectable()
export class ReceiptsService {
  constructor(
    private readonly disk: Disk,
    private readonly volumes: VolumesService,
    private readonly shoots: ShootsService,
    private readonly ledger: ArrivalLedger,
    private readonly texts: ShootTextsService,
    private readonly clock: Clock,
  ) {}

  /**
   * Receipt (never changed), manifest and facts (kept true) on every volume that is there. A volume that refuses them
   * does not stop the others: what it lacks is said in `problems`.
   */
  async write(arrival: Arrival): Promise<{ written: string[]; problems: string[] }> {
    const shoot = await this.shoots.get(arrival.shootId!);
    const files = (await this.ledger.files(arrival.id)).map(({ from, to, size, fate, progress }) =>
      fate === 'left-out' ? leftOutFile({ path: from, size }) : receiptFile({ from, to, size, progress }),
    );
    const targets = await Promise.all(arrival.targets.map((id) => this.volumes.get(id)));
    const receipt = this.receiptOf(arrival, shoot, targets, files);
    const written = new Set<string>();
    const problems: string[] = [];
    for (const volume of targets) {
      if (!(await this.volumes.isOnline(volume))) continue;
      for (const folder of arrival.folders) {
        // A volume that took in nothing for this folder has nothing to prove there.
        if (receiptText(files, volume.id, folder) === '' && !files.some((f) => f.fate === 'already-here'))
          continue;
        try {
          written.add(await this.writeReceipt(arrival, volume, folder, receipt));
          await this.texts.write(shoot, volume, folder, arrival.id);
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
    arrival: Arrival,
    shoot: Shoot,
    targets: readonly Volume[],
    files: ReceiptFile[],
  ): Receipt {
    return {
      schema: 1,
      intake: arrival.id,
      shoot: { id: shoot.id, title: shoot.title },
      card: { name: arrival.card, fingerprint: arrival.fingerprint },
      startedAt: isoTime(arrival.startedAt ?? arrival.at),
      finishedAt: isoTime(this.clock.now()),
      volumes: targets.map(({ id, name, device }) => ({ id, name, device })),
      files,
    };
  }

  /** A second run of the same intake (after failures were put right) leaves a second receipt beside the first. */
  private async writeReceipt(
    arrival: Arrival,
    volume: Volume,
    folder: string,
    receipt: Receipt,
  ): Promise<string> {
    const { id: job, card } = arrival;
    const day = isoTime(arrival.startedAt ?? arrival.at).slice(0, 10);
    const text = receiptText(receipt.files, volume.id, folder);
    for (let run = 1; ; run++) {
      const base = `${folder}/${SHOOT_FOLDER}/receipts/${day}_${cardPart(card)}_${job.slice(-6).toLowerCase()}${run > 1 ? `_${run}` : ''}`;
      const file = await this.volumes.resolve(volume, `${base}.sha256`);
      const there = await this.disk.facts(file);
      if (there) {
        if ((await this.disk.readAll(file, MAX_RECEIPT)).toString() !== text) continue;
        // The same text: this step has been done before, perhaps but for its last touch.
        await discard(this.disk, temporaryName(file, job));
        return `${base}.sha256`;
      }
      await this.placeOnce(
        await this.volumes.resolve(volume, `${base}.json`),
        `${JSON.stringify(receipt, null, 1)}\n`,
        job,
      );
      await placeNew(this.disk, file, Buffer.from(text), job);
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
