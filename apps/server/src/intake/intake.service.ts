import { Injectable } from '@nestjs/common';
import {
  ArkivError,
  bodyKey,
  describeFrame,
  describePatternProblem,
  frameKind,
  instantMillis,
  startProgress,
  templateProblem,
  toNamePart,
  type IntakePlan,
  type NameFacts,
  type PlanFrame,
  type PlannedFrame,
} from '@arkiv/core';
import type { EntityManager } from 'typeorm';
import { UnitOfWork } from '../db/unitOfWork';
import { Disk } from '../disk/disk';
import { EventsService } from '../events/events.service';
import { Frame } from '../frames/frame.entity';
import { OpenJobs } from '../jobs/openJobs.service';
import { JobsService } from '../jobs/jobs.service';
import { ReadersService } from '../readers/readers.service';
import { Shoot } from '../shoots/shoot.entity';
import { Clock } from '../system/clock';
import { Ids } from '../system/ids';
import { SettingsService } from '../system/settings.service';
import { SPARE_BYTES, VolumesService } from '../volumes/volumes.service';
import type { Volume } from '../volumes/volume.entity';
import type { IntakeItem, IntakeParams } from './intake.types';
import { IntakePlansService, type IntakeRequest, type PlannedShare } from './intakePlans.service';

export interface StartedIntake {
  jobId: string;
  shootId: string;
}

@Injectable()
export class IntakeService {
  constructor(
    private readonly disk: Disk,
    private readonly work: UnitOfWork,
    private readonly readers: ReadersService,
    private readonly plans: IntakePlansService,
    private readonly volumes: VolumesService,
    private readonly jobs: JobsService,
    private readonly openJobs: OpenJobs,
    private readonly settings: SettingsService,
    private readonly events: EventsService,
    private readonly clock: Clock,
    private readonly ids: Ids,
  ) {}

  /**
   * Starts an intake: plans it anew from the card as it is, checks everything, then writes all rows at once. A card that
   * is split becomes several intakes, which are refused or begun together.
   */
  async start(asked: IntakeRequest): Promise<StartedIntake & { others: StartedIntake[] }> {
    const card = await this.readers.scan(asked.readerId);
    if (card.fingerprint !== asked.fingerprint) {
      throw new ArkivError('card.other', { reader: (await this.readers.get(asked.readerId)).name });
    }
    await this.refuseWhileClearing(asked.readerId);
    const problem = asked.template && templateProblem(asked.template);
    if (problem)
      throw new ArkivError('request.invalid', {
        reason: describePatternProblem(problem.text, problem.problem),
      });
    const targets = await Promise.all(asked.targets.map((id) => this.volumes.get(id)));
    for (const volume of targets) await this.volumes.check(volume);
    const prepared = await this.plans.prepare(asked, card, targets);
    await this.checkSpace(
      targets,
      prepared.reduce((sum, { plan }) => sum + plan.bytes, 0),
    );
    const started: StartedIntake[] = [];
    const arrival = this.ids.newId();
    await this.work.write(async (manager) => {
      for (const part of prepared) started.push(await this.write(manager, part, arrival));
    });
    for (const { jobId, shootId } of started) {
      this.events.publish('shoots', { shootId });
      this.jobs.start(jobId);
    }
    const [first, ...others] = started;
    return { ...first!, others };
  }

  private async refuseWhileClearing(readerId: string): Promise<void> {
    const busy = await this.openJobs.onReader(readerId, ['clear']);
    if (busy)
      throw new ArkivError('card.busy', {
        title: busy.title,
        reader: (await this.readers.get(readerId)).name,
      });
  }

  private async checkSpace(targets: readonly Volume[], bytes: number): Promise<void> {
    for (const volume of targets) {
      const { free } = await this.disk.space(volume.root);
      if (free < bytes + SPARE_BYTES)
        throw new ArkivError('volume.full', {
          volume: volume.name,
          needed: bytes + SPARE_BYTES,
          free,
          file: '',
        });
    }
  }

