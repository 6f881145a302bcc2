import { Injectable } from '@nestjs/common';
import {
  ArkivError,
  EMPTY_SIDECAR,
  finishedSize,
  finishOf,
  howMade,
  isDecoded,
  keyParts,
  sidecarOf,
  SidecarError,
  toldToClients,
  withInside,
  writeSidecar,
  type Description,
  type OutputSpec,
  type SidecarModel,
  type Watermark,
} from '@arkiv/core';
import { Disk } from '../disk/disk';
import { md5Of, sha256Of } from '../disk/place';
import { readProven } from '../disk/provenBytes';
import type { PlacedAsset } from '../frames/asset.entity';
import type { Frame } from '../frames/frame.entity';
import { FramesService } from '../frames/frames.service';
import { OwnTextsService } from '../frames/ownTexts.service';
import { RAW_PART, RAW_SIDECAR_PART } from '../ledger/delivery.entity';
import type { RenderOrder } from '../pictures/picture.worker';
import { PictureMaker } from '../pictures/pictureMaker';
import { PreviewsService } from '../previews/previews.service';
import { SidecarWords, type Said } from '../sidecars/sidecarWords.service';
import { VolumesService } from '../volumes/volumes.service';
import type { PlannedFile } from './deliverySet';
import { Watermarks } from './watermarks.service';

/** Raised when the same order makes other bytes than before: what lies in sets counts as changed then. */
const MAKER = 1;
/** Pixels of a proof sheet's pictures: 280 to the inch at the size at which they are printed. */
const PROOF_SIDE = 640;

export interface Made {
  bytes: Uint8Array;
  width: number;
  height: number;
}

/** Makes the files that clients get, from pictures and from what is said of them. */
@Injectable()
export class FinishedFiles {
  constructor(
    private readonly disk: Disk,
    private readonly frames: FramesService,
    private readonly previews: PreviewsService,
    private readonly maker: PictureMaker,
    private readonly words: SidecarWords,
    private readonly texts: OwnTextsService,
    private readonly volumes: VolumesService,
    private readonly watermarks: Watermarks,
  ) {}

  /** What is said of frames, with which of it may be told to clients. */
  said(frames: readonly Frame[]): Promise<Map<string, Said>> {
    return this.words.saidOf(frames);
  }

  /** Digest of all that decides a file's bytes. Null: the file that it would be made of is gone. */
  async recipe(file: PlannedFile, specs: readonly OutputSpec[], said: Said): Promise<string | null> {
    if (file.spec === RAW_SIDECAR_PART) return sha256Of(JSON.stringify([MAKER, sidecarModel(said)]));
    if (file.spec === RAW_PART) return (await this.rawOf(file.frameId))?.sha256 ?? null;
    const how = howMade(specs[file.spec]!);
    if (how.format === 'asis') return (await this.finishedOf(file.picture))?.sha256 ?? null;
    return sha256Of(JSON.stringify([MAKER, file.picture, how, told(specs[file.spec]!, said).packet]));
  }

  /** What specs make of one picture, from one reading of it. Throws `picture.none`, `delivery.large`, `picture.undecodable`. */
  async render(
    specs: readonly OutputSpec[],
    { picture, from }: Pick<PlannedFile, 'picture' | 'from'>,
    said: Said,
  ): Promise<Made[]> {
    if (picture === null) throw new ArkivError('picture.none', { file: from });
    const { name, source } = await this.previews.source(picture);
    const along = specs.map((spec) => told(spec, said));
    const marks = await Promise.all(specs.map(({ watermark }) => this.markOf(watermark)));
    const orders = specs.map((spec, i): RenderOrder => {
      const { size, quality, mostBytes, space, sharpen, watermark } = spec;
      const format = spec.format as RenderOrder['format'];
      // A JPEG's metadata are put into what was coded, in all three ways that programs read.
      const inCoding = format === 'jpeg' ? null : along[i]!;
      return {
        ...{ size, format, quality, mostBytes, space, sharpen, watermark, mark: marks[i]! },
        exif: inCoding === null ? {} : exifOf(inCoding.description),
        xmp: inCoding?.packet ?? null,
      };
    });
    const made = await this.maker.render(name, source, orders, keyParts(picture).finish);
    return made.map(({ bytes, fits, ...size }, i) => {
      const spec = specs[i]!;
      if (!fits)
        throw new ArkivError('delivery.large', { file: from, bytes: bytes.length, most: spec.mostBytes! });
      const { packet, description } = along[i]!;
      if (spec.format !== 'jpeg' || packet === null) return { bytes, ...size };
      const inside = withInside(bytes, packet, description, md5Of);
      if (!inside.ok) return { bytes, ...size };
      return { bytes: Buffer.concat([inside.head, bytes.subarray(inside.replaces)]), ...size };
    });
  }

