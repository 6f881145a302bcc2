import path from 'node:path';
import { Injectable, type BeforeApplicationShutdown } from '@nestjs/common';
import {
  ArkivError,
  formatWords,
  INCOMPLETE,
  MAKER_VERSION,
  NOT_DECODED,
  pictureOf,
  type PreviewSize,
} from '@arkiv/core';
import { ArkivConfig } from '../config/config';
import { Reading } from '../db/unitOfWork';
import { Disk } from '../disk/disk';
import { placeNew } from '../disk/place';
import { EventsService } from '../events/events.service';
import { Asset } from '../frames/asset.entity';
import { Frame } from '../frames/frame.entity';
import { FramesService } from '../frames/frames.service';
import { Contents } from '../metadata/contents.service';
import { PictureMaker, SCREEN_SIDE, THUMB_SIDE } from '../pictures/pictureMaker';
import type { PictureSource } from '../pictures/picture.worker';
import { Posters } from '../pictures/posters';

const FILE = { thumb: 'thumb.webp', screen: 'screen.jpg', embedded: 'embedded.jpg' } as const;
export const PREVIEW_TYPE = { thumb: 'image/webp', screen: 'image/jpeg', embedded: 'image/jpeg' } as const;

interface Located {
  asset: Asset;
  name: string;
  file: string;
  /** Exif orientation 1…8 of its frame */
  orientation: number;
}

/** Previews by content: made once in child processes, kept under the hash of their original, served for ever. */
@Injectable()
export class PreviewsService implements BeforeApplicationShutdown {
  private readonly keeping = new Map<string, Promise<void>>();
  private readonly making = new Map<string, Promise<void>>();
  private readonly waiting: string[] = [];
  private busy = 0;
  /** intakes that are copying: proof comes before pictures that nobody has asked for yet */
  private readonly copying = new Set<string>();

  constructor(
    private readonly config: ArkivConfig,
    private readonly disk: Disk,
    private readonly reading: Reading,
    private readonly frames: FramesService,
    private readonly contents: Contents,
    private readonly maker: PictureMaker,
    private readonly posters: Posters,
    events: EventsService,
  ) {
    events.stream.subscribe(({ type, data }) => {
      const job = data as { id: string; kind: string; state: string };
      if (type !== 'job' || job.kind !== 'intake') return;
      if (job.state === 'running') this.copying.add(job.id);
      else if (this.copying.delete(job.id)) void this.work();
    });
  }

  /** The bytes of a preview; makes it first where it is not kept yet. */
  async get(sha256: string, size: PreviewSize): Promise<Buffer> {
    if (!/^[0-9a-f]{64}$/.test(sha256)) throw new ArkivError('not-found', { what: 'picture', id: sha256 });
    const file = this.place(sha256, size);
    if (!(await this.disk.facts(file))) await this.once(sha256, size);
    return this.disk.readAll(file, MAX_PREVIEW);
  }

  /**
   * Makes thumbnail and screen preview in the background, one after another, when no card is being copied. What a
   * screen asks for is made at once.
   */
  later(sha256: string): void {
    this.waiting.push(sha256);
    void this.work();
  }

  beforeApplicationShutdown(): void {
    this.waiting.length = 0;
  }

  private async work(): Promise<void> {
    // One of the two processes stays free for what is on screen.
    if (this.busy >= 1 || this.copying.size > 0) return;
    const next = this.waiting.shift();
    if (!next) return;
    this.busy += 1;
    try {
      await this.get(next, 'screen');
    } catch {
      // The frame shows its message when someone looks at it.
    } finally {
      this.busy -= 1;
    }
    void this.work();
  }

  private async once(sha256: string, size: PreviewSize): Promise<void> {
    const key = `${sha256}.${size}`;
    let making = this.making.get(key);
    if (!making) {
      making = this.make(sha256, size).finally(() => this.making.delete(key));
      this.making.set(key, making);
    }
    await making;
  }

  private async make(sha256: string, size: PreviewSize): Promise<void> {
    if (size === 'embedded') return this.makeEmbedded(sha256);
    // A sheet of thumbnails must not wait for whole pictures to be decoded.
    if (size === 'thumb' && (await this.makeQuickThumb(sha256))) return;
    return this.makeDecoded(sha256);
  }

