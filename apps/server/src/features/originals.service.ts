import { Injectable } from '@nestjs/common';
import type { Candidate } from '@arkiv/core';
import { PictureMaker, type LookedPicture, type SeenPicture } from '../pictures/pictureMaker';
import { PreviewsService } from '../previews/previews.service';
import { FeaturesService } from './features.service';

/** Looks that are compared at once, by as many processes as there are. */
const PARTS = 2;
/**
 * Frames that are looked into closely, the likeliest first: some 50 ms each on a slow machine, by one process. Of 190 copies of frames of a burst the one that
 * it was made from was the ninth likeliest at worst, among forty from one tripod the thirteenth.
 */
const LOOKED_INTO = 16;

/** A frame, and what shows it; null: nothing does. */
export interface ShownFrame {
  id: string;
  picture: string | null;
}

/** A frame whose picture was looked at. */
export interface LookedFrame {
  id: string;
  picture: string;
  look: Uint8Array;
}

/** One that a picture may have been made from. */
type Likely = LookedFrame & Omit<Candidate, 'nth'>;

/** A frame, and how little of a picture's detail is found in it: see `byDetail`. */
export interface Told {
  id: string;
  apart: number;
}

/** Tells which frame a copy, a part or an edit of a picture was made from, by what it shows. */
@Injectable()
export class Originals {
  constructor(
    private readonly features: FeaturesService,
    private readonly previews: PreviewsService,
    private readonly maker: PictureMaker,
  ) {}

  /** Of some frames those whose pictures were looked at, in their order. */
  async looked(frames: readonly ShownFrame[]): Promise<LookedFrame[]> {
    const looked: LookedFrame[] = [];
    for (const { id, picture } of frames) {
      const look = picture === null ? null : await this.features.look(picture);
      if (picture !== null && look) looked.push({ id, picture, look });
    }
    return looked;
  }

  /**
   * In which of some frames most of a picture's detail is found, the nearest first: of those that look like it, and where one is likely of those
   * that came with it, as `beside` gives them: they may be of one scene.
   */
  async told(
    of: SeenPicture,
    among: readonly LookedFrame[],
    beside: (id: string) => Promise<readonly ShownFrame[]>,
  ): Promise<Told[]> {
    const candidates = await this.candidates(of, among);
    const [first] = candidates;
    if (!first?.likely) return this.byDetail(of, candidates);
    const known = new Set(among.map(({ id }) => id));
    const more = await this.looked((await beside(first.id)).filter(({ id }) => !known.has(id)));
    return this.byDetail(of, byLikelihood([...candidates, ...(await this.candidates(of, more))]));
  }

  /** Of some frames those that a picture may have been made from, the likeliest first. */
  private async candidates({ look }: SeenPicture, among: readonly LookedFrame[]): Promise<Likely[]> {
    const size = Math.ceil(among.length / PARTS);
    const parts = Array.from({ length: PARTS }, (_, i) => among.slice(i * size, (i + 1) * size));
    const found = await Promise.all(
      parts.map(async (part) => {
        const looks = part.map((frame) => frame.look);
        const candidates = looks.length === 0 ? [] : await this.maker.candidates(look, looks);
        return candidates.map(({ nth, ...its }) => ({ ...part[nth]!, ...its }));
      }),
    );
    return byLikelihood(found.flat());
  }

  /** Looks closely into the likeliest of some frames: in which most of a picture's detail is found, the nearest first. */
  private async byDetail(of: SeenPicture, likely: readonly LookedFrame[]): Promise<Told[]> {
    const looked: { id: string; picture: LookedPicture }[] = [];
    for (const { id, picture, look } of likely) {
      if (looked.length === LOOKED_INTO) break;
      // A picture that cannot be shown now, as its drive is away, is none that can be looked into.
      const preview = await this.previews.get(picture, 'screen').catch(() => null);
      if (preview) looked.push({ id, picture: { look, preview } });
    }
    if (looked.length === 0) return [];
    const pictures = looked.map(({ picture }) => picture);
    const told = await this.maker.detailed(of, pictures);
    return told.map(({ nth, apart }) => ({ id: looked[nth]!.id, apart }));
  }
}

const byLikelihood = (all: readonly Likely[]): Likely[] => [...all].sort((a, b) => a.unlikely - b.unlikely);
