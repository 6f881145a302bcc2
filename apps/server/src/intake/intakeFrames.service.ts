import { Injectable, type OnApplicationBootstrap } from '@nestjs/common';
import type { FileProgress } from '@arkiv/core';
import { In, Not, type EntityManager } from 'typeorm';
import { Reading, UnitOfWork } from '../db/unitOfWork';
import { Happenings } from '../events/domainEvents';
import { Asset } from '../frames/asset.entity';
import { Frame } from '../frames/frame.entity';
import { CopyStore } from '../frames/copyStore';
import { FrameStore } from '../frames/frameStore';
import { Job, NOT_OVER } from '../jobs/job.entity';
import type { Arrival, ArrivalFile } from '../ledger/arrival.entity';
import { ArrivalLedger } from '../ledger/arrivalLedger';
import { livingShoot } from '../shoots/livingShoot';
import { Shoot } from '../shoots/shoot.entity';
import { ShootsService } from '../shoots/shoots.service';

/** Writes down what an intake brings: its files and their copies, and when a frame is whole enough to be shown. */
@Injectable()
export class IntakeFrames implements OnApplicationBootstrap {
  constructor(
    private readonly reading: Reading,
    private readonly work: UnitOfWork,
    private readonly store: FrameStore,
    private readonly copyStore: CopyStore,
    private readonly ledger: ArrivalLedger,
    private readonly shoots: ShootsService,
    private readonly happenings: Happenings,
  ) {}

  /** A server that ended while a cancelled intake's last frames were finished shows what is proven of them. */
  async onApplicationBootstrap(): Promise<void> {
    await this.show(await this.halfArrived(null));
  }

  /** Frames not shown yet of which some files are proven: of an arrival, or of all that are not under way. */
  async halfArrived(arrivalId: string | null): Promise<Set<string>> {
    const rows: { id: string }[] = await this.reading.source.query(
      `SELECT f.id FROM frame f WHERE f.state = 'arriving' AND EXISTS (SELECT 1 FROM asset a WHERE a."frameId" = f.id)
         AND EXISTS (SELECT 1 FROM arrival_file x WHERE x."frameId" = f.id AND (x."arrivalId" = ? OR (? IS NULL
           AND NOT EXISTS (SELECT 1 FROM job j WHERE j.id = x."arrivalId" AND j.state IN ('${NOT_OVER.join("', '")}')))))`,
      [arrivalId, arrivalId],
    );
    return new Set(rows.map(({ id }) => id));
  }

  async show(frameIds: Iterable<string>): Promise<void> {
    for (const id of frameIds) await this.work.write((manager) => this.showOne(manager, id));
  }

  /** Rows of a file that was copied or found, in the transaction of its item. */
  async record(
    manager: EntityManager,
    arrival: Arrival,
    file: ArrivalFile,
    progress: FileProgress,
  ): Promise<void> {
    await this.ledger.note(manager, arrival.id, file.seq, progress);
    // Its frame may have been moved while it was copied: where it comes to stands in the ledger.
    const { to } = await this.ledger.fileNow(manager, arrival.id, file.seq);
    const { role, format, raw, size, frameId } = file;
    const verified = Object.entries(progress.targets).filter(([, t]) => t.state === 'verified');
    if (progress.sha256 && progress.alreadyHere === null && verified.length > 0) {
      const shootId = await this.homeOf(arrival, frameId, manager);
      const its = { shootId, frameId, role, format, raw, size, sha256: progress.sha256 };
      const asset = await this.store.addAsset(manager, { ...its, at: to, cardPath: file.from });
      for (const [volumeId, target] of verified)
        await this.copyStore.verifiedOnce(manager, asset.id, volumeId, {
          verifiedAt: target.verifiedAt!,
          pastCache: target.pastCache ?? false,
        });
    }
    if (frameId && !(await this.ledger.expects(manager, arrival.id, frameId)))
      await this.showOne(manager, frameId);
  }

  /** The shoot that a file comes to: its frame's by now, or the one that the arrival's shoot was merged into. */
  async homeOf(arrival: Arrival, frameId: string | null, manager = this.reading.manager): Promise<string> {
    const frame = frameId === null ? null : await manager.findOneBy(Frame, { id: frameId });
    if (frame) return frame.shootId;
    return (await livingShoot(manager, arrival.shootId!))?.id ?? arrival.shootId!;
  }

