import path from 'node:path';
import { Injectable } from '@nestjs/common';
import { ArkivError } from '@arkiv/core';
import { ArkivConfig } from '../config/config';
import { Disk } from '../disk/disk';
import { placeNew, sha256Of } from '../disk/place';
import { PictureMaker } from '../pictures/pictureMaker';

/** Bytes of a mark: a logo for print is some hundred kilobytes. */
export const MOST_WATERMARK = 5_000_000;
/** How a PNG begins (RFC 2083, 3.1): of the formats that know transparency the one that every program writes. */
const PNG = Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]);

/** Pictures that are laid over finished ones, by their checksums; they stay, as sets that were made by them may be made again. */
@Injectable()
export class Watermarks {
  constructor(
    private readonly config: ArkivConfig,
    private readonly disk: Disk,
    private readonly maker: PictureMaker,
  ) {}

  /** Keeps a picture, and gives the name that specs know it by. Throws `watermark.unreadable`. */
  async keep(bytes: Buffer): Promise<string> {
    if (!bytes.subarray(0, PNG.length).equals(PNG))
      throw new ArkivError('watermark.unreadable', { reason: 'it is no PNG' });
    try {
      await this.maker.measure('the watermark', { input: bytes, orientation: null });
    } catch (error) {
      throw new ArkivError('watermark.unreadable', { reason: (error as Error).message });
    }
    const picture = sha256Of(bytes);
    const file = this.place(picture);
    if (!(await this.disk.facts(file))) await placeNew(this.disk, file, bytes, 'watermark');
    return picture;
  }

  /** Where a picture lies on this machine. Throws `not-found`. */
  async file(picture: string): Promise<string> {
    const file = this.place(picture);
    if (!/^[0-9a-f]{64}$/.test(picture) || !(await this.disk.facts(file)))
      throw new ArkivError('not-found', { what: 'picture of a watermark', id: picture });
    return file;
  }

  async bytes(picture: string): Promise<Buffer> {
    return this.disk.readAll(await this.file(picture), MOST_WATERMARK);
  }

  private place(picture: string): string {
    return path.join(this.config.dataDir, 'watermarks', `${picture}.png`);
  }
}
