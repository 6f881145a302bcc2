import { Injectable, type OnModuleInit } from '@nestjs/common';
import { ArkivError } from '@arkiv/core';
import type { EntityManager } from 'typeorm';
import { UnitOfWork } from '../db/unitOfWork';
import { FinishedFiles } from '../delivery/finishedFiles.service';
import { Happenings } from '../events/domainEvents';
import { FramesService } from '../frames/frames.service';
import type { Job, JobItem } from '../jobs/job.entity';
import type { ItemContext, ItemOutcome, JobHandler } from '../jobs/jobHandler';
import { JobsService } from '../jobs/jobs.service';
import type { Lane } from '../jobs/lanes';
import type { Gallery, GalleryFrame } from '../ledger/gallery.entity';
import { GalleryLedger } from '../ledger/galleryLedger';
import { Clock } from '../system/clock';
import { GalleryFiles } from './galleryFiles';
import { SIZE_NAMES, specsOfLook } from './galleryLook';

/** Makes the pictures of a gallery, those that are not there or would be others by now. */
@Injectable()
export class GalleryHandler implements JobHandler, OnModuleInit {
  readonly kind = 'gallery';
  /** as many as there are decoding processes */
  readonly inFlight = 2;

  constructor(
    private readonly ledger: GalleryLedger,
    private readonly files: GalleryFiles,
    private readonly frames: FramesService,
    private readonly finished: FinishedFiles,
    private readonly jobs: JobsService,
    private readonly work: UnitOfWork,
    private readonly happenings: Happenings,
    private readonly clock: Clock,
  ) {}

  onModuleInit(): void {
    this.jobs.register(this);
  }

  lane(): Lane {
    return { bulk: false, way: null, first: false };
  }

  /** What one that is made anew had before stays as it was. */
  async undo(job: Job): Promise<void> {
    const gallery = await this.galleryOf(job).catch(() => null);
    if (gallery?.jobId === job.id && gallery.madeAt === null)
      await this.work.write((manager) => this.ledger.forget(manager, gallery.id));
  }

  async begin(job: Job): Promise<void> {
    const { closedAt, title } = await this.galleryOf(job);
    if (closedAt !== null) throw new ArkivError('gallery.closed', { name: title });
  }

  async runItem(job: Job, item: JobItem, context: ItemContext): Promise<ItemOutcome> {
    const gallery = await this.galleryOf(job);
    const frame = await this.ledger.frame(gallery.id, item.seq);
    try {
      return { state: 'done', commit: await this.made(gallery, frame, job.id) };
    } catch (error) {
      if (context.signal.aborted || !(error instanceof ArkivError)) throw error;
      return { state: 'failed', reason: `${frame.name}: ${error.message} ${error.body().next}` };
    }
  }

  async finish(job: Job): Promise<object> {
    const { id, shootId } = await this.galleryOf(job);
    await this.work.write(async (manager) => {
      await this.ledger.change(manager, id, { madeAt: this.clock.now() });
      this.happenings.after(manager, 'gallery', { shootId, galleryId: id });
    });
    return {};
  }

  /** What is to be noted of it. */
  private async made(
    { look }: Gallery,
    frame: GalleryFrame,
    job: string,
  ): Promise<(manager: EntityManager) => Promise<void>> {
    const specs = specsOfLook(look);
    const its = await this.frames.frame(frame.frameId);
    if (!its) throw new ArkivError('not-found', { what: 'frame', id: frame.frameId });
    const said = (await this.finished.said([its])).get(its.id)!;
    const planned = { item: 0, number: 0, spec: 0, from: frame.name, to: '', frameId: its.id };
    const recipe = await this.finished.recipe({ ...planned, picture: frame.picture }, specs, said);
    if (recipe !== null && recipe === frame.recipe && (await this.files.areThere(frame)))
      return async () => undefined;
    const made = await this.finished.render(specs, { picture: frame.picture, from: frame.name }, said);
    const { width, height } = made[0]!;
    // Browsers keep what they have seen: another picture has another address.
    const version = frame.version + 1;
    await this.files.drop({ ...frame, version });
    for (const [i, size] of SIZE_NAMES.entries())
      await this.files.put({ ...frame, version }, size, made[i]!.bytes, job);
    return async (manager) => {
      await this.ledger.noteFrame(manager, frame, { recipe, version, width, height });
      // One that is looked at right now is read whole by whoever has it open.
      await this.files.drop(frame);
    };
  }

  private async galleryOf({ params }: Job): Promise<Gallery> {
    const { galleryId } = params as { galleryId: string };
    const gallery = await this.ledger.gallery(galleryId);
    if (!gallery) throw new ArkivError('not-found', { what: 'gallery', id: galleryId });
    return gallery;
  }
}
