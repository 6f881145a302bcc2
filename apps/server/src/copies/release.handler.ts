import path from 'node:path';
import { Injectable, type OnModuleInit } from '@nestjs/common';
import { ArkivError, countDevices, mayShare, toSql } from '@arkiv/core';
import { LongReading } from '../db/longReading';
import { UnitOfWork } from '../db/unitOfWork';
import { Disk, diskErrorCode, type FileFacts } from '../disk/disk';
import { removeEmptyFolders } from '../disk/place';
import { hashFile } from '../disk/verifiedCopy';
import { Happenings } from '../events/domainEvents';
import { CopyStore } from '../frames/copyStore';
import { FramesService } from '../frames/frames.service';
import type { Job, JobItem } from '../jobs/job.entity';
import { WaitForOutside, type ItemContext, type ItemOutcome, type JobHandler } from '../jobs/jobHandler';
import { JobStore } from '../jobs/jobStore';
import type { Lane } from '../jobs/lanes';
import { OpenJobs } from '../jobs/openJobs.service';
import { JobsService } from '../jobs/jobs.service';
import { SettingsService } from '../settings/settings.service';
import { ShootsService } from '../shoots/shoots.service';
import { ShootTextsService } from '../shoots/shootTexts.service';
import { Ids } from '../system/ids';
import { disksOf, VolumesService } from '../volumes/volumes.service';
import type { Volume } from '../volumes/volume.entity';
import { VerifyHandler } from './verify.handler';

/** Which files are to be taken off a drive. */
export interface ReleaseAsked {
  shootId: string;
  volumeId: string;
  /** all but the studio's keepers: these stay there */
  butKeepers: boolean;
}

/** What taking off would do, by what is written down; the files are read again when it is done. */
export interface ReleasePlan {
  files: number;
  bytes: number;
  /** of these, files with too few copies on other drives: they stay */
  stay: number;
  /** copies on distinct devices that each file must have elsewhere */
  required: number;
  /** names of the drives that hold the others */
  elsewhere: string[];
}

interface ReleaseParams extends ReleaseAsked {
  required: number;
}

/** One file on the drive, where it lies there. */
interface ReleaseItem {
  assetId: string;
  path: string;
}

export interface ReleaseResult {
  taken: number;
  left: number;
  /** bytes */
  freed: number;
  reason: string | null;
}

interface Row extends ReleaseItem {
  size: number;
  others: number;
}

/**
 * Takes files of a shoot off one drive, each alone: it is read again there to its checksum, and so are its copies on other drives,
 * until as many distinct devices hold it as the studio asks for. Whatever does not prove stays, and is named.
 */
@Injectable()
export class ReleaseHandler implements JobHandler, OnModuleInit {
  readonly kind = 'release';
  readonly inFlight = 2;

  constructor(
    private readonly disk: Disk,
    private readonly long: LongReading,
    private readonly work: UnitOfWork,
    private readonly jobs: JobsService,
    private readonly items: JobStore,
    private readonly openJobs: OpenJobs,
    private readonly frames: FramesService,
    private readonly copyStore: CopyStore,
    private readonly volumes: VolumesService,
    private readonly verifying: VerifyHandler,
    private readonly settings: SettingsService,
    private readonly shoots: ShootsService,
    private readonly texts: ShootTextsService,
    private readonly happenings: Happenings,
    private readonly ids: Ids,
  ) {}

  onModuleInit(): void {
    this.jobs.register(this);
  }

  async plan(asked: ReleaseAsked): Promise<ReleasePlan> {
    const { requiredCopies: required } = await this.settings.all();
    const rows = await this.rows(asked);
    const elsewhere = await this.long.rows<{ name: string }>(
      `SELECT DISTINCT v.name FROM asset a JOIN copy c ON c."assetId" = a.id AND c."volumeId" <> ?
       JOIN volume v ON v.id = c."volumeId" AND v.role <> 'edit' WHERE a."shootId" = ? ORDER BY v.name`,
      [asked.volumeId, asked.shootId],
    );
    return {
      files: rows.length,
      bytes: rows.reduce((sum, { size }) => sum + size, 0),
      stay: rows.filter(({ others }) => others < required).length,
      required,
      elsewhere: elsewhere.map(({ name }) => name),
    };
  }

