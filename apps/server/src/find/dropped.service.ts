import { Injectable } from '@nestjs/common';
import { ArkivError, SURELY, unpackLook, type Hash } from '@arkiv/core';
import type { Readable } from 'node:stream';
import { Originals, type LookedFrame } from '../features/originals.service';
import { PictureMaker, SCREEN_SIDE, type SeenPicture } from '../pictures/pictureMaker';
import { bodyBytes } from '../system/bodyBytes';
import { Ids } from '../system/ids';
import { FindService } from './find.service';

/** Bytes of a picture that is dropped: a large JPEG or PNG of a whole screen; raws are found by what stands in them. */
const MOST_BYTES = 60_000_000;
/**
 * Pictures that are compared with it, some milliseconds each: those that differ as much as one that was cut by a fifth
 * (measured on 115 pictures: 63 of 100 are within 18 bits, 90 within 26). Fewer would give a burst's other frames, which look like it as a
 * whole, before its own. Of what is cut by more the hash tells nothing: it is held against one frame after the other.
 */
const CLOSELY = { most: 200, within: 26 } as const;
/** Frames that it is held against at once, by as many processes as there are: a second or two (2 to 4 ms each on a slow machine), so that a picture that somebody waits for comes in between. */
const AT_ONCE = 400;
/** Frames beside one that may be of its burst: a few seconds of the fastest bodies, to both sides. */
const BURST = 200;
/** Of a shot of a screen what stands in it; of other pictures the whole. */
const HELD = 2;
/** Pictures that are looked for further: a few windows have one each. */
const MOST_SOUGHT = 8;

/** What a picture that is no frame finds. */
export interface Dropped {
  /** the frame that it was made from, where that is sure, or what it looks like: as `like` of a question */
  like: string;
  /** whether it is sure */
  original: boolean;
  /** by which it is held against further frames; null: it is sure */
  token: string | null;
}

/** What holding a picture against some more frames came to. */
export interface HeldAgainst {
  /** the frame that it was made from; null: none of these */
  like: string | null;
  /** frames that it was held against */
  looked: number;
  /** how many of these nobody has looked at yet: they were passed over */
  unseen: number;
  /** frames that there are in all */
  of: number;
  /** where the next ones begin; null: these were the last */
  before: number | null;
}

/** Finds the frame from which somebody's copy of a picture was made: small, cut, in black and white, a shot of a screen. */
@Injectable()
export class DroppedPictures {
  /** by token, what pictures that were not found at once are compared by, the last one last */
  private readonly sought = new Map<string, SeenPicture[]>();

  constructor(
    private readonly find: FindService,
    private readonly originals: Originals,
    private readonly maker: PictureMaker,
    private readonly ids: Ids,
  ) {}

  /** Throws `picture.undecodable` where it is no picture, `request.invalid` where it is too large. */
  async of(name: string, body: Readable): Promise<Dropped> {
    const input = await bodyBytes(body, MOST_BYTES);
    const preview = await this.maker.fitted(name, { input, orientation: null }, SCREEN_SIDE);
    const seen = await this.maker.looks(name, { input: preview, orientation: 1 }, true);
    for (const its of seen) {
      const nearest = await this.find.nearest(hashOf(its), CLOSELY.most, CLOSELY.within);
      const like = await this.originalOf(its, await this.originals.looked(nearest));
      if (like !== null) return { like, original: true, token: null };
    }
    const token = this.ids.newId();
    this.sought.set(token, seen.slice(0, HELD));
    for (const [oldest] of this.sought) {
      if (this.sought.size <= MOST_SOUGHT) break;
      this.sought.delete(oldest);
    }
    // Of a shot of a screen what stands in it tells more than its bars do.
    return { like: hashText(hashOf(seen[1] ?? seen[0]!)), original: false, token };
  }

  /**
   * Holds a picture that was not found at once against some more frames, those that came last first: a part of a frame looks like it by
   * its details alone. `before`: where they begin, as the last answer said; null: the first. Throws `not-found` for a picture that others
   * have been looked for since.
   */
  async further(token: string, before: number | null): Promise<HeldAgainst> {
    const seen = this.sought.get(token);
    if (!seen) throw new ArkivError('not-found', { what: 'picture', id: token });
    const { frames, of } = await this.find.pictures(before, AT_ONCE);
    const looked = await this.originals.looked(frames);
    const unseen = frames.length - looked.length;
    const held = { looked: frames.length, unseen, of, before: frames.at(-1)?.key ?? null };
    for (const its of seen) {
      const like = await this.originalOf(its, looked);
      if (like !== null) return { ...held, like };
    }
    return { ...held, like: null };
  }

  /** The frame that a picture was made from, where it is one of these, or of the burst of one of these, and that is sure. */
  private async originalOf(of: SeenPicture, among: readonly LookedFrame[]): Promise<string | null> {
    const [first] = await this.originals.told(of, among, (id) => this.find.around(id, BURST));
    return first && first.apart <= SURELY ? first.id : null;
  }
}

const hashOf = ({ look }: SeenPicture): Hash => unpackLook(look).dct;

const hashText = ([low, high]: Hash): string =>
  `~${[high, low].map((word) => word.toString(16).padStart(8, '0')).join('')}`;