  /** Frames whose every file was in the archive before are not shown twice; a shoot that got nothing new goes. */
  async dropKnown(arrival: Arrival, nothingNew: boolean): Promise<void> {
    const known: { id: string }[] = await this.reading.source.query(
      `SELECT "frameId" AS id FROM arrival_file WHERE "arrivalId" = ? AND "frameId" IS NOT NULL
       GROUP BY "frameId" HAVING SUM(fate <> 'already-here') = 0`,
      [arrival.id],
    );
    await this.work.inParts(known, PART, (manager, part) =>
      this.store.giveUp(
        manager,
        part.map(({ id }) => id),
      ),
    );
    await this.work.write(async (manager) => {
      // Frames that only seemed to be known took numbers after the last.
      const [{ next }]: [{ next: number | null }] = await manager.query(
        // By the arrival's own files: asked for as a list, the frames of the whole archive would be looked through.
        `SELECT MAX(x.number) + 1 AS next FROM arrival_file x WHERE x."arrivalId" = ? AND x.number IS NOT NULL
           AND EXISTS (SELECT 1 FROM frame f WHERE f.id = x."frameId")`,
        [arrival.id],
      );
      const shoot = await manager.findOneBy(Shoot, { id: arrival.shootId! });
      if (next !== null && shoot && shoot.nextSeq < next)
        await manager.update(Shoot, { id: shoot.id }, { nextSeq: next });
      // A shoot that was there before stays, whatever this card held.
      if (nothingNew && !arrival.intoExisting) await this.dropShoot(manager, arrival);
    });
  }

  /**
   * A shoot that this intake made and that got nothing is none: its row goes, and so do the frames that never arrived.
   * Null where it stays, because it has files, was there before, or waits for another card. Else its folders.
   */
  async dropEmpty(arrival: Arrival): Promise<string[] | null> {
    const { shootId, intoExisting } = arrival;
    if (shootId === null || intoExisting) return null;
    return this.work.write(async (manager) => {
      const shoot = await manager.findOneBy(Shoot, { id: shootId });
      const others = await manager.countBy(Job, { shootId, id: Not(arrival.id), state: In(NOT_OVER) });
      if (!shoot || others > 0 || (await manager.countBy(Asset, { shootId })) > 0) return null;
      const arriving = await manager.find(Frame, {
        select: { id: true },
        where: { shootId, state: 'arriving' },
      });
      await this.store.giveUp(
        manager,
        arriving.map(({ id }) => id),
      );
      if ((await manager.countBy(Frame, { shootId })) > 0) return null;
      await this.dropShoot(manager, arrival);
      return shoot.folders;
    });
  }

  /** Takes away what was written for a card that was never begun. */
  async neverBegun({ id }: Job): Promise<void> {
    const arrival = await this.ledger.get(id);
    if (!arrival) return;
    await this.work.inParts(await this.ledger.frameIds(id), PART, (manager, ids) =>
      this.store.giveUp(manager, ids),
    );
    if (arrival.intoExisting || arrival.shootId === null) return;
    await this.work.write(async (manager) => {
      await manager.delete(Shoot, { id: arrival.shootId! });
      this.happenings.after(manager, 'shoots', { shootId: arrival.shootId });
    });
  }

  private async dropShoot(manager: EntityManager, { id, shootId }: Arrival): Promise<void> {
    await manager.delete(Shoot, { id: shootId! });
    await manager.update(Job, { id }, { shootId: null });
    await this.ledger.finished(manager, id, { shootId: null });
    this.happenings.after(manager, 'shoots', { shootId });
  }

  /** A frame is here when a picture or clip of it is proven. */
  private async showOne(manager: EntityManager, frameId: string): Promise<void> {
    const frame = await manager.findOneBy(Frame, { id: frameId });
    if (!frame || !(await this.store.show(manager, frameId))) return;
    const { shootId } = frame;
    const revision = await this.shoots.touch(manager, shootId);
    this.happenings.after(manager, 'frames', { shootId, revision, ids: [frameId] });
  }
}

/** Frames taken away in one transaction: some milliseconds of the writer. */
const PART = 200;
