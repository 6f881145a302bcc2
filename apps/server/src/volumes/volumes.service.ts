import path from 'node:path';
import { Injectable, Logger, type BeforeApplicationShutdown, type OnModuleInit } from '@nestjs/common';
import { ArkivError, deviceNames, statedDisks, UNKNOWN_DEVICE, type Disks } from '@arkiv/core';
import { Reading, UnitOfWork } from '../db/unitOfWork';
import { Disk, diskErrorCode, type Space } from '../disk/disk';
import type { Probe } from '../disk/mounts/look';
import { NO_ANSWER } from '../disk/mounts/looker';
import { mountAt, type Mount } from '../disk/mounts/mounts';
import { placeNew, readOwn, replaceOwn, sha256Of } from '../disk/place';
import { resolveBelow } from '../disk/volumePath';
import { Happenings } from '../events/domainEvents';
import { MountsService, VOLUME_FILE } from '../mounts/mounts.service';
import { Clock } from '../system/clock';
import { Ids } from '../system/ids';
import { SettingsService, type ArchiveIdentity } from '../settings/settings.service';
import { Volume, type VolumeRole } from './volume.entity';

interface VolumeFile {
  id: string;
  name: string;
  made: string;
  /** the archives that keep files on it */
  archives?: ArchiveIdentity[];
}

export interface VolumeStatus {
  volume: Volume;
  online: boolean;
  space: Space | null;
  /** it is there and cannot be written to */
  readOnly: boolean;
  /** it is there and gives no answer */
  silent: boolean;
  /** the archive that made it its own; null: it is this one's */
  belongsTo: string | null;
  /** it is a mount of its own that can be taken off */
  ejectable: boolean;
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
  /** when the copy was read whose last proof is the oldest; null: there is none */
  oldestProof: number | null;
  /** files that could not be read within a year, or were not what was written */
  failures: number;
}

const YEAR = 365 * 24 * 60 * 60 * 1000;

/** Bytes to leave free: the database of a volume's file system and our own texts need room too. */
export const SPARE_BYTES = 32 * 1024 * 1024;

/** How many distinct devices copies (c) on volumes (v) lie on, in SQL: unknown ones count as one at the most. */
export const DEVICES = `MAX(COUNT(DISTINCT NULLIF(v.device, '${UNKNOWN_DEVICE}')), COUNT(v.id) > 0)`;

export interface NewVolume {
  /** a folder on this machine */
  root: string;
  name: string;
  role: VolumeRole;
  /** make the folder where it is not there yet */
  create?: boolean;
  /** it is another archive's, and is this one's from now on */
  takeOver?: boolean;
}

/** What the owner may change of a volume. */
export interface ChangeVolume {
  name?: string;
  role?: VolumeRole;
  /** the device it lies on, by the owner's word; null: what can be found out counts */
  device?: string | null;
}

/** Knows the volumes, tells which are there, and is the only way from (volume, path) to a path on this machine. */
@Injectable()
export class VolumesService implements OnModuleInit, BeforeApplicationShutdown {
  private readonly log = new Logger('volumes');
  private looking: Promise<void> = Promise.resolve();
  private stopped = false;

  constructor(
    private readonly disk: Disk,
    private readonly reading: Reading,
    private readonly work: UnitOfWork,
    private readonly clock: Clock,
    private readonly ids: Ids,
    private readonly happenings: Happenings,
    private readonly settings: SettingsService,
    private readonly mounts: MountsService,
  ) {}

  onModuleInit(): void {
    this.mounts.folders = async () => (await this.all()).flatMap(({ below }) => (below ? [below] : []));
    this.mounts.changes.subscribe(() => void this.lookAround());
    // Drives say whose they are; those that are away are signed when they are added or seen again.
    this.happenings.on('settings', () => this.signSoon());
  }

  async beforeApplicationShutdown(): Promise<void> {
    this.stopped = true;
    await this.looking;
  }

