import path from 'node:path';
import { Injectable } from '@nestjs/common';
import { ArkivError, MAKER_VERSION, SHOOT_FOLDER } from '@arkiv/core';
import { Disk, diskErrorCode } from '../disk/disk';
import { placeNew } from '../disk/place';
import type { Volume } from '../volumes/volume.entity';
import { VolumesService } from '../volumes/volumes.service';
import { PICTURE_KEY, PreviewsService } from './previews.service';
import { isImage, MAX_PREVIEW, previewFile, previewNamed, PreviewStore } from './previewStore';

/** What a sheet shows, and what a screen shows. */
const SIZES = ['thumb', 'screen'] as const;

/**
 * Previews that travel with a shoot on a drive, in the shoot's own folder: where most of its files stay at home it can be looked through, and
 * decided on, all the same.
 */
@Injectable()
export class TravellingPreviews {
  constructor(
    private readonly disk: Disk,
    private readonly volumes: VolumesService,
    private readonly previews: PreviewsService,
    private readonly store: PreviewStore,
  ) {}

  /**
   * Puts the previews of a picture beside a shoot; what is there already stays. Returns the bytes that were written. Throws as making a preview
   * does, and as writing to a drive does.
   */
  async put(volume: Volume, shootFolder: string, picture: string, job: string): Promise<number> {
    let written = 0;
    for (const size of SIZES) {
      const at = `${folderOf(shootFolder)}/${previewFile(picture, size)}`;
      const file = await this.volumes.resolve(volume, at);
      if (await this.disk.facts(file)) continue;
      // A thumbnail that stands in until its own is made is as good on the way.
      const { bytes } = await this.previews.find(picture, size);
      await placeNew(this.disk, file, bytes, job);
      written += bytes.byteLength;
    }
    return written;
  }

  /** Pictures of which all previews lie beside a shoot. */
  async there(volume: Volume, shootFolder: string): Promise<Set<string>> {
    const names = new Set(await this.namesIn(await this.volumes.resolve(volume, folderOf(shootFolder))));
    const keys = [...names].flatMap((name) => previewNamed(name)?.key ?? []);
    return new Set(keys.filter((key) => SIZES.every((size) => names.has(previewFile(key, size)))));
  }

  /** Keeps previews of these pictures that lie beside a shoot, where none are kept yet. Returns how many pictures came. */
  async bring(volume: Volume, shootFolder: string, pictures: ReadonlySet<string>): Promise<number> {
    const folder = await this.volumes.resolve(volume, folderOf(shootFolder));
    const came = new Set<string>();
    for (const name of await this.namesIn(folder)) {
      const { key, size } = previewNamed(name) ?? { key: '', size: 'look' as const };
      const isMeant = SIZES.some((one) => one === size) && PICTURE_KEY.test(key) && pictures.has(key);
      if (!isMeant || (await this.store.has(key, size))) continue;
      const bytes = await this.readFrom(path.join(folder, name));
      // A drive that comes from elsewhere may hold anything under such a name.
      if (!bytes || !isImage(bytes)) continue;
      await this.store.keep(key, size, bytes);
      came.add(key);
    }
    return came.size;
  }

  private async namesIn(folder: string): Promise<string[]> {
    if ((await this.disk.facts(folder))?.kind !== 'folder') return [];
    return (await this.disk.names(folder)).map(String).sort();
  }

  /** Null for what cannot be read: it is made when its picture is there. */
  private async readFrom(file: string): Promise<Buffer | null> {
    if ((await this.disk.facts(file))?.kind !== 'file') return null;
    try {
      return await this.disk.readAll(file, MAX_PREVIEW);
    } catch (error) {
      if (!(error instanceof ArkivError) && diskErrorCode(error) === null) throw error;
      return null;
    }
  }
}

/** Those of another maker are not looked at: this one would make them otherwise. */
const folderOf = (shootFolder: string): string => `${shootFolder}/${SHOOT_FOLDER}/previews/v${MAKER_VERSION}`;