  /** A small JPEG for a proof sheet, with the words over it that the set's own pictures bear. */
  async proof(picture: string, specs: readonly OutputSpec[]): Promise<Made> {
    const { name, source } = await this.previews.source(picture);
    const watermark = specs.find((spec) => spec.watermark !== null)?.watermark ?? null;
    const order: RenderOrder = {
      ...{ size: { by: 'long', pixels: PROOF_SIDE }, format: 'jpeg', quality: 82, mostBytes: null },
      ...{ space: 'srgb', sharpen: 'screen', watermark, exif: {}, xmp: null },
      mark: await this.markOf(watermark),
    };
    const [made] = await this.maker.render(name, source, [order], keyParts(picture).finish);
    return made!;
  }

  private async markOf(watermark: Watermark | null): Promise<string | null> {
    return watermark?.picture ? this.watermarks.file(watermark.picture) : null;
  }

  /** Pixels of a picture as it stands upright. */
  async natural(picture: string): Promise<{ width: number; height: number }> {
    const { name, source } = await this.previews.source(picture);
    return finishedSize(finishOf(keyParts(picture).finish), await this.maker.measure(name, source));
  }

  /** A finished picture's own file, proven. Throws `delivery.unfinished`. */
  async asItIs({ picture, from }: Pick<PlannedFile, 'picture' | 'from'>): Promise<Made> {
    const asset = await this.finishedOf(picture);
    if (!asset?.sha256) throw new ArkivError('delivery.unfinished', { file: from });
    const { file } = await this.frames.locate(asset.id);
    const bytes = await readProven(this.disk, file, asset.sha256, asset.at);
    const size = await this.maker.measure(from, { input: bytes, orientation: null });
    return { bytes, ...size };
  }

  /** Where a frame's raw lies, and what it must be. Throws `picture.none` where it has none any more. */
  async raw({ frameId, from }: PlannedFile): Promise<{ file: string; sha256: string }> {
    const asset = await this.rawOf(frameId);
    if (!asset?.sha256) throw new ArkivError('picture.none', { file: from });
    return { file: (await this.frames.locate(asset.id)).file, sha256: asset.sha256 };
  }

  /**
   * The sidecar of a raw that goes to a client: what may be told of its frame, and the settings of other programs that the archive's
   * own sidecar holds. Nothing in it is the archive's own.
   */
  async rawSidecar(frame: Frame, said: Said): Promise<Uint8Array> {
    const model = sidecarModel(said);
    const kept = await this.ownSidecar(sidecarOf(frame.place, frame.name));
    if (kept === null) return Buffer.from(writeSidecar(model));
    try {
      const text = writeSidecar(model, kept);
      // Other programs may keep keywords and notes in places of their own.
      const secret = [...said.model.keywords.filter((word) => !said.isTold(word)), said.model.note ?? ''];
      if (!secret.some((word) => word !== '' && text.includes(word))) return Buffer.from(text);
    } catch (error) {
      if (!(error instanceof SidecarError)) throw error;
    }
    return Buffer.from(writeSidecar(model));
  }

  private async ownSidecar(at: string): Promise<string | null> {
    for (const { volume, online } of await this.volumes.list()) {
      if (!online) continue;
      const { text } = await this.texts.read(volume, at);
      if (text !== null) return text;
    }
    return null;
  }

  private async finishedOf(picture: string | null): Promise<PlacedAsset | null> {
    return picture === null ? null : finishedOf(await this.frames.ofPicture(picture));
  }

  private async rawOf(frameId: string): Promise<PlacedAsset | null> {
    return (await this.frames.originals([frameId])).find(({ raw }) => raw) ?? null;
  }
}

/** A file that is a picture as it is: an edit that came back, or what a camera finished itself. */
export const finishedOf = (files: readonly PlacedAsset[]): PlacedAsset | null =>
  files.find((file) => file.role === 'edit') ??
  files.find((file) => isDecoded({ ...file, raw: Boolean(file.raw) })) ??
  null;

/** What goes along inside, by a spec; no packet: nothing is said. */
function told(
  spec: OutputSpec,
  { model, isTold }: Said,
): { description: Description; packet: string | null } {
  const description = toldToClients(model, spec.metadata, isTold);
  if (spec.metadata === 'none') return { description, packet: null };
  const { preservedFileName } = spec.metadata === 'rights' ? EMPTY_SIDECAR : model;
  const whole = { ...EMPTY_SIDECAR, ...description, preservedFileName };
  // Where nobody has said who made it, there is nothing to say.
  const anything = JSON.stringify(whole) !== JSON.stringify({ ...EMPTY_SIDECAR, persons: [], keywords: [] });
  return { description, packet: anything ? writeSidecar(whole) : null };
}

/** What the sidecar of a raw says: all that may be told, with stars and label. */
const sidecarModel = ({ model, isTold }: Said): SidecarModel => ({
  ...EMPTY_SIDECAR,
  ...toldToClients(model, 'all', isTold),
  ...{ stars: model.stars, label: model.label, preservedFileName: model.preservedFileName },
});

/** What Exif has places for, for formats whose metadata are written while they are coded. */
const exifOf = ({ caption, creator, rights }: Description): Record<string, string> => ({
  ...(caption !== null && { ImageDescription: caption }),
  ...(creator !== null && { Artist: creator }),
  ...(rights !== null && { Copyright: rights }),
});
