import path from 'node:path';
import { Injectable, type OnModuleInit } from '@nestjs/common';
import { ArkivError } from '@arkiv/core';
import { ArkivConfig } from '../config/config';
import { Disk } from '../disk/disk';
import { Happenings } from '../events/domainEvents';
import { MountsService } from '../mounts/mounts.service';
import { VolumesService } from '../volumes/volumes.service';
import type { VolumeRole } from '../volumes/volume.entity';
import { readMailbox, type StandInMail } from './servers/mailbox';
import { StandInServers } from './servers/standInServers';
import { DRIVE_WELL, SLOT_WELL, StandInFaults } from './standInFaults';
import type { ChangeDriveDto, ChangeServerDto, ChangeSlotDto, StandInsDto } from './standins.dto';

const SLOTS = [
  { id: 'slot-1', name: 'Reader 1' },
  { id: 'slot-2', name: 'Reader 2' },
] as const;
const VOLUMES: { folder: string; name: string; role: VolumeRole }[] = [
  { folder: 'working', name: 'Working drive', role: 'working' },
  { folder: 'backup', name: 'Backup drive', role: 'backup' },
  { folder: 'edit', name: 'Edit drive', role: 'edit' },
];

/**
 * Plays the devices that the demo has none of: a card reader with two slots and three drives, all folders under
 * the data directory. A card in a slot is a link to its folder; taking it out takes the link away and fails what
 * still reads it, as with a real one. How they fail on demand is in StandInDisk.
 */
@Injectable()
export class StandInsService implements OnModuleInit {
  private readonly root: string;

  constructor(
    config: ArkivConfig,
    private readonly disk: Disk,
    private readonly mounts: MountsService,
    private readonly volumes: VolumesService,
    private readonly happenings: Happenings,
    private readonly faults: StandInFaults,
    private readonly servers: StandInServers,
  ) {
    // The full path: drives are known by it, and the working directory may be anywhere.
    this.root = path.resolve(config.dataDir, 'stand-ins');
  }

  async onModuleInit(): Promise<void> {
    await this.disk.makeFolders(path.join(this.root, 'cards'));
    await this.disk.makeFolders(path.join(this.root, 'reader'));
    for (const { id, name } of SLOTS)
      this.faults.slots.set(id, {
        id,
        name,
        root: this.place(id)!,
        faults: SLOT_WELL,
        inserted: 0,
        freeAt: 0,
      });
    this.faults.pull = (id) => this.pull(id);
    for (const { folder, name, role } of VOLUMES) {
      const root = path.join(this.root, 'volumes', folder);
      await this.disk.makeFolders(root);
      // Known as a drive before it is added, so that its device is the drive and not the disk of this folder.
      const real = await this.disk.realPath(root);
      this.faults.drives.set(folder, { id: folder, root: real, faults: DRIVE_WELL });
      await this.volumes.add({ root, name, role, takeOver: true });
    }
    await this.mounts.settled();
    await this.servers.begin();
  }

  async all(): Promise<StandInsDto> {
    const slots = await this.slots();
    return {
      servers: await this.servers.all(),
      cards: await this.cards(),
      slots: slots.map(({ id, name, card }) => {
        const { bytesPerSecond, pullAfterBytes, unreadable } = this.faults.slots.get(id)!.faults;
        return { id, name, card, bytesPerSecond, pullAfterBytes, unreadable: [...unreadable] };
      }),
      drives: VOLUMES.map(({ folder, name }) => ({
        id: folder,
        name,
        ...(this.faults.drives.get(folder)?.faults ?? DRIVE_WELL),
      })),
    };
  }

  async changeSlot(id: string, change: ChangeSlotDto): Promise<StandInsDto> {
    const slot = this.faults.slots.get(id);
    if (!slot) throw new ArkivError('not-found', { what: 'slot', id });
    slot.faults = {
      bytesPerSecond:
        change.bytesPerSecond === undefined ? slot.faults.bytesPerSecond : change.bytesPerSecond,
      pullAfterBytes:
        change.pullAfterBytes === undefined ? slot.faults.pullAfterBytes : change.pullAfterBytes,
      unreadable: change.unreadable ?? slot.faults.unreadable,
    };
    this.happenings.tell('readers', { changed: id });
    return this.all();
  }

  async changeServer(id: string, change: ChangeServerDto): Promise<StandInsDto> {
    await this.servers.change(id, change);
    return this.all();
  }

  mailbox(): Promise<StandInMail[]> {
    return readMailbox(this.disk, this.servers.mailbox());
  }

  async changeDrive(id: string, change: ChangeDriveDto): Promise<StandInsDto> {
    const drive = this.faults.drives.get(id);
    if (!drive) throw new ArkivError('not-found', { what: 'drive', id });
    drive.faults = { state: change.state, bytesUntilFull: change.bytesUntilFull ?? null };
    await this.mounts.settled();
    this.happenings.tell('volumes', { changed: id });
    return this.all();
  }

  /** The cards that lie on the table: folder names under stand-ins/cards. */
  async cards(): Promise<string[]> {
    const names = (await this.disk.names(path.join(this.root, 'cards'))).map(String);
    // A card that is still being made bears another name until it is whole.
    return names.filter((name) => !name.endsWith('.making')).sort();
  }

  private async slots(): Promise<{ id: string; name: string; card: string | null }[]> {
    const mounts = await this.mounts.now();
    return SLOTS.map(({ id, name }) => ({
      id,
      name,
      card: mounts.find(({ mount }) => mount.reader?.id === id)?.mount.name ?? null,
    }));
  }

  async insert(id: string, card: string): Promise<void> {
    const place = this.place(id);
    if (!place) throw new ArkivError('not-found', { what: 'slot', id });
    if (!(await this.cards()).includes(card)) throw new ArkivError('not-found', { what: 'card', id: card });
    const elsewhere = (await this.slots()).find((slot) => slot.card === card && slot.id !== id);
    if (elsewhere) await this.pull(elsewhere.id);
    await this.pull(id);
    await this.disk.symlink(path.join(this.root, 'cards', card), place);
    await this.mounts.settled();
  }

  /** Takes the card out at once; another card starts without the faults of this one. */
  async pull(id: string): Promise<void> {
    const place = this.place(id);
    const slot = this.faults.slots.get(id);
    if (!place || !slot) throw new ArkivError('not-found', { what: 'slot', id });
    slot.inserted += 1;
    slot.faults = { ...SLOT_WELL, bytesPerSecond: slot.faults.bytesPerSecond };
    if ((await this.disk.facts(place))?.kind === 'link') await this.disk.unlink(place);
    await this.mounts.settled();
  }

  private place(id: string): string | null {
    return SLOTS.some((slot) => slot.id === id) ? path.join(this.root, 'reader', id) : null;
  }
}
