import path from 'node:path';
import { Injectable } from '@nestjs/common';
import {
  ArkivError,
  bodyKey,
  clearanceOf,
  collisionKey,
  describeFrame,
  describePatternProblem,
  fateOf,
  instantMillis,
  keptCapture,
  numberAfter,
  planIntake,
  shootDay,
  startProgress,
  templateProblem,
  toNamePart,
  withCorrections,
  type CardFileProof,
  type ClearanceReport,
  type ClockCorrection,
  type FolderPlan,
  type IntakeInput,
  type IntakePlan,
  type MetadataTemplate,
  type NameFacts,
  type PlanFrame,
  type PlannedFrame,
  type SequenceScope,
} from '@arkiv/core';
import { In, type EntityManager } from 'typeorm';
import { Reading, UnitOfWork } from '../db/unitOfWork';
import { Disk } from '../disk/disk';
import { EventsService } from '../events/events.service';
import { Asset } from '../frames/asset.entity';
import { Copy } from '../frames/copy.entity';
import { Frame } from '../frames/frame.entity';
import { Job, JobItem } from '../jobs/job.entity';
import { JobsService } from '../jobs/jobs.service';
import type { CardScan } from '../readers/cardScan';
import { ReadersService } from '../readers/readers.service';
import { Shoot } from '../shoots/shoot.entity';
import { Clock } from '../system/clock';
import { Ids } from '../system/ids';
import { SettingsService } from '../system/settings.service';
import { SPARE_BYTES, VolumesService } from '../volumes/volumes.service';
import type { Volume } from '../volumes/volume.entity';
import type { IntakeItem, IntakeParams } from './intake.types';

export interface IntakeRequest {
  readerId: string;
  /** the card as the plan was made for; another one is refused */
  fingerprint: string;
  title: string;
  date: string;
  client: string;
  place: string;
  pattern: string;
  folders: FolderPlan;
  seqStart: number;
  zoneMinutes: number;
  targets: string[];
  /** an existing shoot that the card's frames are added to */
  shootId?: string;
  /** how wrong each body's clock was */
  corrections?: ClockCorrection[];
  /** keys of frames that stay on the card */
  leaveOut?: string[];
  /** keys of frames that are probably archived: they are compared, and copied only if their content is new */
  known?: string[];
  seqBy?: SequenceScope;
  /** what is said of every frame */
  template?: Omit<MetadataTemplate, 'id' | 'name'>;
  /** frames that go into shoots of their own; the rest goes into the one that the request names */
  more?: IntakePart[];
}

/** A part of a card that becomes a shoot of its own. */
export interface IntakePart {
  title: string;
  date: string;
  client: string;
  place: string;
  keys: string[];
}

/** One shoot's share of a card, planned and checked. */
interface Prepared {
  request: IntakeRequest;
  scan: CardScan & { card: string };
  plan: IntakePlan;
  shoot: Shoot | null;
  leftOut: readonly { path: string; size: number }[];
}

export interface StartedIntake {
  jobId: string;
  shootId: string;
}

