import path from 'node:path';
import { Injectable, type BeforeApplicationShutdown } from '@nestjs/common';
import {
  ArkivError,
  changesShape,
  finishedKey,
  finishedSize,
  finishOf,
  finishText,
  INCOMPLETE,
  isDecoded,
  keyParts,
  pictureOf,
  withMeantProfile,
  type Detail,
  type Finish,
  type PreviewSize,
} from '@arkiv/core';
import { Reading, UnitOfWork } from '../db/unitOfWork';
import { Disk } from '../disk/disk';
import { sha256Of } from '../disk/place';
import { Copying } from '../events/copying';
import { Happenings } from '../events/domainEvents';
import type { PlacedAsset } from '../frames/asset.entity';
import { Frame } from '../frames/frame.entity';
import { FramesService } from '../frames/frames.service';
import { FrameStore } from '../frames/frameStore';
import { Contents } from '../metadata/contents.service';
import { noPicture } from '../pictures/noPicture';
import { PictureMaker, SCREEN_SIDE, THUMB_SIDE } from '../pictures/pictureMaker';
import type { PictureSource } from '../pictures/picture.worker';
import { Posters } from '../pictures/posters';
import { ShootsService } from '../shoots/shoots.service';
import { PreviewStore } from './previewStore';

export const PREVIEW_TYPE = {
  thumb: 'image/webp',
  screen: 'image/jpeg',
  embedded: 'image/jpeg',
  full: 'image/jpeg',
} as const;

/** Keys name content and nothing else: checksums, or whatever the archive gave a file that was not read whole. */
export const PICTURE_KEY = /^[0-9A-Za-z]{26,64}$/;

/** Of a preview's longer side, what must be left of it that a preview of what is left is made of it: a quarter less is not seen. */
const ENOUGH = 0.75;

/** How often a preview is looked for: a thumbnail’s own may take the place of the first one just between the looks for the two. */
const LOOKS = 3;

/** Bytes: a JPEG of 150 megapixels at the highest quality is some 120 MB. */
const MAX_FULL = 256 * 1024 * 1024;

interface Located {
  asset: PlacedAsset;
  name: string;
  file: string;
  /** Exif orientation 1…8 of its frame */
  orientation: number;
  /** pixels of the longer side, as its camera wrote them; 0: not known */
  side: number;
}

/** What shows a file, and how much of it. */
interface Inside {
  source: PictureSource;
  /** false where the file ends before it does */
  whole: boolean;
  detail: Detail;
}

/** Previews by content: made once in child processes, kept under the key of their picture, served for ever. */
@Injectable()
export class PreviewsService implements BeforeApplicationShutdown {
  private readonly making = new Map<string, Promise<void>>();
  private readonly waiting = new Set<string>();
  private busy = 0;

  constructor(
    private readonly store: PreviewStore,
    private readonly reading: Reading,
    private readonly work: UnitOfWork,
    private readonly disk: Disk,
    private readonly frames: FramesService,
    private readonly frameStore: FrameStore,
    private readonly shoots: ShootsService,
    private readonly contents: Contents,
    private readonly maker: PictureMaker,
    private readonly posters: Posters,
    private readonly happenings: Happenings,
    private readonly copying: Copying,
  ) {
    happenings.on('arrived', ({ picture }) => this.later(picture));
    copying.after(() => void this.carryOn());
  }

  /** The bytes of a preview; makes it first where it is not kept yet. */
  async get(key: string, size: PreviewSize): Promise<Buffer> {
    return (await this.find(key, size)).bytes;
  }

  /** A preview, and whether it is the last word: a thumbnail that was found in the file is not. */
  async find(key: string, size: PreviewSize): Promise<{ bytes: Buffer; last: boolean }> {
    const { picture, finish } = keyParts(key);
    if (!PICTURE_KEY.test(picture)) throw new ArkivError('not-found', { what: 'picture', id: key });
    if (picture !== key) return this.findFinished(key, picture, finish, size);
    if (size === 'full') return { bytes: await this.full(key), last: true };
    for (let looks = 1; ; looks++) {
      const kept = await this.store.read(key, size);
      if (kept) return { bytes: kept, last: true };
      const quick = size === 'thumb' ? await this.store.read(key, 'quick') : null;
      if (quick) {
        this.later(key);
        return { bytes: quick, last: false };
      }
      if (looks === LOOKS) throw new ArkivError('not-found', { what: 'preview', id: key });
      try {
        await this.once(key, size);
      } catch (error) {
        const away = error instanceof ArkivError && error.code === 'volume.offline';
        const older = away && size === 'thumb' ? await this.store.older(key) : null;
        if (older) return { bytes: older, last: false };
        throw error;
      }
    }
  }

