import { Injectable } from '@nestjs/common';
import { clearanceOf, fateOf, type CardFileProof, type ClearanceReport } from '@arkiv/core';
import { Reading } from '../db/unitOfWork';
import { Disk } from '../disk/disk';
import { Asset } from '../frames/asset.entity';
import { Copy } from '../frames/copy.entity';
import { Job, JobItem } from '../jobs/job.entity';
import { ReadersService } from '../readers/readers.service';
import { SettingsService } from '../system/settings.service';
import { VolumesService } from '../volumes/volumes.service';
import type { IntakeItem, IntakeParams } from './intake.types';

/** Says of a card how much of it is proven elsewhere, by what was written down of it. Clearing itself reads again. */
@Injectable()
export class ClearanceService {
  constructor(
    private readonly disk: Disk,
    private readonly reading: Reading,
    private readonly readers: ReadersService,
    private readonly volumes: VolumesService,
    private readonly settings: SettingsService,
  ) {}

  /** Whether the card in a reader may be cleared, checked against what lies on it and on the volumes now. */
  async of(readerId: string): Promise<ClearanceReport> {
    const { files, notFollowed, fingerprint } = await this.readers.files(readerId);
    const { card } = await this.readers.get(readerId);
    const { requiredCopies } = await this.settings.all();
    const taken = await this.takenIn(
      files.map((f) => f.path),
      (intake) => intake.fingerprint === fingerprint || intake.card === card,
    );
    const online = new Map<string, boolean>();
    const proofs = await Promise.all(
      files.map(async (file): Promise<CardFileProof> => {
        const known = taken.get(`${file.path}\0${file.size}\0${file.mtimeMillis}`) ?? taken.get(file.path);
        if (!known) return { path: file.path, size: file.size, devices: null, unchanged: true };
        const unchanged = known.mtimeMillis === file.mtimeMillis && known.size === file.size;
        return {
          path: file.path,
          size: file.size,
          devices: await this.devicesOf(known.sha256, file.size, online),
          unchanged,
        };
      }),
    );
    return clearanceOf(proofs, requiredCopies, notFollowed);
  }

  /**
   * What earlier intakes of this card say of these paths: by path and facts, and the newest by path alone. Intakes of
   * other cards say nothing: two bodies write the same names.
   */
  private async takenIn(
    paths: readonly string[],
    ofThisCard: (intake: IntakeParams) => boolean,
  ): Promise<Map<string, { sha256: string; size: number; mtimeMillis: number }>> {
    const wanted = new Set(paths);
    const map = new Map<string, { sha256: string; size: number; mtimeMillis: number }>();
    const jobs = await this.reading.manager.find(Job, {
      where: { kind: 'intake' },
      order: { createdAt: 'ASC' },
    });
    for (const job of jobs) {
      if (!ofThisCard(job.params as IntakeParams)) continue;
      const items = await this.reading.manager.findBy(JobItem, { jobId: job.id });
      for (const { data, size } of items) {
        const { from, mtimeMillis, progress } = data as IntakeItem;
        const fate = fateOf(progress);
        if (!wanted.has(from) || !progress.sha256 || !['copied', 'partly', 'already-here'].includes(fate))
          continue;
        const entry = { sha256: progress.sha256, size, mtimeMillis };
        map.set(from, entry).set(`${from}\0${size}\0${mtimeMillis}`, entry);
      }
    }
    return map;
  }

  /** Distinct devices that hold a verified copy of this content, and still do. */
  private async devicesOf(sha256: string, size: number, online: Map<string, boolean>): Promise<number> {
    const devices = new Set<string>();
    for (const asset of await this.reading.manager.findBy(Asset, { sha256 })) {
      for (const copy of await this.reading.manager.findBy(Copy, { assetId: asset.id })) {
        const volume = await this.volumes.get(copy.volumeId);
        if (!online.has(volume.id)) online.set(volume.id, await this.volumes.isOnline(volume));
        if (!online.get(volume.id)) continue;
        const facts = await this.disk.facts(await this.volumes.resolve(volume, copy.path));
        if (facts?.kind === 'file' && facts.size === size) devices.add(volume.device);
      }
    }
    return devices.size;
  }
}
