import path from 'node:path';
import { Injectable } from '@nestjs/common';
import {
  ArkivError,
  collisionKey,
  folderOwner,
  keptCapture,
  nameFactsOf,
  numberInName,
  parsePattern,
  numberAfter,
  placesOf,
  planIntake,
  shootDay,
  sidecarOf,
  withCorrections,
  type ClockCorrection,
  type FolderOwner,
  type FolderPlan,
  type IntakeInput,
  type IntakePlan,
  type MetadataTemplate,
  type SequenceScope,
} from '@arkiv/core';
import { Reading } from '../db/unitOfWork';
import { Disk } from '../disk/disk';
import { Frame } from '../frames/frame.entity';
import { ArrivalLedger } from '../ledger/arrivalLedger';
import type { CardScan } from '../readers/cardScan';
import { livingShoot } from '../shoots/livingShoot';
import { mayGetFrames, Shoot } from '../shoots/shoot.entity';
import { ShootsService } from '../shoots/shoots.service';
import { SettingsService, type StudioSettings } from '../settings/settings.service';
import { VolumesService } from '../volumes/volumes.service';
import type { Volume } from '../volumes/volume.entity';

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
export interface PlannedShare {
  request: IntakeRequest;
  scan: CardScan & { card: string };
  plan: IntakePlan;
  shoot: Shoot | null;
  leftOut: readonly { path: string; size: number }[];
}

/** Plans what a card becomes, against what stands on the volumes and what other intakes will put there. */
@Injectable()
export class IntakePlansService {
  constructor(
    private readonly disk: Disk,
    private readonly reading: Reading,
    private readonly ledger: ArrivalLedger,
    private readonly volumes: VolumesService,
    private readonly settings: SettingsService,
    private readonly shoots: ShootsService,
  ) {}

  /** Each shoot's share with its plan; a later share makes way for the places that an earlier one will fill. */
  async prepare(
    asked: IntakeRequest,
    card: CardScan & { card: string },
    targets: readonly Volume[],
  ): Promise<PlannedShare[]> {
    const leaveOut = new Set(asked.leaveOut);
    const elsewhere = new Set(asked.more?.flatMap((part) => part.keys));
    const leftOut = card.frames.filter((frame) => leaveOut.has(frame.key)).flatMap((frame) => frame.files);
    const shoot = asked.shootId === undefined ? null : await this.shoot(asked.shootId);
    if (shoot) mayGetFrames(shoot);
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
    const prepared: PlannedShare[] = [];
    let owner = await this.shoots.folderOwner(shoot?.id);
    const places = new Set<string>();
    let { seqStart } = shares[0]!.request;
    for (const { request: its, keys, extras, ...share } of shares) {
      const request = { ...its, seqStart: its.seqBy === 'carried' ? seqStart : its.seqStart };
      const frames = card.frames.filter(
        ({ key }) => !leaveOut.has(key) && (keys ? keys.has(key) : !elsewhere.has(key)),
      );
      const scan = { ...card, extras, frames: withCorrections(frames, asked.corrections ?? []) };
      const plan = await this.plan(request, scan, targets, { places, owner });
      const [first] = plan.problems;
      if (first) throw new ArkivError('plan.problems', { count: plan.problems.length, first: first.message });
      for (const to of placesOf(plan)) places.add(collisionKey(to));
      owner = folderOwner([{ title: request.title, folders: plan.folders }], owner);
      seqStart = numberAfter(plan, seqStart);
      prepared.push({ request, scan, plan, ...share });
    }
    return prepared;
  }

  /** Whoever chose one may not know yet that it was merged: its frames are in another, and so are these. */
  private async shoot(id: string): Promise<Shoot> {
    const shoot = await livingShoot(this.reading.manager, id);
    if (!shoot) throw new ArkivError('not-found', { what: 'shoot', id });
    return shoot;
  }

