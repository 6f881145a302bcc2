import { Injectable } from '@nestjs/common';
import { hashDistance, SURELY, surelyOf, unpackLook } from '@arkiv/core';
import { Originals, type LookedFrame, type Told } from '../features/originals.service';
import { FramesService } from '../frames/frames.service';
import { PictureMaker, type SeenPicture } from '../pictures/pictureMaker';
import { PreviewsService } from '../previews/previews.service';

/** Frames that are compared first: a burst's all look alike at first sight; a hundredth of a second each. */
const CLOSELY = 40;
/** Frames whose looks are read to find the nearest: ten kilobytes each, two thousand in a second. */
const MOST = 2000;
/** Frames that somebody is asked to look at: two screens side by side. */
const ASKED = 12;

/** What a picture looks like beside a shoot's frames. */
export interface Seen {
  /** ids, the likeliest first */
  frames: string[];
  /** whether it is the first, and no other looks as much like it */
  sure: boolean;
}

/** Tells frames by what they look like. */
@Injectable()
export class Looks {
  constructor(
    private readonly originals: Originals,
    private readonly frames: FramesService,
    private readonly previews: PreviewsService,
    private readonly maker: PictureMaker,
  ) {}

  /**
   * Which of a shoot's frames, or of some of them, a picture is of, whatever was done to its tones and cut off. None where nothing looks like
   * it, or nobody has looked at the frames yet. Throws where the picture cannot be shown.
   */
  async nearest(
    shootId: string,
    picture: string,
    name: string,
    among: readonly string[] | null,
  ): Promise<Seen> {
    const input = await this.previews.get(picture, 'screen');
    const [seen] = await this.maker.looks(name, { input, orientation: 1 }, false);
    const wanted = among && new Set(among);
    const row = (await this.frames.inRow(shootId)).filter(({ id }) => wanted?.has(id) ?? true);
    const looked = await this.originals.looked(row.slice(0, MOST));
    const hash = unpackLook(seen!.look).dct;
    const far = new Map(looked.map((one) => [one.id, hashDistance(hash, unpackLook(one.look).dct)]));
    looked.sort((one, other) => far.get(one.id)! - far.get(other.id)!);
    const near = await this.alike(seen!, looked.slice(0, CLOSELY));
    // Of what was cut the hash tells nothing.
    const alike = near.length > 0 ? near : await this.alike(seen!, looked.slice(CLOSELY));
    const told = alike.map(({ apart }, nth) => ({ nth, apart }));
    return { frames: alike.slice(0, ASKED).map(({ id }) => id), sure: surelyOf(told) === 0 };
  }

  private async alike(seen: SeenPicture, among: readonly LookedFrame[]): Promise<Told[]> {
    const told = await this.originals.byDetail(seen, await this.originals.candidates(seen, among));
    return told.filter(({ apart }) => apart <= SURELY);
  }
}
