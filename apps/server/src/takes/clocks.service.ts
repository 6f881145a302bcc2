import { Injectable } from '@nestjs/common';
import { momentsOf, type ClockOffset } from '@arkiv/core';
import { FeaturesService } from '../features/features.service';
import { FramesService, type FrameInRow } from '../frames/frames.service';
import { PictureMaker, type MomentLooked } from '../pictures/pictureMaker';

/** A body whose clock seems to be off beside the one that took most of the shoot. */
export interface ClockProposal extends ClockOffset {
  /** the body that would be corrected, and the one beside which it is off */
  body: string;
  beside: string;
  /** what its correction would be then, milliseconds beside the camera's own clock */
  correction: number;
}

/**
 * Pictures of a body that are compared, spread over what it took: each costs eight comparisons, a hundredth of a second; of
 * 300, some ten pairs agree by chance nowhere and dozens where the offset is.
 */
const PICTURES = 300;
/** Milliseconds below which nothing is proposed: people press that much apart. */
const LEAST = 1500;

type Timed = FrameInRow & { instant: number; camera: string };

/** Proposes corrections of clocks from what several bodies saw; it changes none. */
@Injectable()
export class ClocksService {
  /** the last answer, with what it was made from: a shoot that is culled asks again and again */
  private known: { from: string; proposals: Promise<ClockProposal[]> } | null = null;

  constructor(
    private readonly frames: FramesService,
    private readonly features: FeaturesService,
    private readonly maker: PictureMaker,
  ) {}

  async proposals(shootId: string): Promise<ClockProposal[]> {
    const rows = (await this.frames.inRow(shootId)).filter(
      (row): row is Timed => row.instant !== null && row.camera !== null,
    );
    // Frames, their times and what was compared of them: what an answer is made from.
    const from = rows.map(({ id, instant, closeTo }) => `${id} ${instant} ${closeTo !== null}`).join();
    if (this.known?.from === from) return this.known.proposals;
    const missing = new Set<string>();
    const proposals = this.make(rows, missing);
    const own = { from, proposals };
    this.known = own;
    const forget = () => {
      if (this.known === own) this.known = null;
    };
    // What is known of old pictures may have been let go: they are looked at again, and the next answer knows more.
    proposals.then(() => {
      const again = this.features.hopeful(missing);
      this.features.later(again);
      if (again.length > 0) forget();
    }, forget);
    return proposals;
  }

  private async make(rows: readonly Timed[], missing: Set<string>): Promise<ClockProposal[]> {
    const bodies = new Map<string, Timed[]>();
    for (const row of rows) {
      const own = bodies.get(row.camera);
      if (own) own.push(row);
      else bodies.set(row.camera, [row]);
    }
    const [most, ...others] = [...bodies].sort(([, a], [, b]) => b.length - a.length);
    if (!most || others.length === 0) return [];
    const first = await this.looked(most[1], missing);
    const proposals: ClockProposal[] = [];
    for (const [body, own] of others) {
      // Two cards of one body that were corrected differently: one number would not put both right.
      if (own.some(({ correctionMillis }) => correctionMillis !== own[0]!.correctionMillis)) continue;
      const found = await this.maker.clock(first, await this.looked(own, missing));
      if (!found || Math.abs(found.millis) < LEAST) continue;
      proposals.push({
        ...found,
        body,
        beside: most[0],
        correction: own[0]!.correctionMillis + found.millis,
      });
    }
    return proposals;
  }

  private async looked(frames: readonly Timed[], missing: Set<string>): Promise<MomentLooked[]> {
    const pictures = new Map(frames.map(({ id, picture }) => [id, picture]));
    const moments = momentsOf(frames);
    const each = Math.max(1, moments.length / PICTURES);
    return Promise.all(
      moments.map(async (moment, i) => {
        const picture = pictures.get(moment.id);
        const isSpread = Math.floor(i / each) !== Math.floor((i - 1) / each);
        const look = picture && isSpread ? await this.features.look(picture) : null;
        if (picture && isSpread && !look) missing.add(picture);
        return { ...moment, look };
      }),
    );
  }
}
