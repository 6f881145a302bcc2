import path from 'node:path';
import { Inject, Injectable, type OnApplicationBootstrap } from '@nestjs/common';
import { ArkivError } from '@arkiv/core';
import { ArkivConfig } from '../config/config';
import { ArchiveLock } from '../db/archiveLock';
import { databaseFile } from '../db/sources';
import { Disk } from '../disk/disk';
import { Happenings } from '../events/domainEvents';
import { SettingsService } from '../settings/settings.service';
import { Clock } from '../system/clock';
import { ArchiveList, type ListedArchive } from './archiveList';
import { Starter } from './starter';

export interface ArchiveHere {
  folder: string;
  name: string;
  /** it is the one that is asked */
  own: boolean;
  /** where it answers; null: it is closed, or has not told yet */
  address: string | null;
  /** a server has it open */
  open: boolean;
  /** its index is in its folder */
  there: boolean;
  /** when it was opened last, milliseconds since 1970 UTC */
  opened: number;
}

/** The archives of this computer: each has its own data directory and its own server. */
@Injectable()
export class ArchivesService implements OnApplicationBootstrap {
  private readonly list: ArchiveList;
  /** this archive's own entry, once it answers */
  private own: ListedArchive | null = null;

  constructor(
    @Inject(ArkivConfig) private readonly config: ArkivConfig,
    private readonly disk: Disk,
    private readonly settings: SettingsService,
    private readonly starter: Starter,
    private readonly clock: Clock,
    private readonly happenings: Happenings,
  ) {
    this.list = new ArchiveList(disk, config.archivesFile);
  }

  /** A new archive is called what it was made as; a name that it has is never changed so. */
  async onApplicationBootstrap(): Promise<void> {
    this.happenings.on('settings', () => void this.renamed());
    const { name } = this.config;
    if (name !== '' && (await this.settings.all()).archiveName === '')
      await this.settings.set({ archiveName: name });
  }

  /** Puts this archive on the list: its server answers at that port. */
  async answersAt(port: number): Promise<void> {
    const { id, name } = await this.settings.archive();
    this.own = { folder: this.config.dataDir, id, name, port, opened: this.clock.now() };
    await this.list.put(this.own);
  }

  private async renamed(): Promise<void> {
    if (this.own === null) return;
    const { id, name } = await this.settings.archive();
    if (this.own.name === name && this.own.id === id) return;
    this.own = { ...this.own, id, name };
    await this.list.put(this.own);
  }

  async all(): Promise<ArchiveHere[]> {
    const listed = await this.list.all();
    const own = this.config.dataDir;
    const others = listed.filter(({ folder }) => folder !== own);
    const { name } = await this.settings.archive();
    const opened = this.own?.opened ?? this.clock.now();
    return Promise.all([
      this.here({ folder: own, name, opened }),
      ...others.map((archive) => this.here(archive)),
    ]);
  }

  private async here({
    folder,
    name,
    opened,
  }: Pick<ListedArchive, 'folder' | 'name' | 'opened'>): Promise<ArchiveHere> {
    const there = (await this.disk.facts(databaseFile(folder)).catch(() => null))?.kind === 'file';
    const open = there && ArchiveLock.isHeld(folder);
    const address = open ? await ArchiveLock.addressOf(folder, this.disk) : null;
    return { folder, name, opened, there, open, address, own: folder === this.config.dataDir };
  }

  /**
   * Where an archive of the list answers; it is started where it does not yet. Throws `archive.unknown` where it is on no list,
   * `archive.gone` where its folder holds none, `archive.start` with what its server said.
   */
  async open(folder: string): Promise<{ address: string }> {
    const known = (await this.all()).find((one) => one.folder === folder);
    if (!known) throw new ArkivError('archive.unknown', { folder });
    if (!known.there) throw new ArkivError('archive.gone', { folder, archive: known.name });
    if (known.address !== null) return { address: known.address };
    return this.start(folder, known.name, null);
  }

  /**
   * Makes an archive in an empty folder, or in one that is made for it, and opens it; one that lies there already is opened as it is.
   * Throws `archive.folder` where it cannot be.
   */
  async add(name: string, folder: string): Promise<{ address: string }> {
    const refuse = (reason: string): never => {
      throw new ArkivError('archive.folder', { folder, reason });
    };
    if (!path.isAbsolute(folder)) refuse('it is not a full path');
    const at = path.resolve(folder);
    const facts = await this.disk.facts(at);
    if (facts && facts.kind !== 'folder') refuse('it is not a folder');
    const is = (await this.disk.facts(databaseFile(at)))?.kind === 'file';
    if (is) {
      const address = ArchiveLock.isHeld(at) ? await ArchiveLock.addressOf(at, this.disk) : null;
      return address === null ? this.start(at, name, null) : { address };
    }
    if (facts && (await this.disk.names(at)).length > 0) refuse('there is something else in it');
    await this.disk.makeFolders(at).catch((error: Error) => refuse(`it cannot be made (${error.message})`));
    return this.start(at, name, name);
  }

  /** Takes an archive off the list; its folder stays as it is. The one that is asked is always on it. */
  async forget(folder: string): Promise<void> {
    await this.list.drop(folder);
  }

  private async start(folder: string, archive: string, newName: string | null): Promise<{ address: string }> {
    const said = await this.starter.start(folder, newName);
    if ('failed' in said) throw new ArkivError('archive.start', { archive, reason: said.failed });
    return said;
  }
}
