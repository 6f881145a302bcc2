import { Injectable } from '@nestjs/common';
import { hashDistance, SURELY, surelyOf, unpackLook } from '@arkiv/core';
import { Originals, type ShownFrame, type Told } from '../features/originals.service';
import { PictureHashes } from '../features/pictureHashes.service';
import { FramesService } from '../frames/frames.service';
import { PictureMaker, type SeenPicture } from '../pictures/pictureMaker';
import { PreviewsService } from '../previews/previews.service';

/** Frames that are compared first: a burst's all look alike at first sight; a hundredth of a second each. */
const FIRST = 40;
/** Frames that are compared at once after that: a second or two, so that a picture that somebody waits for comes in between. */
const AT_ONCE = 400;
/** Frames beside one that may be of its burst: a few seconds of the fastest bodies, to both sides. */
const BURST = 100;
/** Bits beyond all that hashes can differ in: what nobody has looked at comes last. */
const FAR = 65;
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
  /** frames that are compared first; a test may ask for fewer */
  first = FIRST;

  constructor(
    private readonly originals: Originals,
    private readonly hashes: PictureHashes,
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
    const hashes = await this.hashes.of(row.flatMap((its) => (its.picture === null ? [] : [its.picture])));
    const hash = unpackLook(seen!.look).dct;
    const far = ({ picture: its }: { picture: string | null }) => {
      const known = its === null ? undefined : hashes.get(its);
      return known ? hashDistance(hash, known) : FAR;
    };
    const nearest = row.map((its) => ({ ...its, far: far(its) })).sort((a, b) => a.far - b.far);
    let alike: Told[] = [];
    // Of what was cut off by more than a fifth the hash tells nothing: it is held against all of them.
    for (let at = 0, many = this.first; at < nearest.length && alike.length === 0; at += many, many = AT_ONCE)
      alike = await this.alike(seen!, nearest.slice(at, at + many), row);
    const told = alike.map(({ apart }, nth) => ({ nth, apart }));
    const frames = alike.filter(({ apart }) => apart <= SURELY).map(({ id }) => id);
    return { frames: frames.slice(0, ASKED), sure: surelyOf(told) === 0 };
  }

  /** Some of a row's frames, and those beside the likeliest, the nearest first; none where the nearest does not surely show the same. */
  private async alike(
    seen: SeenPicture,
    among: readonly ShownFrame[],
    row: readonly ShownFrame[],
  ): Promise<Told[]> {
    const beside = (id: string) => {
      const at = row.findIndex((its) => its.id === id);
      return Promise.resolve(row.slice(Math.max(0, at - BURST), at + BURST));
    };
    const told = await this.originals.told(seen, await this.originals.looked(among), beside);
    return told[0] && told[0].apart <= SURELY ? told : [];
  }
}