  private async plan(
    request: IntakeRequest,
    scan: CardScan & { card: string },
    targets: readonly Volume[],
    { places: others, owner }: { places: ReadonlySet<string>; owner: FolderOwner },
  ): Promise<IntakePlan> {
    const settings = await this.settings.all();
    const { creator, dayStartHour } = settings;
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
      seqOfDays: request.seqBy === 'day' ? await this.seqOfDays(request, settings) : undefined,
      known: (request.known ?? []).filter((key) => here.has(key)),
      zoneMinutes: request.zoneMinutes,
      dayStartHour,
      owner,
    };
    const taken = await this.underWay(request.shootId);
    const looked = new Set<string>();
    for (;;) {
      const plan = planIntake(input, (to) => taken.has(collisionKey(to)) || others.has(collisionKey(to)));
      const folders = new Set(plan.items.map(({ to }) => path.posix.dirname(to)));
      const news = [...folders].filter((folder) => !looked.has(folder));
      // A place that is taken may have moved others: the folders that these come to are looked at as well.
      if (news.length === 0) return plan;
      for (const folder of news) {
        looked.add(folder);
        for (const name of await this.namesIn(folder, targets))
          for (const place of filledBy(`${folder}/${name}`)) taken.add(place);
      }
    }
  }

  /** What stands in a folder on any of the volumes. */
  private async namesIn(folder: string, volumes: readonly Volume[]): Promise<Set<string>> {
    const names = new Set<string>();
    for (const volume of volumes) {
      const place = await this.volumes.resolve(volume, folder);
      if ((await this.disk.facts(place))?.kind !== 'folder') continue;
      for (const name of await this.disk.names(place)) names.add(String(name));
    }
    return names;
  }

  /** Places that running intakes into the same shoot will fill. */
  private async underWay(shootId: string | undefined): Promise<Set<string>> {
    if (shootId === undefined) return new Set();
    return new Set((await this.ledger.placesToCome(shootId)).flatMap(filledBy));
  }

  /** Where the numbers of days that have frames already carry on: behind the last one given, whatever has gone since. */
  private async seqOfDays(
    { shootId, seqStart, pattern, title: shoot, client, place }: IntakeRequest,
    { dayStartHour, creator }: StudioSettings,
  ): Promise<Record<string, number>> {
    if (shootId === undefined) return {};
    const next: Record<string, number> = {};
    const counted: Record<string, number> = {};
    const parsed = parsePattern(pattern);
    for (const frame of await this.reading.manager.findBy(Frame, { shootId })) {
      const capture = keptCapture(frame);
      if (!capture) continue;
      const day = shootDay(capture, dayStartHour);
      counted[day] = (counted[day] ?? seqStart) + 1;
      const facts = nameFactsOf(frame, { shoot, client, place, creator, card: '', seq: 0 });
      const last = parsed.ok ? numberInName(parsed.tokens, facts, frame.name) : null;
      if (last !== null) next[day] = Math.max(next[day] ?? seqStart, last + 1);
    }
    // Names that follow another pattern tell no number: as many as there are is the best guess then.
    return { ...counted, ...next };
  }
}

/** The places that a file takes, in the form in which they collide: its own, and that of a sidecar of its base name. */
function filledBy(file: string): string[] {
  const { dir, name } = path.posix.parse(file);
  return [collisionKey(file), collisionKey(sidecarOf(dir, name))];
}

/** What an existing shoot has decided already; its numbers carry on. */
function asItsShoot(asked: IntakeRequest, shoot: Shoot): IntakeRequest {
  const { title, date, client, place, pattern, zoneMinutes, seqBy, plan: folders } = shoot;
  // By day each day counts from its own beginning; through the shoot numbers carry on.
  const seqStart = seqBy === 'day' ? asked.seqStart : Math.max(asked.seqStart, shoot.nextSeq);
  return { ...asked, title, date, client, place, pattern, folders, zoneMinutes, seqBy, seqStart };
}
