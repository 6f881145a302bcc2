import { Injectable, type OnModuleInit } from '@nestjs/common';
import { ArkivError, type OutputSpec } from '@arkiv/core';
import type { EntityManager } from 'typeorm';
import { UnitOfWork } from '../db/unitOfWork';
import { Disk } from '../disk/disk';
import { OtherContent, placeProven } from '../disk/provenBytes';
import { hashFile, SourceError, verifiedCopy } from '../disk/verifiedCopy';
import type { Frame } from '../frames/frame.entity';
import { FramesService } from '../frames/frames.service';
import type { Job, JobItem } from '../jobs/job.entity';
import { WaitForOutside, type ItemContext, type ItemOutcome, type JobHandler } from '../jobs/jobHandler';
import { JobsService } from '../jobs/jobs.service';
import type { Lane } from '../jobs/lanes';
import { RAW_PART, RAW_SIDECAR_PART, type Delivery, type DeliveryFile } from '../ledger/delivery.entity';
import { OutLedger } from '../ledger/outLedger';
import type { Said } from '../sidecars/sidecarWords.service';
import { Clock } from '../system/clock';
import type { Volume } from '../volumes/volume.entity';
import { volumeError, VolumesService } from '../volumes/volumes.service';
import { specsOf } from './deliverySet';
import { FinishedFiles, type Made } from './finishedFiles.service';
import { SetPlanner } from './setPlanner.service';
import { WholeSet } from './wholeSet.service';

/** A file that is to be made, and by what. */
interface Open {
  file: DeliveryFile;
  recipe: string | null;
}

/** What one run of an item works with. */
interface Run {
  job: Job;
  delivery: Delivery;
  specs: readonly OutputSpec[];
  frame: Frame;
  said: Said;
  volume: Volume;
  context: ItemContext;
  notes: ((manager: EntityManager) => Promise<void>)[];
}

type Facts = Pick<DeliveryFile, 'sha256' | 'size' | 'width' | 'height'>;

/** Makes a set, or brings it up to date, frame by frame. */
@Injectable()
export class DeliveryHandler implements JobHandler, OnModuleInit {
  readonly kind = 'delivery';
  /** as many as there are decoding processes */
  readonly inFlight = 2;

  constructor(
    private readonly disk: Disk,
    private readonly work: UnitOfWork,
    private readonly jobs: JobsService,
    private readonly frames: FramesService,
    private readonly planner: SetPlanner,
    private readonly finished: FinishedFiles,
    private readonly whole: WholeSet,
    private readonly volumes: VolumesService,
    private readonly ledger: OutLedger,
    private readonly clock: Clock,
  ) {}

  onModuleInit(): void {
    this.jobs.register(this);
  }

  async undo(job: Job): Promise<void> {
    while (await this.work.write((manager) => this.ledger.forgetDelivery(manager, job.id)));
  }

  /** What lies there now is another set's by then. */
  async again(job: Job): Promise<void> {
    await this.planner.mustBeNewest(await this.delivery(job.id));
  }

  lane(): Lane {
    return { bulk: false, way: null, first: false };
  }

  async begin(job: Job): Promise<void> {
    const volume = await this.volumes.get((await this.delivery(job.id)).volumeId);
    if (!(await this.volumes.isOnline(volume)))
      throw new WaitForOutside(`“${volume.name}” is not there. Plug it in: the delivery carries on.`);
  }

  /** All files of one frame: its pictures are made from one reading. */
  async runItem(job: Job, item: JobItem, context: ItemContext): Promise<ItemOutcome> {
    const files = (await this.ledger.deliveryFilesOf(job.id, item.seq)).filter(({ fate }) => fate !== 'made');
    if (files.length === 0) return { state: 'done' };
    const run = await this.runOf(job, files[0]!, context);
    const open: Open[] = [];
    for (const file of files) {
      const recipe = await this.finished.recipe(file, run.specs, run.said);
      // A sidecar may hold settings of other programs, of which the archive keeps no record: it is made, and compared.
      const isSame = recipe !== null && recipe === file.recipe && file.spec !== RAW_SIDECAR_PART;
      if (!isSame || !(await this.isThere(file, run))) open.push({ file, recipe });
    }
    const reasons = await this.makeAll(open, run);
    const commit = async (manager: EntityManager): Promise<void> => {
      for (const note of run.notes) await note(manager);
    };
    return reasons.length === 0
      ? { state: 'done', commit }
      : { state: 'failed', reason: reasons.join(' '), commit };
  }

  async finish(job: Job): Promise<object> {
    const { zip, left } = await this.whole.close(await this.delivery(job.id));
    const finishedAt = this.clock.now();
    await this.work.write((manager) => this.ledger.finishDelivery(manager, job.id, { finishedAt, zip }));
    if (left.length === 0) return {};
    const error = new ArkivError('delivery.changed', { file: left.join(', ') });
    return { reason: `${error.message} ${error.body().next}` };
  }

  private async delivery(id: string): Promise<Delivery> {
    const delivery = await this.ledger.delivery(id);
    if (!delivery) throw new ArkivError('not-found', { what: 'delivery', id });
    return delivery;
  }