  async start(asked: ReleaseAsked): Promise<{ jobId: string }> {
    const shoot = await this.shoots.get(asked.shootId);
    const volume = await this.volumes.get(asked.volumeId);
    if (!(await this.volumes.isOnline(volume)))
      throw new ArkivError('volume.offline', { volume: volume.name });
    if (await this.openJobs.onShoots([shoot.id])) throw new ArkivError('move.busy', { shoot: shoot.title });
    const { requiredCopies: required } = await this.settings.all();
    const rows = await this.rows(asked);
    const able = rows.filter(({ others }) => others >= required);
    if (able.length === 0)
      throw new ArkivError('copies.none', {
        reason:
          rows.length === 0
            ? `“${volume.name}” holds none of it`
            : `no file of it has ${required} good copies on other drives`,
      });
    const jobId = this.ids.newId();
    const params: ReleaseParams = { ...asked, required };
    await this.jobs.begin([
      {
        job: {
          ...{
            id: jobId,
            kind: 'release',
            title: `${shoot.title} on ${volume.name}`,
            shootId: shoot.id,
            params,
          },
          // Nothing moves, copies or reads its files meanwhile.
          subjects: [{ kind: 'shoot', id: shoot.id, deed: 'moves' }],
        },
        items: rows.map(({ assetId, path: at, size }) => ({ size, name: at, data: { assetId, path: at } })),
      },
    ]);
    return { jobId };
  }

  lane(): Lane {
    return { bulk: true, way: null, first: false };
  }

  async begin(job: Job): Promise<void> {
    await this.present(await this.volumes.get((job.params as ReleaseParams).volumeId));
  }

  async again(job: Job): Promise<void> {
    const { shootId } = job.params as ReleaseParams;
    if (await this.openJobs.onShoots([shootId], { but: job.id }))
      throw new ArkivError('move.busy', { shoot: (await this.shoots.get(shootId)).title });
  }

  async runItem(job: Job, item: JobItem, context: ItemContext): Promise<ItemOutcome> {
    const params = job.params as ReleaseParams;
    const data = item.data as ReleaseItem;
    const volume = await this.volumes.get(params.volumeId);
    await this.present(volume);
    const asset = await this.frames.asset(data.assetId);
    const copy = asset && (await this.frames.copies(asset.id)).find(({ volumeId }) => volumeId === volume.id);
    if (!asset || !copy || asset.sha256 === null) return { state: 'done' };
    const stays = (reason: string): ItemOutcome => ({
      state: 'failed',
      reason: `${copy.at} stays on “${volume.name}”: ${reason}`,
    });
    const gone = {
      state: 'done' as const,
      commit: (manager: Parameters<CopyStore['released']>[0]) =>
        this.copyStore.released(manager, asset.id, volume.id),
    };
    const file = await this.volumes.resolve(volume, copy.at);
    try {
      const before = await this.disk.facts(file);
      // A run that was killed between taking it off and writing it down; its others are proven before that is written.
      if (before !== null && before.kind !== 'file') return stays('no file stands there.');
      if (before !== null) {
        const { sha256 } = await hashFile(this.disk, file, context.signal);
        context.onBytes(item.size);
        if (sha256 !== asset.sha256) return stays('it has changed there: its checksum is another.');
      }
      const proof = await this.proof(params, asset.id, asset.sha256, volume, before, context.signal);
      if (proof !== null) return stays(proof);
      if (before === null) return gone;
      const still = await this.disk.facts(file);
      if (still?.size !== before.size || still.mtimeMillis !== before.mtimeMillis)
        return stays('it changed while the others were read.');
      await this.disk.unlink(file);
      await this.disk.syncFolder(path.dirname(file));
      return gone;
    } catch (error) {
      if (context.signal.aborted || error instanceof WaitForOutside || diskErrorCode(error) === null)
        throw error;
      await this.present(volume);
      return stays(`${(error as Error).message}.`);
    }
  }

  async finish(job: Job): Promise<ReleaseResult> {
    const { shootId, volumeId } = job.params as ReleaseParams;
    const volume = await this.volumes.get(volumeId);
    const shoot = await this.shoots.get(shootId);
    await this.takeSidecars(shootId, volume);
    const problems = await this.texts.writeAll(shoot, [volume], job.id);
    for (const folder of shoot.folders)
      await removeEmptyFolders(
        this.disk,
        await this.volumes.resolve(volume, `${folder}/${shoot.plan.originals}`),
      );
    this.happenings.tell('volumes', {});
    const of = await this.items.tally(job.id);
    const { items: taken, bytes: freed } = of('done');
    const left = job.filesTotal - taken;
    if (left > 0) problems.unshift(`${left} of ${job.filesTotal} files stay on “${volume.name}”.`);
    return { taken, left, freed, reason: problems.length > 0 ? problems.join(' ') : null };
  }