  /** A thumbnail from the picture that the camera put into the file: twenty times quicker. False where it has none. */
  private async makeQuickThumb(sha256: string): Promise<boolean> {
    const { asset, name, file, orientation } = await this.locate(sha256);
    const { bytes: input } = await this.contents.embedded(file, asset, 'largest');
    if (!input) return false;
    try {
      const { thumb, width } = await this.maker.previews(
        name,
        { input, orientation },
        THUMB_SIDE,
        THUMB_SIDE,
      );
      if (width < THUMB_SIDE / 2) return false;
      await this.keep(sha256, 'thumb', thumb);
      return true;
    } catch {
      // What is wrong with the file is said when the picture itself is decoded.
      return false;
    }
  }

  private async makeDecoded(sha256: string): Promise<void> {
    const found = await this.locate(sha256);
    const { source, whole } = await this.inside(found);
    if (!source) {
      if (!whole) await this.frames.setSign(found.asset, INCOMPLETE);
      throw noPicture(found);
    }
    const made = await this.maker.previews(found.name, source, THUMB_SIDE, SCREEN_SIDE);
    await this.frames.setSign(found.asset, made.incomplete || !whole ? INCOMPLETE : null);
    await this.keep(sha256, 'thumb', made.thumb);
    await this.keep(sha256, 'screen', made.screen);
  }

  private async makeEmbedded(sha256: string): Promise<void> {
    const found = await this.locate(sha256);
    const { asset, name, file, orientation } = found;
    const { bytes } = await this.contents.embedded(file, asset, 'largest');
    if (!bytes) throw noPicture(found);
    const upright =
      orientation === 1 ? bytes : await this.maker.embedded(name, { input: bytes, orientation });
    await this.keep(sha256, 'embedded', upright);
  }

  /** What to decode for an asset; throws `picture.none` where nothing in it can be shown. */
  async source(sha256: string): Promise<{ name: string; source: PictureSource }> {
    const found = await this.locate(sha256);
    const { source } = await this.inside(found);
    if (!source) throw noPicture(found);
    return { name: found.name, source };
  }

  /** The picture itself where it can be decoded, else the largest that the camera put in, or a clip's poster. */
  private async inside(found: Located): Promise<{ source: PictureSource | null; whole: boolean }> {
    const { asset, file, orientation } = found;
    if (asset.role === 'clip') {
      const poster = await this.posters.of(file);
      return { source: poster && { input: poster, orientation: 1 }, whole: true };
    }
    if (!asset.raw && !NOT_DECODED.includes(asset.format))
      return { source: { input: file, orientation: null }, whole: true };
    const { bytes, whole } = await this.contents.embedded(file, asset, 'largest');
    return { source: bytes && { input: bytes, orientation }, whole };
  }

  private async locate(sha256: string): Promise<Located> {
    const assets = await this.reading.manager.findBy(Asset, { sha256 });
    const asset = pictureOf(assets);
    if (!asset) throw new ArkivError('not-found', { what: 'picture', id: sha256 });
    const frame = asset.frameId ? await this.reading.manager.findOneBy(Frame, { id: asset.frameId }) : null;
    const { file } = await this.frames.locate(asset.id);
    return { asset, name: path.posix.basename(asset.path), file, orientation: frame?.orientation ?? 1 };
  }

  /** A thumbnail is made by two ways, perhaps at once: the second to come finds the first one's file, or waits for it. */
  private async keep(sha256: string, size: PreviewSize, bytes: Uint8Array): Promise<void> {
    const place = this.place(sha256, size);
    const under = this.keeping.get(place) ?? this.placeOnce(place, bytes);
    this.keeping.set(place, under);
    await under.finally(() => this.keeping.delete(place));
  }

  private async placeOnce(place: string, bytes: Uint8Array): Promise<void> {
    try {
      await placeNew(this.disk, place, bytes, 'preview');
    } catch (error) {
      // Made twice at once: the same picture is there already.
      if (!(error instanceof ArkivError && error.code === 'file.exists')) throw error;
    }
  }

  private place(sha256: string, size: PreviewSize): string {
    return path.join(
      this.config.dataDir,
      'previews',
      `v${MAKER_VERSION}`,
      sha256.slice(0, 2),
      `${sha256}.${FILE[size]}`,
    );
  }
}

function noPicture({ asset, name: file }: Located): ArkivError {
  return asset.role === 'clip'
    ? new ArkivError('picture.clip', { file })
    : new ArkivError('picture.none', { file, format: formatWords(asset.format) });
}

/** An embedded full-size picture of a 150-megapixel camera stays under 100 MB. */
const MAX_PREVIEW = 100 * 1024 * 1024;
