import path from 'node:path';
import { Injectable, type OnModuleInit } from '@nestjs/common';
import { ArkivError } from '@arkiv/core';
import { ArkivConfig } from '../config/config';
import { Disk } from '../disk/disk';
import { EventsService } from '../events/events.service';
import { ReadersService, type ReaderInfo, type ReaderSource } from '../readers/readers.service';
import { VolumesService } from '../volumes/volumes.service';
import type { VolumeRole } from '../volumes/volume.entity';

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
 * the data directory. A card in a slot is a link to its folder; ejecting takes the link away, so whatever still
 * reads the card fails as it would with a real one.
 */
@Injectable()
export class StandInsService implements ReaderSource, OnModuleInit {
  private readonly root: string;

  constructor(
    config: ArkivConfig,
    private readonly disk: Disk,
    private readonly readers: ReadersService,
    private readonly volumes: VolumesService,
    private readonly events: EventsService,
  ) {
    this.root = path.join(config.dataDir, 'stand-ins');
  }

  async onModuleInit(): Promise<void> {
    await this.disk.makeFolders(path.join(this.root, 'cards'));
    await this.disk.makeFolders(path.join(this.root, 'reader'));
    for (const { folder, name, role } of VOLUMES) {
      const root = path.join(this.root, 'volumes', folder);
      await this.disk.makeFolders(root);
      await this.volumes.add({ root, name, role, device: `stand-in ${folder}` });
    }
    this.readers.addSource(this);
  }

  /** The cards that lie on the table: folder names under stand-ins/cards. */
  async cards(): Promise<string[]> {
    return (await this.disk.names(path.join(this.root, 'cards'))).map(String).sort();
  }

  async list(): Promise<ReaderInfo[]> {
    return Promise.all(
      SLOTS.map(async ({ id, name }): Promise<ReaderInfo> => ({
        id,
        name,
        kind: 'stand-in',
        card: (await this.rootOf(id))?.card ?? null,
      })),
    );
  }

  async rootOf(id: string): Promise<{ root: string; card: string } | null> {
    const place = this.place(id);
    if (!place || (await this.disk.facts(place))?.kind !== 'link') return null;
    // Paths go through the link, so that ejecting is felt at once.
    return { root: place, card: path.basename(await this.disk.realPath(place)) };
  }

  async insert(id: string, card: string): Promise<void> {
    const place = this.place(id);
    if (!place) throw new ArkivError('not-found', { what: 'slot', id });
    if (!(await this.cards()).includes(card)) throw new ArkivError('not-found', { what: 'card', id: card });
    await this.eject(id);
    await this.disk.symlink(path.join(this.root, 'cards', card), place);
    this.events.publish('readers', { inserted: id });
  }

  async eject(id: string): Promise<boolean> {
    const place = this.place(id);
    if (!place) return false;
    if ((await this.disk.facts(place))?.kind === 'link') await this.disk.unlink(place);
    this.events.publish('readers', { ejected: id });
    return true;
  }

  private place(id: string): string | null {
    return SLOTS.some((slot) => slot.id === id) ? path.join(this.root, 'reader', id) : null;
  }
}
