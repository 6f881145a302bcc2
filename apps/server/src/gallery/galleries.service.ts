import { Injectable, type OnApplicationBootstrap } from '@nestjs/common';
import {
  ArkivError,
  choiceOf,
  describe,
  isGalleryOpen,
  isMarkValue,
  pileKind,
  saidBy,
  type Choice,
  type GuestRights,
  type SaidBy,
  type Watermark,
} from '@arkiv/core';
import { UnitOfWork } from '../db/unitOfWork';
import { SetPlanner } from '../delivery/setPlanner.service';
import { Happenings } from '../events/domainEvents';
import { FramesService } from '../frames/frames.service';
import { JobsService } from '../jobs/jobs.service';
import { OpenJobs } from '../jobs/openJobs.service';
import type { Becomes, Gallery, GalleryFrame, GalleryGuest, GalleryLink } from '../ledger/gallery.entity';
import { GalleryLedger } from '../ledger/galleryLedger';
import { OutLedger } from '../ledger/outLedger';
import { PileStore } from '../marks/pileStore';
import { SettingsService } from '../settings/settings.service';
import { ShootsService } from '../shoots/shoots.service';
import { Clock } from '../system/clock';
import { Ids } from '../system/ids';
import { GalleryDoors, randomKey } from './galleryDoors.service';
import { GalleryFiles } from './galleryFiles';
import { lookOf } from './galleryLook';

export interface GalleryRequest {
  title: string;
  words: string;
  line: string;
  /** long side of its largest pictures */
  side: number;
  /** name of the output spec whose watermark they bear */
  watermarkOf: string | null;
  deliveryId: string | null;
  most: number | null;
  /** `pile`: one of its own is made */
  becomes: 'pile' | Becomes | null;
  until: number | null;
  /** whether its own address asks for a pass code */
  withCode: boolean;
  rights: GuestRights;
}

/** What of a gallery can be changed without making its pictures anew. */
export type GalleryChange = Partial<
  Pick<GalleryRequest, 'title' | 'words' | 'deliveryId' | 'most' | 'until'>
>;

export type NewLink = Pick<GalleryLink, 'name' | 'email' | 'rights'> & { withCode: boolean };

export interface ShownGallery extends Gallery {
  frames: GalleryFrame[];
  links: (GalleryLink & { token: string | null; code: string | null })[];
  guests: GalleryGuest[];
  choice: Choice;
  /** what each person did, by id */
  by: Map<string, SaidBy>;
  /** how many frames would come and how many would go, were it made anew; null: that cannot be told */
  other: { fresh: number; gone: number } | null;
}

/** A gallery in which a client chooses. */
export interface ChoosingGallery extends Pick<Gallery, 'id' | 'shootId' | 'title' | 'until'> {
  most: number;
  chosen: number;
  /** who said that the choice is made, and when */
  sent: { by: string; at: number } | null;
}

/** What somebody of a client said of a frame. */
export interface ClientRemark {
  frameId: string;
  text: string;
  by: string;
  at: number;
}

/** Characters of a gallery's title in its pile's name, which has 60 at most. */
const LONGEST_IN_PILE = 44;
/** Milliseconds between looks for galleries whose time is over. */
const LOOKS_EVERY = 10 * 60 * 1000;

/** Galleries as the studio makes and sees them. */
@Injectable()
export class GalleriesService implements OnApplicationBootstrap {
  constructor(
    private readonly ledger: GalleryLedger,
    private readonly out: OutLedger,
    private readonly planner: SetPlanner,
    private readonly frames: FramesService,
    private readonly shoots: ShootsService,
    private readonly settings: SettingsService,
    private readonly piles: PileStore,
    private readonly doors: GalleryDoors,
    private readonly files: GalleryFiles,
    private readonly jobs: JobsService,
    private readonly openJobs: OpenJobs,
    private readonly work: UnitOfWork,
    private readonly happenings: Happenings,
    private readonly clock: Clock,
    private readonly ids: Ids,
  ) {}

  onApplicationBootstrap(): void {
    const look = () => void this.closeOver().catch(() => undefined);
    setInterval(look, LOOKS_EVERY).unref();
    look();
  }

  /** Throws `job.nothing` where the line means no picture, `request.invalid`. */
  async make(shootId: string, request: GalleryRequest): Promise<{ id: string; jobId: string }> {
    const { title, words, line, deliveryId, most, until } = request;
    await this.shoots.get(shootId);
    await this.checkSet(shootId, deliveryId);
    if (request.becomes !== null && request.becomes !== 'pile') refuseOther(request.becomes);
    const [id, at] = [this.ids.newId(), this.clock.now()];
    const frames = await this.planned(shootId, line, id, []);
    const becomes = request.becomes === 'pile' ? await this.ownPile(title) : request.becomes;
    const link = await this.doors.newLink(
      { galleryId: id, name: '', email: '', rights: request.rights },
      request.withCode,
    );
    const jobId = this.ids.newId();
    const gallery: Gallery = {
      ...{
        id,
        shootId,
        title,
        words,
        line,
        look: lookOf(request.side, await this.watermark(request.watermarkOf)),
        deliveryId,
        most,
      },
      ...{ becomes, until, at, jobId, madeAt: null, closedAt: null },
    };
    await this.begin(gallery, frames, async (manager) => {
      await this.ledger.open(manager, gallery);
      await this.ledger.addLink(manager, link);
    });
    return { id, jobId };
  }

