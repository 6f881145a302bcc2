import { Injectable } from '@nestjs/common';
import { MAKER_VERSION, unpackSharpness, type Sharpness } from '@arkiv/core';
import { Reading, UnitOfWork } from '../db/unitOfWork';
import { PictureMaker } from '../pictures/pictureMaker';
import { PreviewsService } from '../previews/previews.service';
import { Feature, type FeatureKind } from './feature.entity';

/** Goes up whenever a measure would come out differently from the same preview. */
const VERSIONS: Readonly<Record<FeatureKind, number>> = { sharpness: 1 };
/** Versions of a measure that each maker of previews has room for. */
const ROOM = 1000;

/** A measure goes with the preview that it was made from: either one's new version makes it anew. */
export const makerOf = (kind: FeatureKind): number => MAKER_VERSION * ROOM + VERSIONS[kind];

/**
 * Measures of pictures, kept by picture key. They are made from the stored preview, always, so that they never depend on
 * which of a frame's files came first; the only writer of them.
 */
@Injectable()
export class FeaturesService {
  private readonly making = new Map<string, Promise<Uint8Array>>();

  constructor(
    private readonly reading: Reading,
    private readonly work: UnitOfWork,
    private readonly previews: PreviewsService,
    private readonly maker: PictureMaker,
  ) {}

  /** How sharp a picture is. Throws what its preview cannot be made for: `volume.offline`, `picture.undecodable` … */
  async sharpness(picture: string): Promise<Sharpness> {
    return unpackSharpness(await this.of(picture, 'sharpness'));
  }

  private async of(picture: string, kind: FeatureKind): Promise<Uint8Array> {
    const kept = await this.reading.manager.findOneBy(Feature, { picture, kind, maker: makerOf(kind) });
    if (kept) return kept.data;
    const name = `${kind} ${picture}`;
    const under = this.making.get(name) ?? this.make(picture, kind).finally(() => this.making.delete(name));
    this.making.set(name, under);
    return under;
  }

  private async make(picture: string, kind: FeatureKind): Promise<Uint8Array> {
    const preview = await this.previews.get(picture, 'screen');
    const data = await this.maker.sharpness(picture, { input: preview, orientation: 1 });
    const row = { picture, kind, maker: makerOf(kind), data: Buffer.from(data) };
    // An earlier maker's goes with it.
    await this.work.write((manager) => manager.upsert(Feature, row, ['picture', 'kind']));
    return data;
  }
}
