import path from 'node:path';
import { Injectable } from '@nestjs/common';
import { ArkivError } from '@arkiv/core';
import { Reading, UnitOfWork } from '../db/unitOfWork';
import { Disk, diskErrorCode, type Space } from '../disk/disk';
import { placeNew, readOwn } from '../disk/place';
import { resolveBelow } from '../disk/volumePath';
import { EventsService } from '../events/events.service';
import { Clock } from '../system/clock';
import { Ids } from '../system/ids';
import { Volume, type VolumeRole } from './volume.entity';

export const VOLUME_FILE = '.arkiv-volume.json';

interface VolumeFile {
  id: string;
  name: string;
  made: string;
  /** stand-ins say which device they play */
  device?: string;
}

export interface VolumeStatus {
  volume: Volume;
  online: boolean;
  space: Space | null;
  /** it is there and cannot be written to */
  readOnly: boolean;
  holds: Holdings;
}

/** What a volume holds of the archive. */
export interface Holdings {
  /** verified copies on it */
  files: number;
  /** of these, files that no other device holds */
  onlyHere: number;
  /** copies that were found missing, changed or unreadable */
  damaged: number;
}

/** Bytes to leave free: the database of a volume's file system and our own texts need room too. */
export const SPARE_BYTES = 32 * 1024 * 1024;

const NOTHING: Holdings = { files: 0, onlyHere: 0, damaged: 0 };

export interface NewVolume {
  /** a folder on this machine */
  root: string;
  name: string;
  role: VolumeRole;
  device?: string;
}

/** Knows the volumes, tells which are there, and is the only way from (volume, path) to a path on this machine. */
@Injectable()
export class VolumesService {
  constructor(
    private readonly disk: Disk,
    private readonly reading: Reading,
    private readonly work: UnitOfWork,
    private readonly clock: Clock,
    private readonly ids: Ids,
    private readonly events: EventsService,
  ) {}

  async list(): Promise<VolumeStatus[]> {
    const volumes = await this.all();
    const holdings = await this.holdings();
    return Promise.all(
      volumes.map(async (volume) => ({
        ...(await this.status(volume)),
        holds: holdings.get(volume.id) ?? NOTHING,
      })),
    );
  }

  all(): Promise<Volume[]> {
    return this.reading.manager.find(Volume, { order: { addedAt: 'ASC', id: 'ASC' } });
  }

  private async holdings(): Promise<Map<string, Holdings>> {
    const rows: { id: string; files: number; onlyHere: number }[] = await this.reading.source.query(
      `WITH spread AS (
         SELECT c."assetId" AS asset, COUNT(DISTINCT v.device) AS devices
         FROM copy c JOIN volume v ON v.id = c."volumeId" GROUP BY c."assetId")
       SELECT c."volumeId" AS id, COUNT(*) AS files, SUM(s.devices = 1) AS "onlyHere"
       FROM copy c JOIN spread s ON s.asset = c."assetId" GROUP BY c."volumeId"`,
    );
    const damages: { id: string; n: number }[] = await this.reading.source.query(
      `SELECT "volumeId" AS id, COUNT(*) AS n FROM damage GROUP BY "volumeId"`,
    );
    const damaged = new Map(damages.map(({ id, n }) => [id, n]));
    const held = new Map(rows.map(({ id, files, onlyHere }) => [id, { files, onlyHere }]));
    return new Map(
      [...new Set([...held.keys(), ...damaged.keys()])].map((id) => [
        id,
        { ...NOTHING, ...held.get(id), damaged: damaged.get(id) ?? 0 },
      ]),
    );
  }

  async get(id: string): Promise<Volume> {
    const volume = await this.reading.manager.findOneBy(Volume, { id });
    if (!volume) throw new ArkivError('not-found', { what: 'volume', id });
    return volume;
  }

  async status(volume: Volume): Promise<Omit<VolumeStatus, 'holds'>> {
    try {
      await this.check(volume);
      const readOnly = !(await this.disk.writable(volume.root));
      return { volume, online: true, space: await this.disk.space(volume.root), readOnly };
    } catch (error) {
      if (!(error instanceof ArkivError) && diskErrorCode(error) === null) throw error;
      return { volume, online: false, space: null, readOnly: false };
    }
  }