@Injectable()
export class IntakeService {
  constructor(
    private readonly disk: Disk,
    private readonly reading: Reading,
    private readonly work: UnitOfWork,
    private readonly readers: ReadersService,
    private readonly volumes: VolumesService,
    private readonly jobs: JobsService,
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
    const prepared = await this.prepare(asked, card, targets);
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

  /** Each shoot's share with its plan; a later share makes way for the places that an earlier one will fill. */
  private async prepare(
    asked: IntakeRequest,
    card: CardScan & { card: string },
    targets: readonly Volume[],
  ): Promise<Prepared[]> {
    const leaveOut = new Set(asked.leaveOut);
    const elsewhere = new Set(asked.more?.flatMap((part) => part.keys));
    const leftOut = card.frames.filter((frame) => leaveOut.has(frame.key)).flatMap((frame) => frame.files);
    const shoot = asked.shootId === undefined ? null : await this.shoot(asked.shootId);
    const shares = [
      { request: shoot ? asItsShoot(asked, shoot) : asked, shoot, leftOut, extras: card.extras, keys: null },
      ...(asked.more ?? []).map(({ keys, ...its }) => ({
        request: { ...asked, ...its, shootId: undefined },
        shoot: null,
        leftOut: [],
        extras: [],
        keys: new Set(keys),
      })),
    ];
    const prepared: Prepared[] = [];
    const places = new Set<string>();
    let { seqStart } = shares[0]!.request;
    for (const { request: its, keys, extras, ...share } of shares) {
      const request = { ...its, seqStart: its.seqBy === 'carried' ? seqStart : its.seqStart };
      const frames = card.frames.filter(
        ({ key }) => !leaveOut.has(key) && (keys ? keys.has(key) : !elsewhere.has(key)),
      );
      const scan = { ...card, extras, frames: withCorrections(frames, asked.corrections ?? []) };
      const plan = await this.plan(request, scan, targets, places);
      const [first] = plan.problems;
      if (first) throw new ArkivError('plan.problems', { count: plan.problems.length, first: first.message });
      for (const { to } of plan.items) places.add(collisionKey(to));
      seqStart = numberAfter(plan, seqStart);
      prepared.push({ request, scan, plan, ...share });
    }
    return prepared;
  }

  private async refuseWhileClearing(readerId: string): Promise<void> {
    const open = await this.reading.manager.find(Job, {
      where: { kind: 'clear', state: In(['queued', 'running', 'waiting', 'paused']) },
    });
    const busy = open.find((job) => (job.params as { readerId: string }).readerId === readerId);
    if (busy)
      throw new ArkivError('card.busy', {
        title: busy.title,
        reader: (await this.readers.get(readerId)).name,
      });
  }

  private async shoot(id: string): Promise<Shoot> {
    const shoot = await this.reading.manager.findOneBy(Shoot, { id });
    if (!shoot) throw new ArkivError('not-found', { what: 'shoot', id });
    return shoot;
  }

  /** Whether the card in a reader may be cleared, checked against what lies on it and on the volumes now. */
  async clearance(readerId: string): Promise<ClearanceReport> {
    const { files, notFollowed, fingerprint } = await this.readers.files(readerId);
    const { card } = await this.readers.get(readerId);
    const { requiredCopies } = await this.settings.all();
    const taken = await this.takenIn(
      files.map((f) => f.path),
      (intake) => intake.fingerprint === fingerprint || intake.card === card,
    );
    const online = new Map<string, boolean>();
    const proofs = await Promise.all(
      files.map(async (file): Promise<CardFileProof> => {
        const known = taken.get(`${file.path}\0${file.size}\0${file.mtimeMillis}`) ?? taken.get(file.path);
        if (!known) return { path: file.path, size: file.size, devices: null, unchanged: true };
        const unchanged = known.mtimeMillis === file.mtimeMillis && known.size === file.size;
        return {
          path: file.path,
          size: file.size,
          devices: await this.devicesOf(known.sha256, file.size, online),
          unchanged,
        };
      }),
    );
    return clearanceOf(proofs, requiredCopies, notFollowed);
  }

  private async plan(
    request: IntakeRequest,
    scan: CardScan & { card: string },
    targets: readonly Volume[],
    others: ReadonlySet<string>,
  ): Promise<IntakePlan> {
    const { creator, dayStartHour } = await this.settings.all();
    const here = new Set(scan.frames.map((frame) => frame.key));
    const input: IntakeInput = {
      frames: scan.frames,
      extras: scan.extras,
      shoot: { title: request.title, date: request.date, client: request.client, place: request.place },
      creator,
      card: scan.card,
      pattern: request.pattern,
      folders: request.folders,
      seqStart: request.seqStart,
      seqBy: request.seqBy,
      seqOfDays: request.seqBy === 'day' ? await this.seqOfDays(request, dayStartHour) : undefined,
      known: (request.known ?? []).filter((key) => here.has(key)),
      zoneMinutes: request.zoneMinutes,
      dayStartHour,
    };
    const taken = await this.underWay(request.shootId);
    const looked = new Set<string>();
    for (;;) {
      const plan = planIntake(input, (to) => taken.has(to) || others.has(collisionKey(to)));
      const folders = new Set(plan.items.map(({ to }) => path.posix.dirname(to)));
      const news = [...folders].filter((folder) => !looked.has(folder));
      // A place that is taken may have moved others: the folders that these come to are looked at as well.
      if (news.length === 0) return plan;
      for (const folder of news) {
        looked.add(folder);
        const there = await this.namesIn(folder, targets);
        for (const { to } of plan.items)
          if (path.posix.dirname(to) === folder && there.has(collisionKey(path.posix.basename(to))))
            taken.add(to);
      }
    }
  }

  /** What stands in a folder on any of the volumes, in the form in which names collide. */
  private async namesIn(folder: string, volumes: readonly Volume[]): Promise<Set<string>> {
    const names = new Set<string>();
    for (const volume of volumes) {
      const place = await this.volumes.resolve(volume, folder);
      if ((await this.disk.facts(place))?.kind !== 'folder') continue;
      for (const name of await this.disk.names(place)) names.add(collisionKey(String(name)));
    }
    return names;
  }

  /** Places that running intakes into the same shoot will fill. */
  private async underWay(shootId: string | undefined): Promise<Set<string>> {
    if (shootId === undefined) return new Set();
    const rows: { path: string }[] = await this.reading.source.query(
      `SELECT json_extract(i.data, '$.to') AS path FROM job_item i JOIN job j ON j.id = i."jobId"
       WHERE j.kind = 'intake' AND j."shootId" = ? AND i.state IN ('todo', 'doing')`,
      [shootId],
    );
    return new Set(rows.map((row) => row.path));
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

  private async write(manager: EntityManager, prepared: Prepared, arrival: string): Promise<StartedIntake> {
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
      return { ...frame, description: words };
    });
    // SQLite takes 32,766 parameters in one statement: 500 frames of 36 stay well below.
    for (let at = 0; at < frames.length; at += 500) await manager.insert(Frame, frames.slice(at, at + 500));
    const items = plan.items.map((item) => {
      const data: IntakeItem = {
        from: item.from,
        to: item.to,
        role: item.role,
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

  /** Where the numbers of days that have frames already carry on. */
  private async seqOfDays(
    { shootId, seqStart }: IntakeRequest,
    dayStartHour: number,
  ): Promise<Record<string, number>> {
    if (shootId === undefined) return {};
    const next: Record<string, number> = {};
    for (const frame of await this.reading.manager.findBy(Frame, { shootId })) {
      const capture = keptCapture(frame);
      if (!capture) continue;
      const day = shootDay(capture, dayStartHour);
      next[day] = (next[day] ?? seqStart) + 1;
    }
    return next;
  }

  /**
   * What earlier intakes of this card say of these paths: by path and facts, and the newest by path alone. Intakes of
   * other cards say nothing: two bodies write the same names.
   */
  private async takenIn(
    paths: readonly string[],
    ofThisCard: (intake: IntakeParams) => boolean,
  ): Promise<Map<string, { sha256: string; size: number; mtimeMillis: number }>> {
    const wanted = new Set(paths);
    const map = new Map<string, { sha256: string; size: number; mtimeMillis: number }>();
    const jobs = await this.reading.manager.find(Job, {
      where: { kind: 'intake' },
      order: { createdAt: 'ASC' },
    });
    for (const job of jobs) {
      if (!ofThisCard(job.params as IntakeParams)) continue;
      const items = await this.reading.manager.findBy(JobItem, { jobId: job.id });
      for (const { data, size } of items) {
        const { from, mtimeMillis, progress } = data as IntakeItem;
        const fate = fateOf(progress);
        if (!wanted.has(from) || !progress.sha256 || !['copied', 'partly', 'already-here'].includes(fate))
          continue;
        const entry = { sha256: progress.sha256, size, mtimeMillis };
        map.set(from, entry).set(`${from}\0${size}\0${mtimeMillis}`, entry);
      }
    }
    return map;
  }

  /** Distinct devices that hold a verified copy of this content, and still do. */
  private async devicesOf(sha256: string, size: number, online: Map<string, boolean>): Promise<number> {
    const devices = new Set<string>();
    for (const asset of await this.reading.manager.findBy(Asset, { sha256 })) {
      for (const copy of await this.reading.manager.findBy(Copy, { assetId: asset.id })) {
        const volume = await this.volumes.get(copy.volumeId);
        if (!online.has(volume.id)) online.set(volume.id, await this.volumes.isOnline(volume));
        if (!online.get(volume.id)) continue;
        const facts = await this.disk.facts(await this.volumes.resolve(volume, copy.path));
        if (facts?.kind === 'file' && facts.size === size) devices.add(volume.device);
      }
    }
    return devices.size;
  }
}

/** What an existing shoot has decided already; its numbers carry on. */
function asItsShoot(asked: IntakeRequest, shoot: Shoot): IntakeRequest {
  const { title, date, client, place, pattern, zoneMinutes, seqBy, plan: folders } = shoot;
  // By day each day counts from its own beginning; through the shoot numbers carry on.
  const seqStart = seqBy === 'day' ? asked.seqStart : Math.max(asked.seqStart, shoot.nextSeq);
  return { ...asked, title, date, client, place, pattern, folders, zoneMinutes, seqBy, seqStart };
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
  const roles = new Set(source.files.map((f) => f.role));
  const format = roles.has('raw')
    ? roles.has('jpeg')
      ? 'raw+jpeg'
      : 'raw'
    : roles.has('jpeg')
      ? 'jpeg'
      : 'clip';
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
    format,
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
