import { Injectable } from '@nestjs/common';
import { ArkivError, unpackLook, type Hash } from '@arkiv/core';
import type { Readable } from 'node:stream';
import { FeaturesService } from '../features/features.service';
import { PictureMaker, SCREEN_SIDE } from '../pictures/pictureMaker';
import { bodyBytes } from '../system/bodyBytes';
import { Ids } from '../system/ids';
import { FindService } from './find.service';

/** Bytes of a picture that is dropped: a large JPEG or PNG of a whole screen; raws are found by what stands in them. */
const MOST_BYTES = 60_000_000;
/**
 * Pictures that are compared with it closely, a hundredth of a second each: those that differ as much as one that was cut by a fifth
 * (measured on 115 pictures: 63 of 100 are within 18 bits, 90 within 26). Fewer would give a burst's other frames, which look like it as a
 * whole, before its own. Of what is cut by more the hash tells nothing: it is held against one frame after the other.
 */
const CLOSELY = { most: 200, within: 26 } as const;
/** Frames that it is held against at once, by as many processes as there are: a second or two (3 to 10 ms each on a loaded machine), so that a picture that somebody waits for comes in between. */
const [AT_ONCE, PARTS] = [400, 2];
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

interface LookedFrame {
  id: string;
  look: Uint8Array;
}

/** Finds the frame from which somebody's copy of a picture was made: small, cut, in black and white, a shot of a screen. */
@Injectable()
export class DroppedPictures {
  /** by token, the looks of pictures that were not found at once, the last one last */
  private readonly sought = new Map<string, Uint8Array[]>();

  constructor(
    private readonly find: FindService,
    private readonly features: FeaturesService,
    private readonly maker: PictureMaker,
    private readonly ids: Ids,
  ) {}

  /** Throws `picture.undecodable` where it is no picture, `request.invalid` where it is too large. */
  async of(name: string, body: Readable): Promise<Dropped> {
    const input = await bodyBytes(body, MOST_BYTES);
    const preview = await this.maker.fitted(name, { input, orientation: null }, SCREEN_SIDE);
    const looks = await this.maker.looks(name, { input: preview, orientation: 1 });
    for (const look of looks) {
      const nearest = await this.find.nearest(unpackLook(look).dct, CLOSELY.most, CLOSELY.within);
      const its = await this.originalOf(look, await this.looked(nearest));
      if (its) return { like: await this.ofBurst(look, its), original: true, token: null };
    }
    const token = this.ids.newId();
    this.sought.set(token, looks.slice(0, HELD));
    for (const [oldest] of this.sought) {
      if (this.sought.size <= MOST_SOUGHT) break;
      this.sought.delete(oldest);
    }
    // Of a shot of a screen what stands in it tells more than its bars do.
    return { like: hashText(unpackLook(looks[1] ?? looks[0]!).dct), original: false, token };
  }

  /**
   * Holds a picture that was not found at once against some more frames, those that came last first: a part of a frame looks like it by
   * its details alone. `before`: where they begin, as the last answer said; null: the first. Throws `not-found` for a picture that others
   * have been looked for since.
   */
  async further(token: string, before: number | null): Promise<HeldAgainst> {
    const looks = this.sought.get(token);
    if (!looks) throw new ArkivError('not-found', { what: 'picture', id: token });
    const { frames, of } = await this.find.pictures(before, AT_ONCE);
    const looked = await this.looked(frames);
    const unseen = frames.length - looked.length;
    const held = { looked: frames.length, unseen, of, before: frames.at(-1)?.key ?? null };
    for (const look of looks) {
      const its = await this.originalOf(look, looked);
      if (its) return { ...held, like: await this.ofBurst(look, its) };
    }
    return { ...held, like: null };
  }

  /** Of the frames that came with one from which a picture surely was made, the one that it was: they may be of one scene. */
  private async ofBurst(look: Uint8Array, its: LookedFrame): Promise<string> {
    const beside = await this.looked(await this.find.around(its.id, BURST));
    return ((await this.originalOf(look, [its, ...beside])) ?? its).id;
  }

  /** The frame that a picture was made from, where that is sure. */
  private async originalOf(look: Uint8Array, among: readonly LookedFrame[]): Promise<LookedFrame | null> {
    if (among.length === 0) return null;
    const size = Math.ceil(among.length / PARTS);
    const parts = Array.from({ length: PARTS }, (_, i) => among.slice(i * size, (i + 1) * size));
    const best = await Promise.all(parts.map((part) => this.bestOf(look, part)));
    const found = best.filter((its) => its !== null);
    return found.length > 1 ? this.bestOf(look, found) : (found[0] ?? null);
  }

  private async bestOf(look: Uint8Array, among: readonly LookedFrame[]): Promise<LookedFrame | null> {
    if (among.length === 0) return null;
    const best = await this.maker.original(
      look,
      among.map((its) => its.look),
    );
    return among[best] ?? null;
  }

  /** Of some frames those whose pictures were looked at. */
  private async looked(frames: readonly { id: string; picture: string | null }[]): Promise<LookedFrame[]> {
    const looked: LookedFrame[] = [];
    for (const { id, picture } of frames) {
      const look = picture === null ? null : await this.features.look(picture);
      if (look) looked.push({ id, look });
    }
    return looked;
  }
}

const hashText = ([low, high]: Hash): string =>
  `~${[high, low].map((word) => word.toString(16).padStart(8, '0')).join('')}`;
