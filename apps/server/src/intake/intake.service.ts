import { Injectable } from '@nestjs/common';
import {
  ArkivError,
  saidIn,
  describeFrame,
  describePatternProblem,
  joinedKeywords,
  keptTexts,
  textsOf,
  startProgress,
  templateProblem,
  toNamePart,
  type IntakePlan,
  type NameFacts,
  type PlanFrame,
} from '@arkiv/core';
import type { EntityManager } from 'typeorm';
import { Disk } from '../disk/disk';
import { FrameStore, type NewFrame } from '../frames/frameStore';
import { marksFrom, newFrame } from '../frames/newFrame';
import type { FrameText } from '../frames/frameText.entity';
import { OpenJobs } from '../jobs/openJobs.service';
import { JobsService, type NewBeginning } from '../jobs/jobs.service';
import type { Arrival, ArrivalFile } from '../ledger/arrival.entity';
import { ArrivalLedger } from '../ledger/arrivalLedger';
import { ReadersService } from '../readers/readers.service';
import { Shoot } from '../shoots/shoot.entity';
import { ShootsService } from '../shoots/shoots.service';
import { Clock } from '../system/clock';
import { Ids } from '../system/ids';
import { SettingsService } from '../settings/settings.service';
import { SPARE_BYTES, VolumesService } from '../volumes/volumes.service';
import type { Volume } from '../volumes/volume.entity';
import type { IntakeParams } from './intake.types';
import { IntakePlansService, type IntakeRequest, type PlannedShare } from './intakePlans.service';

export interface StartedIntake {
  jobId: string;
  shootId: string;
}

@Injectable()
export class IntakeService {
  /** intakes whose rows are being written, one after the other */
  private beginning: Promise<unknown> = Promise.resolve();

  constructor(
    private readonly disk: Disk,
    private readonly readers: ReadersService,
    private readonly plans: IntakePlansService,
    private readonly volumes: VolumesService,
    private readonly jobs: JobsService,
    private readonly openJobs: OpenJobs,
    private readonly settings: SettingsService,
    private readonly shoots: ShootsService,
    private readonly store: FrameStore,
    private readonly ledger: ArrivalLedger,
    private readonly clock: Clock,
    private readonly ids: Ids,
  ) {}

  /**
   * Starts an intake: plans it anew from the card as it is, checks everything, then writes all rows. A card that is split
   * becomes several intakes, which are refused or begun together. While another one is being written nothing is planned:
   * the next plan sees the names that it has taken.
   */
  async start(asked: IntakeRequest): Promise<StartedIntake & { others: StartedIntake[] }> {
    await this.beginning;
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
    const visit = this.ids.newId();
    const begun = await Promise.all(prepared.map((part) => this.rowsOf(part, visit)));
    const begin = this.beginning.then(() => this.jobs.begin(begun.map(({ beginning }) => beginning)));
    this.beginning = begin.catch(() => undefined);
    await begin;
    const [first, ...others] = begun.map(({ started }) => started);
    return { ...first!, others };
  }

