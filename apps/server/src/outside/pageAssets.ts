import path from 'node:path';
import { Injectable } from '@nestjs/common';
import { ArkivConfig } from '../config/config';
import { Disk } from '../disk/disk';
import { readOwnBytes, sha256Of } from '../disk/place';
import type { PageFiles } from './page';

/** Characters of a digest that tell two versions apart. */
const DIGEST = 12;

/** What is built for each page: its script; the style is for all, and `hash.js` reads files for their checksums. */
const FILES = { gallery: 'gallery.js', upload: 'upload.js', hash: 'hash.js', style: 'gallery.css' } as const;

/** Scripts and style of the pages outside, as they were built: a few files of their own, nothing of the application's. */
@Injectable()
export class PageAssets {
  readonly names: readonly string[] = Object.values(FILES);
  private known: Promise<PageFiles> | null = null;

  constructor(
    private readonly config: ArkivConfig,
    private readonly disk: Disk,
  ) {}

  files(): Promise<PageFiles> {
    this.known ??= this.look();
    return this.known;
  }

  place(name: string): string {
    return path.resolve(this.config.galleryDir || path.join(this.config.webDir, '../../gallery/dist'), name);
  }

  private async look(): Promise<PageFiles> {
    const at = async (name: string) => {
      const bytes = await readOwnBytes(this.disk, this.place(name)).catch(() => null);
      return `/${name}${bytes ? `?${sha256Of(bytes).slice(0, DIGEST)}` : ''}`;
    };
    const { gallery, upload, hash, style } = FILES;
    return {
      gallery: await at(gallery),
      upload: await at(upload),
      hash: await at(hash),
      style: await at(style),
    };
  }
}
