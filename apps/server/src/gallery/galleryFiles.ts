import path from 'node:path';
import { Injectable } from '@nestjs/common';
import { ArkivConfig } from '../config/config';
import { Disk } from '../disk/disk';
import { discard, removeEmptyFolders } from '../disk/place';
import { placeProven } from '../disk/provenBytes';
import type { GalleryFrame } from '../ledger/gallery.entity';
import { SIZE_NAMES, SIZES, type GallerySize } from './galleryLook';

type Named = Pick<GalleryFrame, 'galleryId' | 'key' | 'version'>;

/** The pictures of galleries, in the data folder: they can be made again, and are there while drives are not. */
@Injectable()
export class GalleryFiles {
  constructor(
    private readonly config: ArkivConfig,
    private readonly disk: Disk,
  ) {}

  place({ galleryId, key, version }: Named, size: GallerySize): string {
    return path.join(this.folder(galleryId), `${key}-${version}-${size}.${SIZES[size]}`);
  }

  async put(frame: Named, size: GallerySize, bytes: Uint8Array, job: string): Promise<void> {
    await placeProven(this.disk, this.place(frame, size), bytes, { job, over: [] });
  }

  async areThere(frame: Named): Promise<boolean> {
    for (const size of SIZE_NAMES) if (!(await this.disk.facts(this.place(frame, size)))) return false;
    return true;
  }

  /** Takes away a picture in all its sizes. */
  async drop(frame: Named): Promise<void> {
    for (const size of SIZE_NAMES) await discard(this.disk, this.place(frame, size));
  }

  async dropAll(galleryId: string, frames: readonly Named[]): Promise<void> {
    for (const frame of frames) await this.drop(frame);
    const folder = this.folder(galleryId);
    if (await this.disk.facts(folder)) await removeEmptyFolders(this.disk, folder);
  }

  private folder(galleryId: string): string {
    return path.join(this.config.dataDir, 'galleries', galleryId);
  }
}