  /** Files of the shoot on the drive, each with how many distinct devices hold it elsewhere. */
  private async rows({ shootId, volumeId, butKeepers }: ReleaseAsked): Promise<Row[]> {
    const kept = butKeepers ? toSql((await this.settings.all()).rules.keeper) : null;
    const but = kept
      ? `AND a."frameId" IN (SELECT f.id FROM frame_here f WHERE f."shootId" = a."shootId" AND NOT (${kept.where}))`
      : '';
    const rows = await this.long.rows<Omit<Row, 'others'> & { others: string | null }>(
      `SELECT a.id AS "assetId", a.size, COALESCE(c.path, a."at") AS path,
         (SELECT group_concat(v.device, char(10)) FROM copy o JOIN volume v ON v.id = o."volumeId" AND v.role <> 'edit'
          WHERE o."assetId" = a.id AND o."volumeId" <> c."volumeId" AND o."verifiedAt" IS NOT NULL) AS others
       FROM asset_at a JOIN copy c ON c."assetId" = a.id AND c."volumeId" = ?
       WHERE a."shootId" = ? AND a.sha256 IS NOT NULL AND c."verifiedAt" IS NOT NULL ${but} ORDER BY path`,
      [volumeId, shootId, ...(kept?.parameters ?? [])],
    );
    const own = (await this.volumes.get(volumeId)).device;
    return rows.map(({ others, ...row }) => {
      const devices = new Set((others ?? '').split('\n').filter((device) => device !== '' && device !== own));
      return { ...row, others: countDevices(devices) };
    });
  }

  /** Null when enough devices beside the drive hold this content, read again just now; otherwise why not. */
  private async proof(
    { required }: ReleaseParams,
    assetId: string,
    sha256: string,
    off: Volume,
    file: FileFacts | null,
    signal: AbortSignal,
  ): Promise<string | null> {
    const devices = new Set<string>();
    const notes: string[] = [];
    for (const { copy, volume } of await this.frames.copiesOf(assetId)) {
      if (countDevices(devices) >= required) break;
      if (volume.id === off.id || volume.role === 'edit' || devices.has(volume.device)) continue;
      // What may lie on the same disk goes with it one day.
      if (mayShare(disksOf(off), disksOf(volume))) {
        notes.push(`“${volume.name}” may lie on the same device`);
        continue;
      }
      const data = { path: copy.at, volumeId: volume.id, assetId, sha256 };
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
    if (countDevices(devices) >= required) return null;
    const found = `${countDevices(devices)} of ${required} copies elsewhere prove good`;
    return notes.length > 0 ? `${found}: ${[...new Set(notes)].join('; ')}.` : `${found}.`;
  }

  /** Whether a copy is the very file under another path, as on a drive that is mounted twice. */
  private async isSame(file: FileFacts | null, volume: Volume, relative: string): Promise<boolean> {
    const facts = await this.disk.facts(await this.volumes.resolve(volume, relative));
    return file !== null && facts?.device === file.device && facts.inode === file.inode;
  }

  /** Sidecars of frames that have nothing on the drive any more, where another drive holds the same bytes at the same place. */
  private async takeSidecars(shootId: string, volume: Volume): Promise<void> {
    const frames = await this.long.rows<{ place: string; name: string; other: string }>(
      `SELECT f.place, f.name, (SELECT o."volumeId" FROM copy o JOIN asset b ON b.id = o."assetId"
           JOIN volume v ON v.id = o."volumeId" AND v.role <> 'edit' WHERE b."frameId" = f.id LIMIT 1) AS other
       FROM frame_here f WHERE f."shootId" = ? AND NOT EXISTS (
         SELECT 1 FROM copy c JOIN asset a ON a.id = c."assetId" WHERE a."frameId" = f.id AND c."volumeId" = ?)`,
      [shootId, volume.id],
    );
    for (const { place, name, other } of frames) {
      if (!other) continue;
      const relative = `${place}/${name}.xmp`;
      const [here, there] = [
        await this.volumes.resolve(volume, relative),
        await this.volumes.resolve(await this.volumes.get(other), relative),
      ];
      try {
        if (!(await this.disk.facts(here)) || !(await this.disk.facts(there))) continue;
        if ((await hashFile(this.disk, here)).sha256 !== (await hashFile(this.disk, there)).sha256) continue;
        await this.disk.unlink(here);
      } catch (error) {
        // What cannot be taken stays: it says nothing wrong.
        if (diskErrorCode(error) === null) throw error;
      }
    }
  }

  private async present(volume: Volume): Promise<void> {
    if (!(await this.volumes.isOnline(volume)))
      throw new WaitForOutside(`“${volume.name}” is not there. Plug it in: it carries on where it stopped.`);
  }
}