  private async write(
    manager: EntityManager,
    prepared: PlannedShare,
    arrival: string,
  ): Promise<StartedIntake> {
    const { request, scan, plan, shoot, leftOut } = prepared;
    const { creator } = await this.settings.all();
    const shootId = shoot?.id ?? this.ids.newId();
    const jobId = this.ids.newId();
    const frameIds = new Map(plan.frames.map((frame) => [frame.key, this.ids.newId()]));
    const byKey = new Map(scan.frames.map((frame) => [frame.key, frame]));
    const times = new Map(
      [...scan.frames.flatMap((f) => f.files), ...scan.extras].map((f) => [f.path, f.mtimeMillis]),
    );
    const known = new Set(request.known);
    const seqOf = new Map(plan.frames.map((frame) => [frame.key, frame.seq]));
    const sure = plan.frames.filter((frame) => !known.has(frame.key));
    const nextSeq = sure.reduce((next, frame) => Math.max(next, frame.seq + 1), request.seqStart);
    const params: IntakeParams = {
      readerId: request.readerId,
      card: scan.card,
      fingerprint: scan.fingerprint,
      shootId,
      arrival,
      intoExisting: shoot !== null,
      folders: plan.folders,
      leftOut: leftOut.map(({ path, size }) => ({ path, size })),
      targets: request.targets,
    };
    if (shoot) await extendShoot(manager, shoot, plan, nextSeq);
    else
      await manager.insert(Shoot, {
        id: shootId,
        title: request.title.trim(),
        date: request.date,
        client: request.client.trim(),
        place: request.place.trim(),
        folders: plan.folders,
        plan: request.folders,
        pattern: request.pattern,
        nextSeq,
        seqBy: request.seqBy ?? 'shoot',
        zoneMinutes: request.zoneMinutes,
        createdAt: this.clock.now(),
        revision: 1,
        mergedInto: null,
      });
    const template = request.template ? { ...request.template, id: '', name: '' } : null;
    const frames = plan.frames.map((planned): Frame => {
      const source = byKey.get(planned.key)!;
      const words = describeFrame(template, textFacts(request, scan.card, creator, source, planned.seq), {
        creator: source.facts.creator,
        rights: source.facts.rights,
        caption: source.facts.caption,
      });
      const frame = newFrame(frameIds.get(planned.key)!, shootId, source, planned, request.zoneMinutes);
      const begins = { stars: template?.stars ?? 0, label: template?.label ?? null };
      const marked = begins.stars > 0 || begins.label !== null;
      return { ...frame, ...begins, markedAt: marked ? this.clock.now() : 0, description: words };
    });
    // SQLite takes 32,766 parameters in one statement: 500 frames of 36 stay well below.
    for (let at = 0; at < frames.length; at += 500) await manager.insert(Frame, frames.slice(at, at + 500));
    const items = plan.items.map((item) => {
      const data: IntakeItem = {
        from: item.from,
        to: item.to,
        role: item.role,
        format: item.format,
        raw: item.raw,
        frameId: item.frameKey === null ? null : frameIds.get(item.frameKey)!,
        mtimeMillis: times.get(item.from) ?? 0,
        ...(item.frameKey !== null && known.has(item.frameKey)
          ? { known: true, seq: seqOf.get(item.frameKey) }
          : {}),
        progress: startProgress(request.targets),
      };
      return { size: item.size, data };
    });
    const title = shoot?.title ?? request.title.trim();
    await this.jobs.create(manager, { id: jobId, kind: 'intake', title, shootId, params }, items);
    return { jobId, shootId };
  }
}

/** Adds a card's folders and numbers to a shoot, unless another card was quicker since the plan was made. */
async function extendShoot(
  manager: EntityManager,
  planned: Shoot,
  plan: IntakePlan,
  nextSeq: number,
): Promise<void> {
  const now = await manager.findOneByOrFail(Shoot, { id: planned.id });
  if (now.nextSeq !== planned.nextSeq) throw new ArkivError('intake.overtaken', { shoot: now.title });
  await manager.update(
    Shoot,
    { id: now.id },
    {
      folders: [...new Set([...now.folders, ...plan.folders])],
      nextSeq: Math.max(nextSeq, now.nextSeq),
      revision: now.revision + 1,
    },
  );
}

/** What a metadata template's fields stand for, for one frame. */
function textFacts(
  request: IntakeRequest,
  card: string,
  creator: string,
  { facts, base }: PlanFrame,
  seq: number,
): NameFacts {
  const { title: shoot, client, place } = request;
  const known = {
    capture: facts.capture,
    original: base,
    body: facts.model ?? '',
    serial: facts.serial ?? '',
  };
  return { shoot, client, place, creator, card, seq, stars: 0, ...known };
}

function newFrame(
  id: string,
  shootId: string,
  source: PlanFrame,
  planned: PlannedFrame,
  zoneMinutes: number,
): Frame {
  const { facts } = source;
  const { role, format, raw } = frameKind(source.files);
  return {
    id,
    shootId,
    state: 'arriving',
    name: planned.name,
    original: source.base,
    folder: planned.folder,
    place: planned.place,
    verdict: 'undecided',
    stars: 0,
    label: null,
    instant: facts.capture ? instantMillis(facts.capture, zoneMinutes) : null,
    local: facts.capture?.local ?? null,
    millis: facts.capture?.millis ?? 0,
    offsetMinutes: facts.capture?.offsetMinutes ?? null,
    correctionMillis: facts.capture?.correctionMillis ?? 0,
    body: bodyKey(facts) || null,
    serial: facts.serial,
    lens: facts.lens,
    aperture: facts.aperture?.value ?? null,
    apertureText: facts.aperture?.text ?? null,
    exposure: facts.exposure?.value ?? null,
    exposureText: facts.exposure?.text ?? null,
    iso: facts.iso,
    focalLength: facts.focalLength,
    width: facts.width,
    height: facts.height,
    orientation: facts.orientation,
    seconds: facts.seconds,
    role,
    format,
    raw,
    sign: null,
    markedAt: 0,
    sidecarDue: 0,
    sidecarBase: null,
    description: null,
  };
}

/** The card's part of a receipt's name. */
export function cardPart(card: string): string {
  return toNamePart(card) || 'card';
}
