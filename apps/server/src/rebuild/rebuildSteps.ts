import { posix } from 'node:path';
import { Injectable } from '@nestjs/common';
import {
  ARCHIVE_FOLDER,
  ArkivError,
  readRecord,
  SHOOT_FOLDER,
  sidecarOf,
  type ArchiveRecord,
} from '@arkiv/core';
import { In } from 'typeorm';
import { insertRows } from '../db/insertRows';
import { Reading, UnitOfWork } from '../db/unitOfWork';
import { Disk, diskErrorCode } from '../disk/disk';
import { readOwn, readOwnBytes, sha256Of } from '../disk/place';
import { Happenings } from '../events/domainEvents';
import { Frame } from '../frames/frame.entity';
import { CopyStore } from '../frames/copyStore';
import { OwnText } from '../frames/ownText.entity';
import { WaitForOutside } from '../jobs/jobHandler';
import type { NumberedOperation } from '../journal/journal';
import { Shoot, textFolders } from '../shoots/shoot.entity';
import { Clock } from '../system/clock';
import type { Volume } from '../volumes/volume.entity';
import { VolumesService } from '../volumes/volumes.service';
import type { FoundFile } from './foundRecords.service';
import { RebuildStore } from './rebuildStore';

/** One step, which can be repeated at any time with the same result. `from`: the same on several drives, the newest first. */
export type RebuildItem =
  | { do: 'rows'; kind: string; from: FoundFile[] }
  | { do: 'history'; shoot: string; from: FoundFile[] }
  /** what was decided after a part was written */
  | { do: 'marks'; shoot: string; block: number; from: FoundFile[] }
  /** which drives hold the shoot, and whether its files lie there */
  | { do: 'files'; shoot: string; on: string[] }
  /** the archive's own texts on a drive are its own again */
  | { do: 'texts'; volumeId: string };

/** The steps by which rows come from what drives say: nothing on them is changed, and no picture is read. */
@Injectable()
export class RebuildSteps {
  constructor(
    private readonly disk: Disk,
    private readonly reading: Reading,
    private readonly work: UnitOfWork,
    private readonly volumes: VolumesService,
    private readonly store: RebuildStore,
    private readonly copyStore: CopyStore,
    private readonly happenings: Happenings,
    private readonly clock: Clock,
  ) {}

  /** Does one step. Returns what could not be kept, in words. */
  async run(step: RebuildItem): Promise<string[]> {
    if (step.do === 'rows') return this.keepRows(step);
    if (step.do === 'history') return this.keepHistory(step);
    if (step.do === 'files') return this.lookForFiles(step);
    if (step.do === 'marks') await this.replay(step);
    else await this.own(step.volumeId);
    return [];
  }

  private async keepRows({ kind, from }: RebuildItem & { do: 'rows' }): Promise<string[]> {
    const { record, bad } = await this.newest(from);
    if (record === null) return bad;
    const problems = await this.store.keep(kind, record.rows);
    // What follows may already be read by somebody.
    if (record.head.shoot === null) this.happenings.tell('rebuilt', {});
    // One that cannot be read as what it should be is nobody's: it is kept beside the new one.
    await this.ownTexts(from, isRecord);
    return problems;
  }

  /** The newest that can be read whole, and why others cannot. */
  async newest(from: readonly FoundFile[]): Promise<{ record: ArchiveRecord | null; bad: string[] }> {
    const bad: string[] = [];
    const away: string[] = [];
    for (const { volumeId, path } of from) {
      const volume = await this.volumes.get(volumeId);
      const text = await this.textOf(volume, path);
      if (text === null) {
        away.push(volume.name);
        continue;
      }
      try {
        return { record: readRecord(text, path), bad };
      } catch (error) {
        if (!(error instanceof ArkivError)) throw error;
        bad.push(`On “${volume.name}”: ${error.message}`);
      }
    }
    if (away.length > 0) throw new WaitForOutside(`“${away.join('”, “')}” is to be connected again.`);
    return { record: null, bad };
  }

  /** Null where the drive is away, or has it no more. */
  private async textOf(volume: Volume, path: string): Promise<string | null> {
    if (!(await this.volumes.isOnline(volume))) return null;
    try {
      return await readOwn(this.disk, await this.volumes.resolve(volume, path));
    } catch (error) {
      if (diskErrorCode(error) === null) throw error;
      return null;
    }
  }

  private async keepHistory({ shoot, from }: RebuildItem & { do: 'history' }): Promise<string[]> {
    const { operations, bad } = await this.operationsIn(from);
    await this.store.keepHistory(shoot, operations);
    return bad;
  }

  /** What was decided in a shoot, as the first of these files that is here says, and which lines of it cannot be read. */
  async operationsIn(
    from: readonly FoundFile[],
  ): Promise<{ operations: NumberedOperation[]; bad: string[] }> {
    for (const { volumeId, path } of from) {
      const volume = await this.volumes.get(volumeId);
      const text = await this.textOf(volume, path);
      if (text === null) continue;
      const read = text
        .split('\n')
        .filter((line) => line !== '')
        .map(operationIn);
      const operations = read.filter((operation) => operation !== null);
      const lost = read.length - operations.length;
      const bad =
        lost === 0 ? [] : [`${lost} lines of ${path} on “${volume.name}” cannot be read: they are left out.`];
      return { operations, bad };
    }
    throw new WaitForOutside('The drive that has the history is to be connected again.');
  }

