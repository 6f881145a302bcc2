import { Injectable, type OnModuleInit } from '@nestjs/common';
import { ArkivError, countDevices, mayShare } from '@arkiv/core';
import { VerifyHandler } from '../copies/verify.handler';
import { UnitOfWork } from '../db/unitOfWork';
import { Disk, diskErrorCode, type DiskPath, type FileFacts } from '../disk/disk';
import { hashFile } from '../disk/verifiedCopy';
import { Happenings } from '../events/domainEvents';
import { FramesService } from '../frames/frames.service';
import type { Job, JobItem } from '../jobs/job.entity';
import {
  WaitForOutside,
  type ItemContext,
  type ItemOutcome,
  type JobHandler,
  type ShownSubjects,
} from '../jobs/jobHandler';
import { JobStore } from '../jobs/jobStore';
import type { Lane } from '../jobs/lanes';
import { OpenJobs } from '../jobs/openJobs.service';
import { JobsService } from '../jobs/jobs.service';
import { cardPath } from '../readers/cardScan';
import { ReadersService } from '../readers/readers.service';
import { Ids } from '../system/ids';
import { SettingsService } from '../settings/settings.service';
import type { Volume } from '../volumes/volume.entity';
import { disksOf, VolumesService } from '../volumes/volumes.service';

export interface ClearParams {
  readerId: string;
  card: string;
  /** verified copies on distinct devices that each file needs */
  required: number;
}

/** One file of the card, as it was when clearing was asked for. */
export interface ClearItem {
  path: string;
  mtimeMillis: number;
}

export interface ClearResult {
  deleted: number;
  left: number;
  /** bytes */
  freed: number;
  reason: string | null;
}

/**
 * Deletes from a card what is proven, file by file: the file is read again to its checksum, and the copies with this
 * checksum are read again past the cache, on as many devices as the studio asks for. Everything else stays.
 */
@Injectable()
export class ClearHandler implements JobHandler, OnModuleInit {
  readonly kind = 'clear';
  readonly inFlight = 2;
  /** by reader: the start that came last */
  private readonly starting = new Map<string, Promise<{ jobId: string }>>();

  constructor(
    private readonly disk: Disk,
    private readonly work: UnitOfWork,
    private readonly jobs: JobsService,
    private readonly items: JobStore,
    private readonly openJobs: OpenJobs,
    private readonly readers: ReadersService,
    private readonly frames: FramesService,
    private readonly volumes: VolumesService,
    private readonly verifying: VerifyHandler,
    private readonly settings: SettingsService,
    private readonly happenings: Happenings,
    private readonly ids: Ids,
  ) {}

  onModuleInit(): void {
    this.jobs.register(this);
  }

  /** Starts clearing the card in a reader; refused for another card than the one that was looked at. */
  start(readerId: string, fingerprint: string): Promise<{ jobId: string }> {
    const started = (this.starting.get(readerId) ?? Promise.resolve())
      .catch(() => undefined)
      .then(() => this.startAlone(readerId, fingerprint));
    this.starting.set(readerId, started);
    return started;
  }

  /** One after the other for each reader: of two presses the second gets the clearing that the first one began. */
  private async startAlone(readerId: string, fingerprint: string): Promise<{ jobId: string }> {
    const reader = await this.readers.get(readerId);
    const under = await this.openJobs.onReader(readerId, 'clears');
    if (under && (under.params as ClearParams).card === reader.card) return { jobId: under.id };
    // First of all: an archive changes at any moment, so that its listing is never the one that was looked at.
    await this.refuseArchive(readerId, reader.name);
    const { files, fingerprint: now } = await this.readers.files(readerId);
    if (now !== fingerprint) throw new ArkivError('card.other', { reader: reader.name });
    await this.refuseWhileBusy(readerId, reader.name);
    const { requiredCopies: required } = await this.settings.all();
    const params: ClearParams = { readerId, card: reader.card ?? '', required };
    const jobId = this.ids.newId();
    const items = files.map(({ path: at, mtimeMillis, size }) => ({
      ...{ size, name: at },
      data: { path: at, mtimeMillis } satisfies ClearItem,
    }));
    await this.jobs.begin([
      {
        job: {
          ...{ id: jobId, kind: 'clear', title: reader.card ?? reader.name, shootId: null, params },
          // It reads copies wherever they lie.
          subjects: [
            { kind: 'reader', id: readerId, deed: 'clears' },
            { kind: 'shoot', id: '*', deed: 'reads' },
          ],
        },
        items,
      },
    ]);
    return { jobId };
  }

  /** Throws `card.busy` while a job works on the card in this reader. */
  private async refuseWhileBusy(readerId: string, name: string): Promise<void> {
    const busy = await this.openJobs.onReader(readerId);
    if (busy) throw new ArkivError('card.busy', { title: busy.title, reader: name });
    // A copy that is being moved would look as if it were missing.
    const moving = await this.openJobs.thatDoes('moves');
    if (moving) throw new ArkivError('move.busy', { shoot: moving.title });
  }

  /** A folder that lies on a volume, or holds one, is archive and no card: its files would prove themselves. */
  private async refuseArchive(readerId: string, name: string): Promise<void> {
    const { root } = await this.readers.rootOf(readerId);
    const card = await this.disk.realPath(root);
    for (const volume of await this.volumes.all()) {
      if (!(await this.volumes.isOnline(volume))) continue;
      const there = await this.disk.realPath(volume.root);
      if (isBelow(card, there) || isBelow(there, card))
        throw new ArkivError('card.archive', { reader: name, volume: volume.name });
    }
  }