  /** A picture with the values that it is finished with. */
  private async findFinished(
    key: string,
    picture: string,
    finish: string,
    size: PreviewSize,
  ): Promise<{ bytes: Buffer; last: boolean }> {
    // One text for one look: what says it otherwise was not asked for by a window of this version.
    if (finishText(finishOf(finish)) !== finish || finishedKey(picture, finish) !== key)
      throw new ArkivError('not-found', { what: 'picture', id: key });
    const place = `${picture}~${sha256Of(finish).slice(0, 16)}`;
    const kept = await this.store.read(place, size);
    if (kept) return { bytes: kept, last: true };
    const { name, source, side, last } = await this.toFinish(picture, finishOf(finish), size);
    const bytes = Buffer.from(await this.maker.finished(name, source, finish, side, size === 'thumb'));
    if (last) await this.store.keep(place, size, bytes);
    return { bytes, last };
  }

  /** What a finished preview is made of: another preview where that has pixels enough, else the picture itself. */
  private async toFinish(
    picture: string,
    finish: Finish,
    size: PreviewSize,
  ): Promise<{ name: string; source: PictureSource; side: number; last: boolean }> {
    if (size === 'full') return { ...(await this.source(picture)), side: Infinity, last: true };
    if (size === 'thumb' && !changesShape(finish)) {
      const { bytes, last } = await this.find(picture, 'thumb');
      return { name: picture, source: { input: bytes, orientation: 1 }, side: THUMB_SIDE, last };
    }
    const base = { input: await this.get(picture, 'screen'), orientation: 1 };
    const side = size === 'thumb' ? THUMB_SIDE : SCREEN_SIDE;
    const natural = await this.maker.measure(picture, base);
    const { width, height } = finishedSize(finish, natural);
    const enough = Math.max(width, height) >= Math.max(natural.width, natural.height) * ENOUGH;
    if (size === 'thumb' || enough) return { name: picture, source: base, side, last: true };
    return { ...(await this.source(picture)), side, last: true };
  }

  /**
   * Every pixel that can be shown. A JPEG is sent as it is, which costs a reading and nothing else; what browsers do not
   * decode is made a JPEG of its own size once; a raw shows the largest picture that the camera put in, or is developed.
   */
  private async full(key: string): Promise<Buffer> {
    const kept = await this.store.read(key, 'full');
    if (kept) return kept;
    const found = await this.locate(key);
    const { asset, file, name } = found;
    if (asset.role !== 'clip' && asset.format === 'jpeg') {
      const bytes = await this.disk.readAll(file, MAX_FULL);
      const meant = withMeantProfile(bytes);
      return meant ? Buffer.from(meant) : bytes;
    }
    const inside = await this.inside(found);
    if (inside.detail === 'embedded') return this.get(key, 'embedded');
    const made = Buffer.from(await this.shown(found, inside, () => this.maker.whole(name, inside.source)));
    await this.store.keep(key, 'full', made);
    return made;
  }

  /**
   * Makes thumbnail and screen preview in the background, one after another, when no card is being copied. What a
   * screen asks for is made at once.
   */
  later(key: string): void {
    this.waiting.add(key);
    void this.carryOn();
  }

  beforeApplicationShutdown(): void {
    this.waiting.clear();
  }