  async isOnline(volume: Volume): Promise<boolean> {
    return (await this.status(volume)).online;
  }

  /** Makes a folder a volume, or takes up one that carries an id already. */
  async add(input: NewVolume): Promise<Volume> {
    const refuse = (reason: string): never => {
      throw new ArkivError('volume.folder', { path: input.root, reason });
    };
    if (!path.isAbsolute(input.root)) refuse('it is not a full path');
    const facts = await this.disk.facts(input.root);
    if (!facts) refuse('there is no such folder');
    if (facts!.kind !== 'folder') refuse('it is not a folder');
    const root = await this.disk.realPath(input.root);
    const device = input.device ?? `device-${facts!.device}`;
    const present = await this.readFile(root);
    const file: VolumeFile = present ?? {
      id: this.ids.newId(),
      name: input.name,
      made: new Date(this.clock.now()).toISOString(),
      device: input.device,
    };
    const known = await this.reading.manager.findOneBy(Volume, { id: file.id });
    if (known && known.root !== root && (await this.isOnline(known)))
      throw new ArkivError('volume.duplicate', { volume: known.name });
    if (!present) {
      try {
        await placeNew(
          this.disk,
          path.join(root, VOLUME_FILE),
          Buffer.from(`${JSON.stringify(file, null, 2)}\n`),
          file.id,
        );
      } catch (error) {
        refuse(`it cannot be written to (${(error as Error).message})`);
      }
    }
    const volume: Volume = {
      id: file.id,
      name: known?.name ?? input.name,
      root,
      role: input.role,
      device: file.device ?? device,
      addedAt: known?.addedAt ?? this.clock.now(),
    };
    await this.work.write((manager) => manager.save(Volume, volume));
    this.events.publish('volumes', {});
    return volume;
  }

  /**
   * Makes sure that the volume is there and is the one we mean; an unmounted mount point is an empty folder.
   * To be called before each batch of work. Throws `volume.offline` or `volume.changed`.
   */
  async check(volume: Volume): Promise<void> {
    let file: VolumeFile | null;
    try {
      file = await this.readFile(volume.root);
    } catch (error) {
      if (diskErrorCode(error) === null) throw error;
      file = null;
    }
    if (!file) throw new ArkivError('volume.offline', { volume: volume.name });
    if (file.id !== volume.id) throw new ArkivError('volume.changed', { volume: volume.name });
  }

  /** The path on this machine. Throws `path.outside` for anything that would leave the volume. */
  resolve(volume: Volume, relative: string): Promise<string> {
    return resolveBelow(this.disk, volume.root, volume.name, relative);
  }

  private async readFile(root: string): Promise<VolumeFile | null> {
    const text = await readOwn(this.disk, path.join(root, VOLUME_FILE));
    if (text === null) return null;
    try {
      const file = JSON.parse(text) as VolumeFile;
      return typeof file.id === 'string' && file.id !== '' ? file : null;
    } catch {
      return null;
    }
  }
}

/** What went wrong on a volume, in Arkiv's words. */
export function volumeError(
  error: unknown,
  volume: Volume,
  file: string,
  needed: number,
  free: number,
): ArkivError {
  if (error instanceof ArkivError) return error;
  const code = diskErrorCode(error);
  if (code === 'ENOSPC' || code === 'EDQUOT')
    return new ArkivError('volume.full', { volume: volume.name, needed, free, file });
  if (code === 'EROFS' || code === 'EACCES' || code === 'EPERM') {
    return new ArkivError('volume.read-only', { volume: volume.name, reason: `${file}: ${code}` });
  }
  if (code === 'ENOENT' || code === 'ENODEV' || code === 'ENXIO' || code === 'EIO' || code === 'ENOTDIR') {
    return new ArkivError('volume.offline', { volume: volume.name, reason: code });
  }
  return new ArkivError('internal', { reason: `${file}: ${(error as Error).message}` });
}