  /** Finds known volumes under new mount points, and judges anew on which disks they lie. */
  lookAround(): Promise<void> {
    if (this.stopped) return this.looking;
    this.looking = this.looking
      .then(() => this.recognise())
      .then(() => this.judge())
      .then(() => this.signAll())
      .then(() => void this.happenings.tell('volumes', {}))
      .catch((error: unknown) => this.log.error((error as Error).stack));
    return this.looking;
  }

  private async recognise(): Promise<void> {
    for (const { mount, look } of await this.mounts.now()) {
      for (const [below, text] of Object.entries(look?.texts ?? {})) {
        const id = readVolumeFile(text)?.id;
        const known = id === undefined ? null : await this.reading.manager.findOneBy(Volume, { id });
        const root = below === '' ? mount.point : `${mount.point}/${below}`;
        if (!known || known.root === root) continue;
        // Two with one id: the one that is in use stays, and the other is no volume of ours.
        if (await this.isOnline(known)) this.log.warn(`a second drive bears the id of “${known.name}”`);
        else await this.work.write((manager) => manager.update(Volume, { id }, { root, below }));
      }
    }
  }

  /** Which volumes share a disk. Those that are away keep what was found when they were seen last. */
  private async judge(): Promise<void> {
    const volumes = await this.all();
    for (const volume of volumes) {
      if (!(await this.isOnline(volume))) continue;
      const disks = (await this.mounts.disksOf(volume.root))?.slice() ?? null;
      const below = await this.mounts.below(volume.root);
      // One that was taken out meanwhile leaves a bare folder: what was found is that folder's, not its own.
      if (await this.isOnline(volume)) Object.assign(volume, { disks, below });
    }
    const names = deviceNames(volumes.map(disksOf));
    await this.work.write(async (manager) => {
      for (const [i, { id, disks, below }] of volumes.entries())
        await manager.update(Volume, { id }, { disks, below, device: names[i]! });
    });
  }

  async change(id: string, change: ChangeVolume): Promise<void> {
    const volume = await this.get(id);
    const { name = volume.name, role = volume.role } = change;
    const stated = change.device === undefined ? volume.stated : change.device?.trim() || null;
    await this.work.write((manager) => manager.update(Volume, { id }, { name, role, stated }));
    await this.lookAround();
  }

  /** Writes what is pending and lets go of the drive. Throws `volume.eject` with the reason where that cannot be done. */
  async eject(id: string): Promise<void> {
    const volume = await this.get(id);
    const mounts = (await this.mounts.now()).map(({ mount }) => mount);
    const mount = mountAt(mounts, volume.root);
    const refused = canEject(mount) ? await this.mounts.eject(mount!) : 'it is a folder of this computer';
    if (refused !== null) throw new ArkivError('volume.eject', { volume: volume.name, reason: refused });
    await this.lookAround();
  }

  async list(): Promise<VolumeStatus[]> {
    const volumes = await this.all();
    const mounts = (await this.mounts.now()).map(({ mount }) => mount);
    return Promise.all(
      volumes.map(async (volume) => ({
        ...(await this.status(volume)),
        ejectable: canEject(mountAt(mounts, volume.root)),
        holds: {
          ...{ files: volume.files, onlyHere: volume.onlyHere, damaged: volume.damaged },
          ...(await this.proofs(volume.id)),
        },
      })),
    );
  }

  /** How old the proofs on a drive are, and how often it failed. */
  private async proofs(id: string): Promise<Pick<Holdings, 'oldestProof' | 'failures'>> {
    const [row]: [Pick<Holdings, 'oldestProof' | 'failures'>] = await this.reading.source.query(
      `SELECT (SELECT MIN("verifiedAt") FROM copy WHERE "volumeId" = ?) AS "oldestProof",
         (SELECT COUNT(DISTINCT "from") FROM trail WHERE "volumeId" = ? AND kind = 'damaged' AND at > ?) AS failures`,
      [id, id, this.clock.now() - YEAR],
    );
    return row;
  }

  all(): Promise<Volume[]> {
    return this.reading.manager.find(Volume, { order: { addedAt: 'ASC', id: 'ASC' } });
  }

  async get(id: string): Promise<Volume> {
    const volume = await this.reading.manager.findOneBy(Volume, { id });
    if (!volume) throw new ArkivError('not-found', { what: 'volume', id });
    return volume;
  }

