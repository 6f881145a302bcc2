import { Injectable } from '@nestjs/common';
import { SAME_PICTURE, unpackLook, type Hash } from '@arkiv/core';
import type { Readable } from 'node:stream';
import { FeaturesService } from '../features/features.service';
import { PictureMaker, SCREEN_SIDE } from '../pictures/pictureMaker';
import { bodyBytes } from '../system/bodyBytes';
import { FindService } from './find.service';

/** Bytes of a picture that is dropped: a large JPEG or PNG of a whole screen; raws are found by what stands in them. */
const MOST_BYTES = 60_000_000;
/** Of the pictures that look like it, how many are compared with it closely: a burst's frames all do, a hundredth of a second each. */
const CLOSELY = 40;

/** What a picture that is no frame finds. */
export interface Dropped {
  /** the frame that it was made from, where that is sure, or what it looks like: as `like` of a question */
  like: string;
  /** whether it is sure */
  original: boolean;
}

/** Finds the frame from which somebody's copy of a picture was made: small, cut, in black and white, a shot of a screen. */
@Injectable()
export class DroppedPictures {
  constructor(
    private readonly find: FindService,
    private readonly features: FeaturesService,
    private readonly maker: PictureMaker,
  ) {}

  /** Throws `picture.undecodable` where it is no picture, `request.invalid` where it is too large. */
  async of(name: string, body: Readable): Promise<Dropped> {
    const input = await bodyBytes(body, MOST_BYTES);
    const preview = await this.maker.fitted(name, { input, orientation: null }, SCREEN_SIDE);
    const { look } = await this.maker.features(name, { input: preview, orientation: 1 });
    const hash = unpackLook(look).dct;
    const nearest = await this.find.nearest(hash, CLOSELY);
    const looks: { id: string; look: Uint8Array }[] = [];
    for (const { id, picture } of nearest) {
      const its = await this.features.look(picture);
      if (its) looks.push({ id, look: its });
    }
    const sure =
      looks.length === 0 ? [] : await this.maker.same(looks.map((its) => [look, its.look] as const));
    let best = -1;
    sure.forEach((its, i) => {
      if (its >= SAME_PICTURE && (best < 0 || its > sure[best]!)) best = i;
    });
    return best < 0 ? { like: hashText(hash), original: false } : { like: looks[best]!.id, original: true };
  }
}

const hashText = ([low, high]: Hash): string =>
  `~${[high, low].map((word) => word.toString(16).padStart(8, '0')).join('')}`;