  lane(job: Job): Lane {
    return { bulk: true, way: `reader ${(job.params as ClearParams).readerId}`, first: false };
  }

  shown(job: Job): ShownSubjects {
    const { readerId, card } = job.params as ClearParams;
    return { readerId, card };
  }

  async begin(job: Job): Promise<void> {
    const { readerId, card } = job.params as ClearParams;
    const reader = await this.readers.get(readerId);
    if (reader.card !== card)
      throw new WaitForOutside(
        `“${card}” is not in “${reader.name}”. Insert it again: clearing carries on where it stopped.`,
      );
  }

  async runItem(job: Job, item: JobItem, context: ItemContext): Promise<ItemOutcome> {
    const params = job.params as ClearParams;
    const data = item.data as ClearItem;
    const { root } = await this.readers.rootOf(params.readerId);
    const file = cardPath(root, data.path);
    const stays = (reason: string): ItemOutcome => ({
      state: 'skipped',
      reason: `${data.path} stays on the card: ${reason}`,
    });
    try {
      const facts = await this.disk.facts(file);
      if (!facts) {
        await this.begin(job);
        // A run that was killed between deleting and writing it down.
        return { state: 'done' };
      }
      if (facts.kind !== 'file' || facts.size !== item.size || facts.mtimeMillis !== data.mtimeMillis)
        return stays('it changed since clearing was asked for.');
      const { sha256 } = await hashFile(this.disk, file, context.signal);
      context.onBytes(item.size);
      const proof = await this.proof(params, sha256, facts, context.signal);
      if (proof !== null) return stays(proof);
      const still = await this.disk.facts(file);
      if (still?.size !== item.size || still.mtimeMillis !== data.mtimeMillis)
        return stays('it changed while it was read.');
      await this.disk.unlink(file);
      await this.disk.syncFolder(parentOf(file));
      return { state: 'done' };
    } catch (error) {
      if (context.signal.aborted || error instanceof WaitForOutside || diskErrorCode(error) === null)
        throw error;
      await this.begin(job);
      return stays(`${(error as Error).message}.`);
    }
  }

  async finish(job: Job): Promise<ClearResult> {
    this.happenings.tell('readers', {});
    const of = await this.items.tally(job.id);
    const { items: deleted, bytes: freed } = of('done');
    const left = job.filesTotal - deleted;
    const reason = left > 0 ? `${left} of ${job.filesTotal} files stay on the card.` : null;
    return { deleted, left, freed, reason };
  }

  /** Whether a copy is the card's own file under another path, as on a drive that is mounted twice. */
  private async isSame(file: FileFacts, volume: Volume, relative: string): Promise<boolean> {
    const facts = await this.disk.facts(await this.volumes.resolve(volume, relative));
    return facts?.device === file.device && facts.inode === file.inode;
  }

  /** Null when enough devices hold this content, read again just now; otherwise why not. */
  private async proof(
    { readerId, required }: ClearParams,
    sha256: string,
    file: FileFacts,
    signal: AbortSignal,
  ): Promise<string | null> {
    const devices = new Set<string>();
    const card = await this.readers.disksOf(readerId);
    const notes: string[] = [];
    for (const asset of await this.frames.ofContent(sha256)) {
      if (asset.size !== file.size) continue;
      for (const { copy, volume } of await this.frames.copiesOf(asset.id)) {
        if (countDevices(devices) >= required) return null;
        if (devices.has(volume.device)) continue;
        // A copy on the card's own disk goes with it: another partition, or the card mounted once more elsewhere.
        if (mayShare(card, disksOf(volume))) {
          notes.push(
            card === null
              ? `on which device this card lies is not known: name it under Studio`
              : `“${volume.name}” may lie on the same device as the card`,
          );
          continue;
        }
        const data = { path: copy.at, volumeId: volume.id, assetId: asset.id, sha256 };
        let finding;
        try {
          finding = await this.verifying.look(volume, data, signal);
        } catch (error) {
          if (!(error instanceof WaitForOutside)) throw error;
          notes.push(`“${volume.name}” is not there`);
          continue;
        }
        if (finding.good && (await this.isSame(file, volume, copy.at)))
          notes.push(`${copy.at} on “${volume.name}” is this very file`);
        else if (finding.good) devices.add(volume.device);
        else notes.push(`${copy.at} on “${volume.name}” ${finding.reason}`);
        await this.work.write((manager) => this.verifying.note(manager, data, finding));
      }
    }
    if (countDevices(devices) >= required) return null;
    const found = `${countDevices(devices)} of ${required} copies prove good`;
    return notes.length > 0 ? `${found}: ${[...new Set(notes)].join('; ')}.` : `${found}.`;
  }
}

/** The folder of a path that may hold names which are not UTF-8. */
function parentOf(file: DiskPath): DiskPath {
  const bytes = Buffer.from(file as Buffer);
  return bytes.subarray(0, bytes.lastIndexOf(0x2f));
}

const isBelow = (file: string, folder: string): boolean => file === folder || file.startsWith(`${folder}/`);