  private async carryOn(): Promise<void> {
    // One of the two processes stays free for what is on screen.
    if (this.busy >= 1 || this.copying.isUnderWay) return;
    const [next] = this.waiting;
    if (next === undefined) return;
    this.waiting.delete(next);
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

  private async once(key: string, size: PreviewSize): Promise<void> {
    const name = `${key}.${size}`;
    let making = this.making.get(name);
    if (!making) {
      making = this.make(key, size).finally(() => this.making.delete(name));
      this.making.set(name, making);
    }
    await making;
  }

  private async make(key: string, size: PreviewSize): Promise<void> {
    if (size === 'embedded') return this.makeEmbedded(key);
    // A sheet of thumbnails must not wait for whole pictures to be decoded.
    if (size === 'thumb' && (await this.makeQuickThumb(key))) return;
    return this.makeDecoded(key);
  }

  /**
   * A thumbnail from the kept preview, or from a picture that lies in the file: twenty times quicker than its own, which follows. Who
   * processed a file may have left its first one in it. False where there is neither.
   */
  private async makeQuickThumb(key: string): Promise<boolean> {
    const screen = await this.store.read(key, 'screen');
    const { asset, name, file, orientation } = await this.locate(key);
    const input = screen ?? (await this.contents.embedded(file, asset, 'largest')).bytes;
    if (!input) return false;
    try {
      const source = { input, orientation: screen ? 1 : orientation };
      const { thumb, width } = await this.maker.previews(name, source, THUMB_SIDE, THUMB_SIDE);
      if (width < THUMB_SIDE / 2) return false;
      await this.store.keep(key, screen ? 'thumb' : 'quick', thumb);
      // Its own may have come meanwhile.
      if (!screen && (await this.store.read(key, 'thumb'))) await this.store.drop(key, 'quick');
      return true;
    } catch {
      // What is wrong with the file is said when the picture itself is decoded.
      return false;
    }
  }

  private async makeDecoded(key: string): Promise<void> {
    const found = await this.locate(key);
    const inside = await this.inside(found);
    const { source, whole, detail } = inside;
    const made = await this.shown(found, inside, () =>
      this.maker.previews(found.name, source, THUMB_SIDE, SCREEN_SIDE),
    );
    await this.seen(found.asset, {
      sign: made.incomplete || !whole ? INCOMPLETE : null,
      // What cannot be developed shows the small picture that stood in.
      detail: detail === 'developed' && !made.developed ? 'embedded' : detail,
    });
    await this.store.keep(key, 'thumb', made.thumb);
    await this.store.drop(key, 'quick');
    await this.store.keep(key, 'screen', made.screen);
    this.happenings.tell('previewed', { picture: key });
  }

  /** A raw that holds no picture and cannot be developed has nothing to show. */
  private async shown<T>(
    { asset, name }: Located,
    { source, whole }: Inside,
    make: () => Promise<T>,
  ): Promise<T> {
    try {
      return await make();
    } catch (error) {
      if (!('raw' in source) || source.instead !== null) throw error;
      if (!whole) await this.seen(asset, { sign: INCOMPLETE, detail: null });
      throw noPicture(name, asset);
    }
  }

  /** Says at a frame what was seen when its picture was decoded; nothing is written where that is known. */
  private async seen({ frameId }: PlacedAsset, seen: Pick<Frame, 'sign' | 'detail'>): Promise<void> {
    const frame = frameId === null ? null : await this.reading.manager.findOneBy(Frame, { id: frameId });
    if (!frame || (frame.sign === seen.sign && frame.detail === seen.detail)) return;
    const { id, shootId } = frame;
    await this.work.write(async (manager) => {
      await this.frameStore.setSeen(manager, id, seen);
      const revision = await this.shoots.touch(manager, shootId);
      this.happenings.after(manager, 'frames', { shootId, revision, ids: [id] });
    });
  }

  private async makeEmbedded(key: string): Promise<void> {
    const found = await this.locate(key);
    const { asset, name, file, orientation } = found;
    const { bytes } = await this.contents.embedded(file, asset, 'largest');
    if (!bytes) throw noPicture(found.name, found.asset);
    const upright = orientation === 1 ? bytes : await this.maker.whole(name, { input: bytes, orientation });
    await this.store.keep(key, 'embedded', upright);
  }

  /** What to decode for an asset; throws `picture.none` where nothing in it can be shown. */
  async source(key: string): Promise<{ name: string; source: PictureSource }> {
    const found = await this.locate(key);
    return { name: found.name, source: (await this.inside(found)).source };
  }

  /**
   * The picture itself where it can be decoded, a raw's largest that the camera put in, or, where that is no larger than a
   * thumbnail, what is developed of its samples; a clip's poster.
   */
  private async inside({ asset, name, file, orientation, side }: Located): Promise<Inside> {
    if (asset.role === 'clip') {
      const poster = await this.posters.of(file);
      if (poster) return { source: { input: poster, orientation: 1 }, whole: true, detail: 'poster' };
      throw noPicture(name, asset);
    }
    if (isDecoded(asset)) return { source: { input: file, orientation: null }, whole: true, detail: 'full' };
    const found = await this.contents.embedded(file, asset, 'largest');
    const { bytes, whole } = found;
    // What is as large as the sensor is no thumbnail, however small that is.
    if (asset.raw && found.small && (found.side === 0 || found.side < side / 2))
      return { source: { raw: file, orientation, instead: bytes }, whole, detail: 'developed' };
    if (bytes) return { source: { input: bytes, orientation }, whole, detail: 'embedded' };
    if (!whole) await this.seen(asset, { sign: INCOMPLETE, detail: null });
    throw noPicture(name, asset);
  }

  private async locate(key: string): Promise<Located> {
    const files = await this.frames.ofPicture(key);
    const asset = pictureOf(files) ?? files.find(({ role }) => role === 'edit');
    if (!asset) throw new ArkivError('not-found', { what: 'picture', id: key });
    const frame = asset.frameId ? await this.reading.manager.findOneBy(Frame, { id: asset.frameId }) : null;
    const { file } = await this.frames.locate(asset.id);
    const side = Math.max(frame?.width ?? 0, frame?.height ?? 0);
    const name = path.posix.basename(asset.at);
    // An edit says itself how it is turned: whoever made it saw it upright.
    const orientation = asset.role === 'edit' ? 1 : (frame?.orientation ?? 1);
    return { asset, name, file, orientation, side };
  }
}
