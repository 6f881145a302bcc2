import { Injectable } from '@nestjs/common';
import { unpackLook, type Hash } from '@arkiv/core';
import type { Readable } from 'node:stream';
import { FeaturesService } from '../features/features.service';
import { PictureMaker, SCREEN_SIDE } from '../pictures/pictureMaker';
import { bodyBytes } from '../system/bodyBytes';
import { FindService } from './find.service';

/** Bytes of a picture that is dropped: a large JPEG or PNG of a whole screen; raws are found by what stands in them. */
const MOST_BYTES = 60_000_000;
/**
 * Pictures that are compared with it closely, a hundredth of a second each: those that differ as much as one that was cut by a fifth
 * (measured on 115 pictures: 63 of 100 are within 18 bits, 90 within 26). Fewer would give a burst's other frames, which look like it as a
 * whole, before its own. Of what is cut by more the hash tells nothing: it is found where an archive has few hundred frames, or by chance.
 */
const CLOSELY = { most: 200, within: 26 } as const;

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
    const looks = await this.maker.looks(name, { input: preview, orientation: 1 });
    for (const look of looks) {
      const like = await this.originalOf(look);
      if (like !== null) return { like, original: true };
    }
    // Of a shot of a screen what stands in it tells more than its bars do.
    return { like: hashText(unpackLook(looks[1] ?? looks[0]!).dct), original: false };
  }

  /** The frame that a picture was made from, where that is sure. */
  private async originalOf(look: Uint8Array): Promise<string | null> {
    const looks: { id: string; look: Uint8Array }[] = [];
    const nearest = await this.find.nearest(unpackLook(look).dct, CLOSELY.most, CLOSELY.within);
    for (const { id, picture } of nearest) {
      const its = await this.features.look(picture);
      if (its) looks.push({ id, look: its });
    }
    if (looks.length === 0) return null;
    const best = await this.maker.original(
      look,
      looks.map((its) => its.look),
    );
    return best < 0 ? null : looks[best]!.id;
  }
}

const hashText = ([low, high]: Hash): string =>
  `~${[high, low].map((word) => word.toString(16).padStart(8, '0')).join('')}`;