  /** Makes what is new or other by now, and takes out what is no part of it any more. */
  async again(id: string): Promise<{ jobId: string }> {
    const gallery = await this.get(id);
    if (gallery.closedAt !== null) throw new ArkivError('gallery.closed', { name: gallery.title });
    return this.makeAgain(gallery, {});
  }

  async change(id: string, change: GalleryChange): Promise<void> {
    const { shootId } = await this.get(id);
    await this.checkSet(shootId, change.deliveryId ?? null);
    await this.write(shootId, id, (manager) => this.ledger.change(manager, id, change));
  }

  /** Nobody sees it any more, and its pictures go; what was said stays. */
  async close(id: string): Promise<void> {
    const { shootId, closedAt, jobId } = await this.get(id);
    if (closedAt !== null) return;
    if (await this.openJobs.isAnyOpen([jobId])) await this.jobs.cancel(jobId);
    await this.jobs.settled(jobId);
    await this.write(shootId, id, (manager) =>
      this.ledger.change(manager, id, { closedAt: this.clock.now() }),
    );
    await this.files.dropAll(id, await this.ledger.frames(id));
  }

  /** Its pictures are made anew. A time that is over is taken off. */
  async reopen(id: string): Promise<{ jobId: string }> {
    const gallery = await this.get(id);
    const over = gallery.until !== null && gallery.until <= this.clock.now();
    return this.makeAgain(gallery, { closedAt: null, ...(over && { until: null }) });
  }

  async addLink(galleryId: string, { withCode, ...its }: NewLink): Promise<GalleryLink> {
    const { shootId } = await this.get(galleryId);
    const link = await this.doors.newLink({ galleryId, ...its }, withCode);
    await this.write(shootId, galleryId, (manager) => this.ledger.addLink(manager, link));
    return link;
  }

  /** An address opens nothing any more. */
  async revoke(linkId: string): Promise<void> {
    const link = await this.ledger.link(linkId);
    if (!link) throw new ArkivError('not-found', { what: 'link', id: linkId });
    const { shootId } = await this.get(link.galleryId);
    await this.write(shootId, link.galleryId, (manager) =>
      this.ledger.changeLink(manager, linkId, { revokedAt: this.clock.now() }),
    );
  }

  /** The newest first. */
  async list(shootId: string): Promise<ShownGallery[]> {
    return Promise.all((await this.ledger.ofShoot(shootId)).map((gallery) => this.shown(gallery)));
  }

  /** What clients said of frames of a shoot, in all its galleries, the oldest first. */
  async remarks(shootId: string): Promise<ClientRemark[]> {
    const all: ClientRemark[] = [];
    for (const { id } of await this.ledger.ofShoot(shootId)) {
      const called = new Map((await this.ledger.guests(id)).map((guest) => [guest.id, guest.name]));
      for (const [frameId, said] of choiceOf(await this.ledger.said(id)).remarks)
        for (const { text, guestId, at } of said)
          all.push({ frameId, text, by: called.get(guestId) ?? '', at });
    }
    return all.sort((a, b) => a.at - b.at);
  }

  /** Galleries in which clients choose, those that close first before others. */
  async choosing(): Promise<ChoosingGallery[]> {
    const all: ChoosingGallery[] = [];
    for (const { id, shootId, title, until, most } of await this.ledger.openOnes()) {
      if (most === null || !isGalleryOpen({ closedAt: null, until }, this.clock.now())) continue;
      const { chosen, sent } = choiceOf(await this.ledger.said(id));
      const by = sent && (await this.ledger.guests(id)).find((guest) => guest.id === sent.guestId);
      all.push({
        ...{ id, shootId, title, until, most, chosen: chosen.size },
        sent: sent && { by: by?.name ?? '', at: sent.at },
      });
    }
    return all.sort((a, b) => (a.until ?? Infinity) - (b.until ?? Infinity));
  }

  async get(id: string): Promise<Gallery> {
    const gallery = await this.ledger.gallery(id);
    if (!gallery) throw new ArkivError('not-found', { what: 'gallery', id });
    return gallery;
  }

  private async shown(gallery: Gallery): Promise<ShownGallery> {
    const { id, shootId, line } = gallery;
    const frames = await this.ledger.frames(id);
    const links = await Promise.all(
      (await this.ledger.links(id)).map(async (link) => ({
        ...link,
        ...(await this.doors.told(link).catch(() => ({ token: null, code: null }))),
      })),
    );
    const said = await this.ledger.said(id);
    return {
      ...{ ...gallery, frames, links, guests: await this.ledger.guests(id) },
      ...{ choice: choiceOf(said), by: saidBy(said), other: await this.otherNow(shootId, line, frames) },
    };
  }