  async status(volume: Volume): Promise<Omit<VolumeStatus, 'holds' | 'ejectable'>> {
    try {
      const { space, writable } = await this.probe(volume);
      return { volume, online: true, space, readOnly: !writable, silent: false, belongsTo: null };
    } catch (error) {
      if (!(error instanceof ArkivError)) throw error;
      const silent = error.code === 'volume.silent';
      const belongsTo = error.code === 'volume.taken' ? String(error.details.archive) : null;
      return { volume, online: false, space: null, readOnly: false, silent, belongsTo };
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
    if (input.create && !(await this.disk.facts(input.root)))
      await this.disk
        .makeFolders(input.root)
        .catch((error: Error) => refuse(`it cannot be made (${error.message})`));
    const facts = await this.disk.facts(input.root);
    if (!facts) refuse('there is no such folder');
    if (facts!.kind !== 'folder') refuse('it is not a folder');
    const root = await this.disk.realPath(input.root);
    const present = await this.readFile(root);
    const file: VolumeFile = present ?? {
      id: this.ids.newId(),
      name: input.name,
      made: new Date(this.clock.now()).toISOString(),
    };
    const other = present && (await this.otherOwner(present));
    if (other && !input.takeOver)
      throw new ArkivError('volume.belongs', { path: input.root, archive: other.name });
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
    const { name, role } = { name: known?.name ?? input.name, role: input.role };
    await this.work.write(async (manager) => {
      const held = other && { heldBy: other };
      if (known) await manager.update(Volume, { id: file.id }, { name, root, role, ...held });
      else
        await manager.insert(Volume, {
          ...{ id: file.id, name, root, role, addedAt: this.clock.now() },
          ...{ device: UNKNOWN_DEVICE, disks: null, stated: null, below: null, heldBy: other },
        });
    });
    if (other)
      await this.own(root, file.id).catch(async (error: unknown) => {
        await this.work.write((manager) =>
          known
            ? manager.update(
                Volume,
                { id: file.id },
                { root: known.root, role: known.role, heldBy: known.heldBy },
              )
            : manager.delete(Volume, { id: file.id }),
        );
        throw error;
      });
    await this.lookAround();
    return this.get(file.id);
  }

  /**
   * Makes a known volume this archive's again, which another one had made its own. Throws `volume.folder` where that
   * cannot be written onto it.
   */
  async takeBack(id: string): Promise<void> {
    const { root, heldBy } = await this.get(id);
    const file = await this.readFile(root);
    const other = file && (await this.otherOwner(file));
    const note = (archive: ArchiveIdentity | null) =>
      this.work.write((manager) => manager.update(Volume, { id }, { heldBy: archive }));
    if (other) await note(other);
    await this.own(root, id).catch(async (error: unknown) => {
      if (other) await note(heldBy);
      throw error;
    });
    await this.lookAround();
  }

  /** What another archive left on a drive is taken in, or is let lie: this archive's own texts are written onto it again. */
  async settled(id: string): Promise<void> {
    await this.work.write((manager) => manager.update(Volume, { id }, { heldBy: null }));
    this.happenings.tell('volumes', {});
  }

  /** Writes into a volume's id file that it is this archive's alone. Who had it is known before: nothing on the drive says it afterwards. */
  private async own(root: string, id: string): Promise<void> {
    const refuse = (reason: string): never => {
      throw new ArkivError('volume.folder', { path: root, reason });
    };
    const place = path.join(root, VOLUME_FILE);
    const text = await readOwn(this.disk, place);
    const file = text === null ? null : readVolumeFile(text);
    if (file?.id !== id) return refuse('it is another drive by now');
    const signed = `${JSON.stringify({ ...file, archives: [await this.settings.archive()] }, null, 2)}\n`;
    const written = await replaceOwn(this.disk, place, signed, sha256Of(text!), id).catch((error: Error) =>
      refuse(`its id file cannot be written (${error.message})`),
    );
    if (!written) refuse('its id file was changed in this moment');
  }

  /** Drives say that they are this archive's, and no more that they are of an empty one that it was before. */
  async signAnew(): Promise<void> {
    this.signSoon();
    await this.looking;
  }

  private signSoon(): void {
    if (this.stopped) return;
    this.looking = this.looking
      .then(() => this.signAll())
      .catch((error: unknown) => this.log.error((error as Error).stack));
  }

  /** Writes this archive's id and name into the id file of every volume that is there. */
  private async signAll(): Promise<void> {
    for (const volume of await this.all()) await this.sign(volume);
  }

  /**
   * A volume that is away, or cannot be written to, is signed another time: it is known by its own id anyway. One that another archive
   * made its own is left alone.
   */
  private async sign(volume: Volume): Promise<void> {
    if (!(await this.isOnline(volume))) return;
    const own = await this.settings.archive();
    const former = await this.settings.formerIds();
    const place = path.join(volume.root, VOLUME_FILE);
    try {
      const text = await readOwn(this.disk, place);
      const file = text === null ? null : readVolumeFile(text);
      if (text === null || file?.id !== volume.id) return;
      // Another archive may have made it its own since it was looked at.
      if (await this.otherOwner(file)) return;
      const others = (file.archives ?? []).filter(({ id }) => id !== own.id && !former.includes(id));
      const signed = `${JSON.stringify({ ...file, archives: [...others, own] }, null, 2)}\n`;
      if (signed !== text) await replaceOwn(this.disk, place, signed, sha256Of(text), volume.id);
    } catch (error) {
      if (diskErrorCode(error) === null) throw error;
    }
  }

  /**
   * Makes sure that the volume is there and is the one we mean; an unmounted mount point is an empty folder.
   * To be called before each batch of work. Throws `volume.offline`, `volume.silent`, `volume.changed` or `volume.taken`.
   */
  async check(volume: Volume): Promise<void> {
    await this.probe(volume);
  }

  private async probe(volume: Volume): Promise<Probe> {
    let probe: Probe | null = null;
    try {
      probe = await this.disk.probe(volume.root, VOLUME_FILE);
    } catch (error) {
      const code = diskErrorCode(error);
      if (code === null) throw error;
      if (code === NO_ANSWER) throw new ArkivError('volume.silent', { volume: volume.name });
    }
    const file = probe?.text ? readVolumeFile(probe.text) : null;
    if (!probe || !file) throw new ArkivError('volume.offline', { volume: volume.name });
    if (file.id !== volume.id) throw new ArkivError('volume.changed', { volume: volume.name });
    const other = await this.otherOwner(file);
    if (other) throw new ArkivError('volume.taken', { volume: volume.name, archive: other.name });
    return probe;
  }

  /** The path on this machine. Throws `path.outside` for anything that would leave the volume. */
  resolve(volume: Volume, relative: string): Promise<string> {
    return resolveBelow(this.disk, volume.root, volume.name, relative);
  }

  /** The archive that a drive belongs to, where that is another one. Those that two had signed before each had its own are both's. */
  private async otherOwner({ archives = [] }: VolumeFile): Promise<ArchiveIdentity | null> {
    const own = [(await this.settings.archive()).id, ...(await this.settings.formerIds())];
    return archives.some(({ id }) => own.includes(id)) ? null : (archives[0] ?? null);
  }

  private async readFile(root: string): Promise<VolumeFile | null> {
    const text = await readOwn(this.disk, path.join(root, VOLUME_FILE));
    return text === null ? null : readVolumeFile(text);
  }
}

/** Whether a mount can be taken off: not the system's own, and not one that only a simulation plays. */
const canEject = (mount: Mount | null): boolean => mount !== null && mount.point !== '/' && !mount.simulated;

/** The disks a volume lies on: by the owner's word where he gave one. */
export const disksOf = ({ stated, disks }: Pick<Volume, 'stated' | 'disks'>): Disks =>
  stated === null ? disks : statedDisks(stated);

function readVolumeFile(text: string): VolumeFile | null {
  try {
    const file = JSON.parse(text) as VolumeFile;
    return typeof file.id === 'string' && file.id !== '' ? file : null;
  } catch {
    return null;
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
