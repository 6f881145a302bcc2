import { Injectable, Logger, type BeforeApplicationShutdown } from '@nestjs/common';
import { MAKER_VERSION, measuresText, unpackMeasures, type KeptMeasures } from '@arkiv/core';
import { Reading, UnitOfWork } from '../db/unitOfWork';
import { Copying } from '../events/copying';
import { Happenings } from '../events/domainEvents';
import { FrameStore } from '../frames/frameStore';
import { FramesService } from '../frames/frames.service';
import { PictureMaker } from '../pictures/pictureMaker';
import { PreviewsService } from '../previews/previews.service';
import { PreviewStore } from '../previews/previewStore';
import { Feature, type FeatureKind } from './feature.entity';
import { PictureHashes } from './pictureHashes.service';

/** Goes up whenever a measure would come out differently from the same preview. */
const VERSIONS: Readonly<Record<FeatureKind, number>> = { measures: 1 };
/** Versions of a measure that each maker of previews has room for. */
const ROOM = 1000;

/** A measure goes with the preview that it was made from: either one's new version makes it anew. */
export const makerOf = (kind: FeatureKind): number => MAKER_VERSION * ROOM + VERSIONS[kind];

const NEWEST = { kind: 'measures', maker: makerOf('measures') } as const;

/**
 * Milliseconds between two writings of what was measured: in the background some six pictures are measured a second, and
 * neither the database nor the windows need to hear of each.
 */
const BETWEEN = 2000;
/** Measures written in one transaction: some milliseconds. */
const PART = 50;

/**
 * Measures of pictures, kept by picture key. They are made from the stored preview, always, so that they never depend on
 * which of a frame's files came first; the only writer of them. Each picture is measured when its preview is made.
 */
@Injectable()
export class FeaturesService implements BeforeApplicationShutdown {
  private readonly log = new Logger('features');
  private readonly making = new Map<string, Promise<Uint8Array>>();
  /** pictures that are to be measured in the background, one after the other */
  private readonly waiting = new Set<string>();
  /** pictures that could not be looked at since the server started */
  private readonly failed = new Set<string>();
  private busy = false;
  /** measured and not written yet, by picture */
  private readonly measured = new Map<string, Uint8Array>();
  private writing: Promise<void> = Promise.resolve();
  private timer: NodeJS.Timeout | null = null;
  private stopped = false;

  constructor(
    private readonly reading: Reading,
    private readonly work: UnitOfWork,
    private readonly frames: FramesService,
    private readonly frameStore: FrameStore,
    private readonly previews: PreviewsService,
    private readonly kept: PreviewStore,
    private readonly hashes: PictureHashes,
    private readonly maker: PictureMaker,
    private readonly happenings: Happenings,
    private readonly copying: Copying,
  ) {
    happenings.on('previewed', ({ picture }) => this.later([picture]));
    copying.after(() => void this.carryOn());
  }

  async beforeApplicationShutdown(): Promise<void> {
    this.stopped = true;
    this.waiting.clear();
    await this.write();
  }

  /** What is measured of a picture, and where it is sharp. Throws what its preview cannot be made for: `volume.offline`, `picture.undecodable` … */
  async measures(picture: string): Promise<KeptMeasures> {
    return unpackMeasures(await this.of(picture));
  }

  /** Measures all frames of a shoot that were not measured yet, in the background. Returns how many these are. */
  async measureShoot(shootId: string): Promise<number> {
    const pictures = await this.frames.unmeasured(shootId);
    this.later(pictures);
    return pictures.length;
  }

  /** What a picture is compared by, as it is kept; null: nobody has made it yet. */
  look(picture: string): Promise<Buffer | null> {
    return this.kept.read(picture, 'look');
  }

  /** Of some pictures those that can be looked at, as far as is known. */
  hopeful(pictures: Iterable<string>): string[] {
    return [...pictures].filter((picture) => !this.failed.has(picture));
  }

  /** Measures pictures in the background: how sharp they are, and what they are compared by. */
  later(pictures: readonly string[]): void {
    for (const picture of pictures) this.waiting.add(picture);
    void this.carryOn();
  }

  private async carryOn(): Promise<void> {
    if (this.busy || this.copying.isUnderWay) return;
    const [next] = this.waiting;
    if (next === undefined) return;
    this.busy = true;
    this.waiting.delete(next);
    try {
      await this.of(next);
      await this.makeLook(next);
    } catch {
      // The frame says what is wrong with its picture when someone looks at it; it stays without a measure.
      this.failed.add(next);
    } finally {
      this.busy = false;
    }
    void this.carryOn();
  }

  private async of(picture: string): Promise<Uint8Array> {
    const under = this.making.get(picture) ?? this.find(picture).finally(() => this.making.delete(picture));
    this.making.set(picture, under);
    return under;
  }

  private async find(picture: string): Promise<Uint8Array> {
    const data =
      this.measured.get(picture) ??
      (await this.reading.manager.findOneBy(Feature, { picture, ...NEWEST }))?.data ??
      (await this.make(picture));
    // A frame that came to a picture which is known has its measures as well.
    this.measured.set(picture, data);
    // What is measured while the server stops is measured again one day.
    if (!this.stopped) this.timer ??= setTimeout(() => void this.write(), BETWEEN).unref();
    return data;
  }

  /** It lies beside the preview that it is made from: ten kilobytes a picture have no place in a database that is copied daily. */
  private async makeLook(picture: string): Promise<void> {
    const made = await this.kept.read(picture, 'look');
    if (made) return this.looked(picture, made);
    const input = await this.previews.get(picture, 'screen');
    await this.keepLook(picture, (await this.maker.features(picture, { input, orientation: 1 })).look);
  }

  private async keepLook(picture: string, look: Uint8Array): Promise<void> {
    await this.kept.keep(picture, 'look', look);
    await this.looked(picture, look);
  }

  private async looked(picture: string, look: Uint8Array): Promise<void> {
    await this.hashes.note(picture, look);
    this.happenings.tell('looked', { picture });
  }

  private async make(picture: string): Promise<Uint8Array> {
    const preview = await this.previews.get(picture, 'screen');
    const { measures, look } = await this.maker.features(picture, { input: preview, orientation: 1 });
    await this.keepLook(picture, look);
    return measures;
  }

  /** Writes what was measured, and says it at the frames that show it. */
  private write(): Promise<void> {
    if (this.timer) clearTimeout(this.timer);
    this.timer = null;
    const all = [...this.measured];
    for (let at = 0; at < all.length; at += PART) {
      const part = all.slice(at, at + PART);
      this.writing = this.writing
        .then(() => this.writePart(part))
        .catch((error: unknown) => this.log.error(`measures could not be kept: ${(error as Error).message}`));
    }
    return this.writing;
  }

  private async writePart(part: readonly [string, Uint8Array][]): Promise<void> {
    await this.work.write(async (manager) => {
      const found = new Map<string, [string, string][]>();
      for (const [picture, data] of part) {
        // An earlier maker's goes with it.
        await manager.upsert(Feature, { picture, ...NEWEST, data: Buffer.from(data) }, ['picture', 'kind']);
        const { measures } = unpackMeasures(data);
        for (const { id, shootId } of await this.frameStore.setMeasures(manager, picture, measures)) {
          const ofShoot = found.get(shootId) ?? [];
          ofShoot.push([id, measuresText(measures)]);
          found.set(shootId, ofShoot);
        }
      }
      for (const [shootId, measures] of found)
        this.happenings.after(manager, 'measured', { shootId, measures });
    });
    for (const [picture, one] of part) if (this.measured.get(picture) === one) this.measured.delete(picture);
  }
}