  private async replay({ shoot, block, from }: RebuildItem & { do: 'marks' }): Promise<void> {
    const { record } = await this.newest(from);
    if (record !== null) await this.store.replay(shoot, block, record.head.journal);
  }

  /** Copies on drives that are here must be there, and as long as they were: what is not counts as none until it is found good. */
  async lookForFiles({ shoot, on }: RebuildItem & { do: 'files' }): Promise<string[]> {
    await this.store.onDrives(shoot, on);
    const lost: string[] = [];
    for (const volume of await this.volumes.all()) {
      if (!(await this.volumes.isOnline(volume))) continue;
      const copies: { assetId: string; path: string; size: number }[] = await this.reading.source.query(
        `SELECT "assetId", "at" AS path, size FROM copy_at WHERE "shootId" = ? AND "volumeId" = ? ORDER BY "at"`,
        [shoot, volume.id],
      );
      for (const { assetId, path, size } of copies) {
        const facts = await this.disk
          .facts(await this.volumes.resolve(volume, path))
          .catch((error: unknown) => {
            if (diskErrorCode(error) === null) throw error;
            return null;
          });
        if (facts?.kind === 'file' && facts.size === size) continue;
        const reason = facts === null ? 'is not there any more' : 'has another length';
        const as = facts === null ? 'missing' : 'damaged';
        await this.work.write((manager) =>
          this.copyStore.damaged(manager, assetId, volume.id, {
            found: null,
            reason,
            at: this.clock.now(),
            as,
          }),
        );
        lost.push(`${path} on “${volume.name}” ${reason}.`);
      }
    }
    return lost;
  }

  /** What this archive wrote on a drive may be written anew by it; what lies there now is what it wrote. */
  private async own(volumeId: string): Promise<void> {
    const volume = await this.volumes.get(volumeId);
    if (!(await this.volumes.isOnline(volume))) return;
    const shoots = await this.reading.manager.find(Shoot, {
      select: { id: true, folders: true, keptIn: true },
    });
    const files = [...shoots.flatMap(textsOf), ...LISTS].map((path) => ({ volumeId, path, size: 0 }));
    await this.ownTexts(files);
  }

  /** What lies there of these shoots, and of the archive as a whole, is this archive's own from now on, whoever wrote it. */
  async takeOver(volumeId: string, shootIds: readonly string[]): Promise<void> {
    const shoots = await this.reading.manager.findBy(Shoot, { id: In([...shootIds]) });
    const sidecars: string[] = [];
    for (const shootId of shootIds)
      for (const { place, name } of await this.reading.manager.find(Frame, {
        where: { shootId, state: 'here' },
        select: { place: true, name: true },
      }))
        sidecars.push(sidecarOf(place, name));
    // Beside copies that lie in places of their own there.
    const own: { at: string }[] = await this.reading.source.query(
      `SELECT c.path AS at FROM copy c JOIN asset a ON a.id = c."assetId"
       WHERE c."volumeId" = ? AND c.path IS NOT NULL AND a."shootId" IN (SELECT value FROM json_each(?))`,
      [volumeId, JSON.stringify([...shootIds])],
    );
    for (const { at } of own) sidecars.push(sidecarOf(posix.dirname(at), posix.parse(at).name));
    const paths = [...shoots.flatMap(textsOf), ...LISTS, ...sidecars];
    await this.ownTexts(
      paths.map((path) => ({ volumeId, path, size: 0 })),
      () => true,
      true,
    );
  }

  /** `anew`: also where it was known otherwise. */
  async ownTexts(
    files: readonly FoundFile[],
    isOurs: (bytes: Buffer, path: string) => boolean = () => true,
    anew = false,
  ): Promise<void> {
    for (const { volumeId, path } of files) {
      const volume = await this.volumes.get(volumeId);
      if (!(await this.volumes.isOnline(volume))) continue;
      const bytes = await readOwnBytes(this.disk, await this.volumes.resolve(volume, path));
      if (bytes === null || !isOurs(bytes, path)) continue;
      await this.work.write(async (manager) => {
        if (anew) await manager.delete(OwnText, { volumeId, path });
        if (!(await manager.existsBy(OwnText, { volumeId, path })))
          await insertRows(manager, OwnText, [{ volumeId, path, sha256: sha256Of(bytes), foreign: null }]);
      });
    }
  }
}

/** What lies at the root of a drive, of the archive as a whole. */
const LISTS = ['studio.json', 'vocabulary.txt', 'albums.json'].map((name) => `${ARCHIVE_FOLDER}/${name}`);
const textsOf = (shoot: Shoot): string[] =>
  textFolders(shoot).flatMap((folder) =>
    ['shoot.json', 'manifest.sha256', 'history.jsonl'].map((name) => `${folder}/${SHOOT_FOLDER}/${name}`),
  );

function operationIn(line: string): NumberedOperation | null {
  try {
    const operation = JSON.parse(line) as NumberedOperation | null;
    const isOne =
      typeof operation?.id === 'string' &&
      typeof operation.kind === 'string' &&
      typeof operation.subject === 'string' &&
      typeof operation.at === 'number' &&
      'from' in operation &&
      'to' in operation;
    return isOne ? operation : null;
  } catch {
    return null;
  }
}

function isRecord(bytes: Buffer, path: string): boolean {
  try {
    readRecord(bytes.toString('utf8'), path);
    return true;
  } catch {
    return false;
  }
}