  private async runOf(job: Job, { frameId }: DeliveryFile, context: ItemContext): Promise<Run> {
    const delivery = await this.delivery(job.id);
    const frame = await this.frames.frame(frameId);
    if (!frame) throw new ArkivError('not-found', { what: 'frame', id: frameId });
    const said = (await this.finished.said([frame])).get(frameId)!;
    const volume = await this.volumes.get(delivery.volumeId);
    return { job, delivery, specs: specsOf(delivery), frame, said, volume, context, notes: [] };
  }

  /** Whether the file of before lies there as it was made: then it is no other now, and stays. */
  private async isThere(file: DeliveryFile, run: Run): Promise<boolean> {
    if (!(await this.liesAsMade(file, run))) return false;
    this.note(file, { fate: 'made' }, run);
    return true;
  }

  private async liesAsMade({ to, sha256 }: DeliveryFile, run: Run): Promise<boolean> {
    if (sha256 === null) return false;
    const final = await this.volumes.resolve(run.volume, to);
    if (!(await this.disk.facts(final))) return false;
    return (await hashFile(this.disk, final, run.context.signal)).sha256 === sha256;
  }

  /** Why some could not be made. */
  private async makeAll(open: readonly Open[], run: Run): Promise<string[]> {
    const reasons: string[] = [];
    const attempt = async (
      some: readonly Open[],
      make: (note: (one: Open, facts: Facts) => void) => Promise<void>,
    ): Promise<void> => {
      if (some.length === 0) return;
      const left = new Set(some);
      try {
        await this.volumes.check(run.volume);
        await make((one, facts) => {
          this.note(one.file, { fate: 'made', recipe: one.recipe, ...facts }, run);
          left.delete(one);
        });
      } catch (error) {
        if (run.context.signal.aborted) throw error;
        const cause = error instanceof SourceError ? error.reason : error;
        const { to, from } = [...left][0]!.file;
        const shown = volumeError(cause, run.volume, to, 0, 0);
        reasons.push(`${from}: ${shown.message} ${shown.body().next}`);
        for (const { file } of left) {
          // The one of before counts only while it lies there as it was made.
          const stands = await this.liesAsMade(file, run).catch(() => false);
          this.note(file, { fate: 'failed', ...(!stands && { sha256: null }) }, run);
        }
      }
    };
    const isRendered = ({ file: { spec } }: Open) => spec >= 0 && run.specs[spec]!.format !== 'asis';
    const rendered = open.filter(isRendered);
    await attempt(rendered, async (note) => {
      const specs = rendered.map(({ file }) => run.specs[file.spec]!);
      const made = await this.finished.render(specs, rendered[0]!.file, run.said);
      for (const [i, one] of rendered.entries()) note(one, await this.place(one.file, made[i]!, run));
    });
    for (const one of open.filter((other) => !isRendered(other)))
      await attempt([one], async (note) => note(one, await this.bring(one.file, run)));
    return reasons;
  }

  /** A file that no picture is made for. */
  private async bring(file: DeliveryFile, run: Run): Promise<Facts> {
    if (file.spec === RAW_PART) return this.copyRaw(file, run);
    if (file.spec !== RAW_SIDECAR_PART) return this.place(file, await this.finished.asItIs(file), run);
    const bytes = await this.finished.rawSidecar(run.frame, run.said);
    return this.place(file, { bytes, width: null, height: null }, run);
  }

  private async copyRaw(file: DeliveryFile, { job, volume, context }: Run): Promise<Facts> {
    const raw = await this.finished.raw(file);
    const final = await this.volumes.resolve(volume, file.to);
    const { size, targets } = await verifiedCopy(this.disk, raw.file, [{ id: volume.id, final }], {
      ...{ job: job.id, signal: context.signal, expected: raw.sha256 },
    });
    const [copied] = targets;
    if (copied && !copied.ok) throw copied.error;
    return { sha256: raw.sha256, size, width: null, height: null };
  }

  /** A file under its name. What was made for this set before gives way; anything else is never overwritten. */
  private async place(
    file: DeliveryFile,
    { bytes, ...size }: Omit<Made, 'width' | 'height'> & Pick<Facts, 'width' | 'height'>,
    { job, volume, context }: Run,
  ): Promise<Facts> {
    const final = await this.volumes.resolve(volume, file.to);
    const put = (over: readonly string[]) =>
      placeProven(this.disk, final, bytes, { job: job.id, over, signal: context.signal });
    const mine = file.sha256 === null ? [] : [file.sha256];
    try {
      return { sha256: await put(mine), size: bytes.byteLength, ...size };
    } catch (error) {
      if (!(error instanceof OtherContent)) throw error;
      // A run that was given up may have put a later one there.
      const { sha256 } = await hashFile(this.disk, final, context.signal);
      if (await this.ledger.wasMade(volume.id, file.to, sha256))
        return { sha256: await put([sha256]), size: bytes.byteLength, ...size };
      throw new ArkivError(file.sha256 === null ? 'file.exists' : 'delivery.changed', { file: file.to });
    }
  }

  private note(file: DeliveryFile, change: Partial<DeliveryFile>, { job, notes }: Run): void {
    notes.push((manager) => this.ledger.noteDelivery(manager, job.id, file.seq, change));
  }
}
