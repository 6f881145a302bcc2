import { Injectable, Logger, type OnApplicationBootstrap } from '@nestjs/common';
import { ARCHIVE_FOLDER } from '@arkiv/core';
import { Reading, UnitOfWork } from '../db/unitOfWork';
import { Happenings } from '../events/domainEvents';
import { SettingsService, type StudioSettings } from '../settings/settings.service';
import { VolumesService } from '../volumes/volumes.service';
import type { Volume } from '../volumes/volume.entity';
import { DueTexts } from './dueTexts.service';
import { OwnText } from './ownText.entity';
import { OwnTextsService } from './ownTexts.service';

/** What the studio has decided, in the archive's own folder at the root of a drive. */
const STUDIO = `${ARCHIVE_FOLDER}/studio.json`;
/** The text of a list now; null: there is nothing to say. */
type MakeText = () => Promise<string | null>;

/** What is this machine's and says nothing of the archive. */
const OWN_MACHINES: readonly (keyof StudioSettings)[] = ['welcomed', 'previewGigabytes', 'programs'];

/**
 * What belongs to the archive as a whole, mirrored to each of its drives: a drive that is found in a drawer says by
 * itself which archive it is of and by which rules, plans and labels that was kept.
 */
@Injectable()
export class ArchiveTexts implements OnApplicationBootstrap {
  private readonly log = new Logger('texts');
  private readonly lists = new Map<string, MakeText>();

  constructor(
    private readonly reading: Reading,
    private readonly work: UnitOfWork,
    private readonly volumes: VolumesService,
    private readonly settings: SettingsService,
    private readonly texts: OwnTextsService,
    private readonly due: DueTexts,
    happenings: Happenings,
  ) {
    due.register('archive', (volume, path) => this.write(volume, path));
    this.lists.set(STUDIO, () => this.studio());
    happenings.on('settings', () => this.try(this.owe(STUDIO, () => true)));
    happenings.on('volumes', () => this.try(this.oweNew()));
  }

  /** Another list of the archive's, by its name; whoever keeps it says when it has changed. */
  list(name: string, make: MakeText): void {
    this.lists.set(`${ARCHIVE_FOLDER}/${name}`, make);
  }

  changed(name: string): void {
    this.try(this.owe(`${ARCHIVE_FOLDER}/${name}`, () => true));
  }

  onApplicationBootstrap(): void {
    this.try(this.oweNew());
  }

  /** What could not be noted is noted with the next change, or at the next start. */
  private try(noting: Promise<void>): void {
    noting.catch((error: unknown) => this.log.warn((error as Error).message));
  }

  /** Drives that have none yet get one; as long as nothing was decided there is nothing to say. */
  private async oweNew(): Promise<void> {
    const { welcomed } = await this.settings.all();
    for (const [path, make] of this.lists) {
      if ((path === STUDIO && !welcomed) || (await make()) === null) continue;
      const known = await this.reading.manager.findBy(OwnText, { path });
      const have = new Set(known.map(({ volumeId }) => volumeId));
      await this.owe(path, ({ id }) => !have.has(id));
    }
  }

  private async owe(path: string, which: (volume: Volume) => boolean): Promise<void> {
    const ids = (await this.volumes.all())
      .filter((volume) => volume.role !== 'edit' && which(volume))
      .map(({ id }) => id);
    if (ids.length === 0) return;
    await this.work.write((manager) => this.due.owe(manager, ids, 'archive', path));
    this.due.soon();
  }

  private async write(volume: Volume, path: string): Promise<void> {
    const text = await this.lists.get(path)?.();
    if (text != null) await this.texts.keepTrue(volume, path, text, 'archive');
  }

  private async studio(): Promise<string> {
    const all = Object.entries(await this.settings.all());
    const studio = Object.fromEntries(
      all.filter(([key]) => !OWN_MACHINES.includes(key as keyof StudioSettings)),
    );
    const facts = { schema: 1, archive: await this.settings.archive(), ...studio };
    return `${JSON.stringify(facts, null, 1)}\n`;
  }
}
