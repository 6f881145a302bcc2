import path from 'node:path';
import { Injectable, type BeforeApplicationShutdown } from '@nestjs/common';
import { ArkivError, INCOMPLETE, isDecoded, pictureOf, type PreviewSize } from '@arkiv/core';
import { Reading, UnitOfWork } from '../db/unitOfWork';
import { EventsService } from '../events/events.service';
import { Asset } from '../frames/asset.entity';
import { Frame } from '../frames/frame.entity';
import { FramesService } from '../frames/frames.service';
import { Contents } from '../metadata/contents.service';
import { noPicture } from '../pictures/noPicture';
import { PictureMaker, SCREEN_SIDE, THUMB_SIDE } from '../pictures/pictureMaker';
import type { PictureSource } from '../pictures/picture.worker';
import { Posters } from '../pictures/posters';
import { ShootsService } from '../shoots/shoots.service';
import { PreviewStore } from './previewStore';

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
  private readonly making = new Map<string, Promise<void>>();
  private readonly waiting: string[] = [];
  private busy = 0;
  /** intakes that are copying: proof comes before pictures that nobody has asked for yet */
  private readonly copying = new Set<string>();

  constructor(
    private readonly store: PreviewStore,
    private readonly reading: Reading,
    private readonly work: UnitOfWork,
    private readonly frames: FramesService,
    private readonly shoots: ShootsService,
    private readonly contents: Contents,
    private readonly maker: PictureMaker,
    private readonly posters: Posters,
    private readonly events: EventsService,
  ) {
    events.stream.subscribe(({ type, data }) => {
      const job = data as { id: string; kind: string; state: string };
      if (type !== 'job' || job.kind !== 'intake') return;
      if (job.state === 'running') this.copying.add(job.id);
      else if (this.copying.delete(job.id)) void this.carryOn();
    });
  }

  /** The bytes of a preview; makes it first where it is not kept yet. */
  async get(sha256: string, size: PreviewSize): Promise<Buffer> {
    if (!/^[0-9a-f]{64}$/.test(sha256)) throw new ArkivError('not-found', { what: 'picture', id: sha256 });
    for (let tries = 0; tries < 2; tries++) {
      const kept = await this.store.read(sha256, size);
      if (kept) return kept;
      try {
        await this.once(sha256, size);
      } catch (error) {
        const away = error instanceof ArkivError && error.code === 'volume.offline';
        const older = away && size === 'thumb' ? await this.store.older(sha256) : null;
        if (older) return older;
        throw error;
      }
    }
    throw new ArkivError('not-found', { what: 'preview', id: sha256 });
  }

  /**
   * Makes thumbnail and screen preview in the background, one after another, when no card is being copied. What a
   * screen asks for is made at once.
   */
  later(sha256: string): void {
    this.waiting.push(sha256);
    void this.carryOn();
  }

  beforeApplicationShutdown(): void {
    this.waiting.length = 0;
  }

  private async carryOn(): Promise<void> {
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
    void this.carryOn();
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
      await this.store.keep(sha256, 'thumb', thumb);
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
      if (!whole) await this.sign(found.asset, INCOMPLETE);
      throw noPicture(found.name, found.asset);
    }
    const made = await this.maker.previews(found.name, source, THUMB_SIDE, SCREEN_SIDE);
    await this.sign(found.asset, made.incomplete || !whole ? INCOMPLETE : null);
    await this.store.keep(sha256, 'thumb', made.thumb);
    await this.store.keep(sha256, 'screen', made.screen);
  }

  /** Says at a frame what was seen when its picture was decoded; nothing is written where that is known. */
  private async sign({ frameId }: Asset, sign: string | null): Promise<void> {
    const frame = frameId === null ? null : await this.reading.manager.findOneBy(Frame, { id: frameId });
    if (!frame || frame.sign === sign) return;
    const { id, shootId } = frame;
    const revision = await this.work.write(async (manager) => {
      await manager.update(Frame, { id }, { sign });
      return this.shoots.touch(manager, shootId);
    });
    this.events.publish('frames', { shootId, revision });
  }

  private async makeEmbedded(sha256: string): Promise<void> {
    const found = await this.locate(sha256);
    const { asset, name, file, orientation } = found;
    const { bytes } = await this.contents.embedded(file, asset, 'largest');
    if (!bytes) throw noPicture(found.name, found.asset);
    const upright =
      orientation === 1 ? bytes : await this.maker.embedded(name, { input: bytes, orientation });
    await this.store.keep(sha256, 'embedded', upright);
  }

  /** What to decode for an asset; throws `picture.none` where nothing in it can be shown. */
  async source(sha256: string): Promise<{ name: string; source: PictureSource }> {
    const found = await this.locate(sha256);
    const { source } = await this.inside(found);
    if (!source) throw noPicture(found.name, found.asset);
    return { name: found.name, source };
  }

  /** The picture itself where it can be decoded, else the largest that the camera put in, or a clip's poster. */
  private async inside(found: Located): Promise<{ source: PictureSource | null; whole: boolean }> {
    const { asset, file, orientation } = found;
    if (asset.role === 'clip') {
      const poster = await this.posters.of(file);
      return { source: poster && { input: poster, orientation: 1 }, whole: true };
    }
    if (isDecoded(asset)) return { source: { input: file, orientation: null }, whole: true };
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
}