  private async otherNow(
    shootId: string,
    line: string,
    frames: readonly GalleryFrame[],
  ): Promise<ShownGallery['other']> {
    try {
      const now = await this.pictured(shootId, line);
      const is = new Map(frames.map(({ frameId, picture }) => [frameId, picture]));
      const fresh = now.filter((frame) => is.get(frame.id) !== frame.picture).length;
      const nowIds = new Set(now.map((frame) => frame.id));
      return { fresh, gone: frames.filter(({ frameId }) => !nowIds.has(frameId)).length };
    } catch (error) {
      // An album or a stage that its line names may be gone by now.
      if (error instanceof ArkivError) return null;
      throw error;
    }
  }

  private async makeAgain(gallery: Gallery, change: Partial<Gallery>): Promise<{ jobId: string }> {
    if (await this.openJobs.isAnyOpen([gallery.jobId])) return { jobId: gallery.jobId };
    // Of one that was closed nothing lies there, and what browsers have kept of it is under other names.
    const before = gallery.closedAt === null ? await this.ledger.frames(gallery.id) : [];
    const frames = await this.planned(gallery.shootId, gallery.line, gallery.id, before);
    const jobId = this.ids.newId();
    const stays = new Set(frames.map(({ key }) => key));
    await this.begin({ ...gallery, jobId }, frames, (manager) =>
      this.ledger.change(manager, gallery.id, { ...change, jobId }),
    );
    await this.files.dropAll(
      gallery.id,
      before.filter(({ key }) => !stays.has(key)),
    );
    return { jobId };
  }

  private async begin(
    { id, shootId, title, jobId }: Gallery,
    frames: GalleryFrame[],
    head: Parameters<UnitOfWork['write']>[0],
  ): Promise<void> {
    await this.jobs.begin([
      {
        job: { id: jobId, kind: 'gallery', title: `Gallery · ${title}`, shootId, params: { galleryId: id } },
        items: frames.map(({ name }) => ({ size: 0, name, data: {} })),
        head: async (manager) => {
          await head(manager);
          await this.ledger.setFrames(manager, id, frames);
          this.happenings.after(manager, 'gallery', { shootId, galleryId: id });
        },
      },
    ]);
  }

  /** The frames that a gallery has now; those that it had keep what they are called outside. */
  private async planned(
    shootId: string,
    line: string,
    galleryId: string,
    before: readonly GalleryFrame[],
  ): Promise<GalleryFrame[]> {
    const had = new Map(before.map((frame) => [frame.frameId, frame]));
    const now = await this.pictured(shootId, line);
    if (now.length === 0) {
      const { rule } = await this.planner.chosen(shootId, line);
      throw new ArkivError('job.nothing', { rule: describe(rule) });
    }
    return now.map(({ id: frameId, name, picture }, seq): GalleryFrame => {
      const its = had.get(frameId);
      const fresh = { key: randomKey(), version: 0, recipe: null, width: null, height: null };
      return { ...fresh, ...its, galleryId, seq, frameId, name, picture };
    });
  }

  private async pictured(shootId: string, line: string) {
    const { frames } = await this.planner.chosen(shootId, line);
    const pictures = await this.frames.pictures(shootId);
    return frames.flatMap(({ id, name, role }) => {
      const picture = role === 'clip' ? null : (pictures.get(id) ?? null);
      return picture === null ? [] : [{ id, name, picture }];
    });
  }

  private async ownPile(title: string): Promise<Becomes> {
    const taken = new Set((await this.piles.list()).map(({ name }) => name));
    for (let n = 1; ; n++) {
      const called = `Choice · ${title.slice(0, LONGEST_IN_PILE)}`;
      const name = n === 1 ? called : `${called} ${n}`;
      if (!taken.has(name)) return { kind: pileKind((await this.piles.create(name)).id), value: true };
    }
  }

  private async watermark(of: string | null): Promise<Watermark | null> {
    if (of === null) return null;
    const spec = (await this.settings.all()).outputSpecs.find(({ name }) => name === of);
    if (!spec?.watermark) throw new ArkivError('not-found', { what: 'watermark of the output spec', id: of });
    return spec.watermark;
  }

  private async checkSet(shootId: string, deliveryId: string | null): Promise<void> {
    if (deliveryId === null) return;
    const set = await this.out.delivery(deliveryId);
    if (!set?.zip || set.shootId !== shootId)
      throw new ArkivError('not-found', { what: 'finished delivery', id: deliveryId });
  }

  /** Pictures of galleries whose time is over go, as if they had been closed. */
  async closeOver(): Promise<void> {
    for (const { id, until } of await this.ledger.openOnes())
      if (until !== null && until <= this.clock.now()) await this.close(id);
  }

  private write(
    shootId: string,
    galleryId: string,
    change: Parameters<UnitOfWork['write']>[0],
  ): Promise<void> {
    return this.work.write(async (manager) => {
      await change(manager);
      this.happenings.after(manager, 'gallery', { shootId, galleryId });
    });
  }
}

function refuseOther({ kind, value }: Becomes): void {
  if (!isMarkValue(kind, value))
    throw new ArkivError('request.invalid', { reason: `${kind} cannot be ${JSON.stringify(value)}` });
}