  private async refuseWhileClearing(readerId: string): Promise<void> {
    const busy = await this.openJobs.onReader(readerId, 'clears');
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

  /** All that one shoot's share of a card brings: what is written with its job, and with each part of its files. */
  private async rowsOf(
    prepared: PlannedShare,
    visit: string,
  ): Promise<{ started: StartedIntake; beginning: NewBeginning }> {
    const { request, scan, plan, shoot, leftOut } = prepared;
    const settings = await this.settings.all();
    const { creator } = settings;
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
    const home = (manager: EntityManager) =>
      shoot
        ? extendShoot(manager, shoot, plan, nextSeq)
        : this.shoots.create(manager, {
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
          });
    const template = request.template ? { ...request.template, id: '', name: '' } : null;
    const texts = new Map<string, FrameText>();
    const frames = plan.frames.map((planned): NewFrame => {
      const source = byKey.get(planned.key)!;
      const { facts } = source;
      const id = frameIds.get(planned.key)!;
      const description = describeFrame(
        template,
        textFacts(request, scan.card, creator, source, planned.seq),
        facts,
      );
      const apertureText = facts.aperture?.text ?? null;
      const exposureText = facts.exposure?.text ?? null;
      if (apertureText ?? exposureText)
        texts.set(id, { frameId: id, apertureText, exposureText, sidecarBase: null, foreign: null });
      const begins = marksFrom(facts, template, settings);
      const marked = begins.stars > 0 || begins.label !== null || begins.verdict !== 'undecided';
      const frame = newFrame({ id, shootId, ...planned }, source, request.zoneMinutes);
      const words = {
        caption: saidIn(description.caption ?? ''),
        keywords: joinedKeywords(description.keywords),
        persons: joinedKeywords(description.persons),
        texts: keptTexts(textsOf(description)),
      };
      return { ...frame, ...begins, ...words, markedAt: marked ? this.clock.now() : 0 };
    });
    const title = shoot?.title ?? request.title.trim();
    const arrival: Arrival = {
      ...{ id: jobId, visit, title, shootId, intoExisting: shoot !== null },
      ...{ card: scan.card, fingerprint: scan.fingerprint, readerId: request.readerId },
      ...{ folders: plan.folders, targets: request.targets, receipts: [] },
      ...{ at: this.clock.now(), startedAt: null, finishedAt: null },
    };
    const files = plan.items.map((item, seq): ArrivalFile => ({
      ...{ arrivalId: jobId, seq, from: item.from, to: item.to, size: item.size },
      ...{ role: item.role, format: item.format, raw: item.raw },
      frameId: item.frameKey === null ? null : frameIds.get(item.frameKey)!,
      mtimeMillis: times.get(item.from) ?? 0,
      known: item.frameKey !== null && known.has(item.frameKey),
      number: item.frameKey !== null && known.has(item.frameKey) ? (seqOf.get(item.frameKey) ?? null) : null,
      ...{ fate: 'todo', sha256: null, progress: startProgress(request.targets) },
    }));
    // What stays on the card by choice comes after what is meant to be copied.
    const stayed = leftOut.map(({ path: from, size }, i): ArrivalFile => ({
      ...{ arrivalId: jobId, seq: files.length + i, from, to: '', size, frameId: null },
      ...{ role: 'other', format: '', raw: false, mtimeMillis: 0, known: false, number: null },
      ...{ fate: 'left-out', sha256: null, progress: startProgress([]) },
    }));
    const params: IntakeParams = { readerId: request.readerId, card: scan.card };
    const firsts = framesByFirstFile(frames, files);
    const beginning: NewBeginning = {
      job: {
        ...{ id: jobId, kind: 'intake', title, shootId, params },
        subjects: [{ kind: 'reader', id: request.readerId, deed: 'reads' }],
      },
      items: plan.items.map(({ size, from: name }) => ({ size, name, data: {} })),
      head: async (manager) => {
        await home(manager);
        await this.ledger.open(manager, arrival);
        if (files.length === 0) await this.ledger.add(manager, stayed);
      },
      part: async (manager, from, to) => {
        const expected = firsts.slice(from, to).flatMap((frame) => frame ?? []);
        await this.store.expect(
          manager,
          expected,
          expected.flatMap(({ id }) => texts.get(id) ?? []),
        );
        const here = files.slice(from, to);
        await this.ledger.add(manager, here);
        // Those that stay are told of with the last ones that are copied, some with each.
        const share = Math.ceil((stayed.length * to) / files.length);
        const before = Math.ceil((stayed.length * from) / files.length);
        await this.ledger.add(manager, stayed.slice(before, share));
      },
    };
    return { started: { jobId, shootId }, beginning };
  }
}

/** Each frame beside the first of its files: so it is written with it, and every frame that is expected has files. */
function framesByFirstFile(frames: readonly NewFrame[], files: readonly ArrivalFile[]): (NewFrame | null)[] {
  const left = new Map(frames.map((frame) => [frame.id, frame]));
  return files.map(({ frameId }) => {
    const frame = frameId === null ? undefined : left.get(frameId);
    if (frame) left.delete(frame.id);
    return frame ?? null;
  });
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

/** The card's part of a receipt's name. */
export function cardPart(card: string): string {
  return toNamePart(card) || 'card';
}
