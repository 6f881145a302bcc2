import { Injectable } from '@nestjs/common';
import { hashDistance, SAME_PICTURE, unpackLook } from '@arkiv/core';
import { FeaturesService } from '../features/features.service';
import { FramesService } from '../frames/frames.service';
import { PictureMaker } from '../pictures/pictureMaker';
import { PreviewsService } from '../previews/previews.service';

/** Frames that are looked at closely: a burst's all look alike at first sight; a hundredth of a second each. */
const CLOSELY = 40;
/** Frames whose looks are read to find the nearest: ten kilobytes each, two thousand in a second. */
const MOST = 2000;
/** Frames that somebody is asked to look at: two screens side by side. */
const ASKED = 12;

/** What a picture looks like beside a shoot's frames. */
export interface Seen {
  /** ids, the likeliest first */
  frames: string[];
  /** whether it is the first, and no other looks like it too */
  sure: boolean;
}

/** Tells frames by what they look like. */
@Injectable()
export class Looks {
  constructor(
    private readonly features: FeaturesService,
    private readonly frames: FramesService,
    private readonly previews: PreviewsService,
    private readonly maker: PictureMaker,
  ) {}

  /**
   * Which of a shoot's frames, or of some of them, a picture looks like. None where nothing looks like it, or nobody has looked at the
   * frames yet. Throws where the picture cannot be shown.
   */
  async nearest(
    shootId: string,
    picture: string,
    name: string,
    among: readonly string[] | null,
  ): Promise<Seen> {
    const input = await this.previews.get(picture, 'screen');
    const { look } = await this.maker.features(name, { input, orientation: 1 });
    const wanted = among && new Set(among);
    const row = (await this.frames.inRow(shootId)).filter(({ id }) => wanted?.has(id) ?? true);
    const looks: { id: string; look: Uint8Array }[] = [];
    for (const { id, picture: its } of row.slice(0, MOST)) {
      const kept = its === null ? null : await this.features.look(its);
      if (kept) looks.push({ id, look: kept });
    }
    const hash = unpackLook(look).dct;
    const far = new Map(looks.map((one) => [one.id, hashDistance(hash, unpackLook(one.look).dct)]));
    looks.sort((one, other) => far.get(one.id)! - far.get(other.id)!);
    const near = looks.slice(0, CLOSELY);
    if (near.length === 0) return { frames: [], sure: false };
    const likeness = await this.maker.same(near.map((one) => [look, one.look] as const));
    const alike = near
      .map(({ id }, i) => ({ id, like: likeness[i]! }))
      .filter(({ like }) => like >= SAME_PICTURE)
      .sort((one, other) => other.like - one.like);
    return { frames: alike.slice(0, ASKED).map(({ id }) => id), sure: alike.length === 1 };
  }
}
