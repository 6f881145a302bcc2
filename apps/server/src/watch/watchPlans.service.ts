import { Injectable } from '@nestjs/common';
import {
  baseOf,
  chosenFiles,
  shootDay,
  stampOf,
  type CardFile,
  type Outside,
  type PlanFrame,
} from '@arkiv/core';
import { Reading } from '../db/unitOfWork';
import { Disk } from '../disk/disk';
import { IntakePlansService, type IntakeRequest } from '../intake/intakePlans.service';
import { listCard, scanCard, type CardScan } from '../readers/cardScan';
import { CHOSEN_ID } from '../readers/readers.service';
import { Contents } from '../metadata/contents.service';
import { SettingsService } from '../settings/settings.service';
import { livingShoot } from '../shoots/livingShoot';
import { Clock } from '../system/clock';
import { localDay } from '../system/localDay';
import { VolumesService } from '../volumes/volumes.service';
import type { Volume } from '../volumes/volume.entity';
import type { WatchRule } from './watchRule.entity';
import { WatchStore } from './watchStore';

/** Files taken in at once: a folder that was filled for years goes in parts, each with its receipt. */
export const BATCH = 500;
/** Files and names shown of what would happen. */
const SHOWN = 5;

export interface Looked {
  /** what the rule takes and has not taken yet */
  fresh: CardFile[];
  /** what it has taken and is there still */
  taken: CardFile[];
  /** what it could not take in, and is as it was then */
  left: CardFile[];
  outside: Map<string, Outside>;
}

/** One shoot that files would go into. */
export interface WouldGo {
  title: string;
  date: string;
  /** it is there already */
  existing: boolean;
  frames: number;
  files: number;
  bytes: number;
  names: { from: string; to: string }[];
}

/** What a rule would do with what lies in its folder now. */
export interface WatchExample {
  shoots: WouldGo[];
  /** files beyond those that are looked at for the example */
  more: number;
  takenBefore: number;
  left: number;
  outside: Record<Outside, number>;
  /** names of the drives that get a copy */
  drives: string[];
}

/** What is a rule's part of a folder, and what intake that makes. */
@Injectable()
export class WatchPlans {
  constructor(
    private readonly disk: Disk,
    private readonly reading: Reading,
    private readonly contents: Contents,
    private readonly store: WatchStore,
    private readonly plans: IntakePlansService,
    private readonly settings: SettingsService,
    private readonly volumes: VolumesService,
    private readonly clock: Clock,
  ) {}

  /** What lies in the folder, parted by what is still to be done with it. */
  async look(rule: WatchRule): Promise<Looked> {
    const { files } = await listCard(this.disk, rule.root);
    const { chosen, outside } = chosenFiles(rule, files);
    // What came with a picture is taken, too, when that picture has gone into the bin before it: alone it is nothing that a rule takes.
    const aside = files.filter(({ path }) => ASIDE.has(outside.get(path)));
    const known = await this.store.takenOf(readerOf(rule), [...chosen, ...aside]);
    const isTaken = ({ path }: CardFile): boolean => {
      const said = known.get(path);
      return said !== undefined && isDone(said.fate);
    };
    const leftNow = new Map(rule.left.map(({ path, stamp }) => [path, stamp]));
    const looked: Looked = { fresh: [], taken: aside.filter(isTaken), left: [], outside };
    for (const { path } of looked.taken) outside.delete(path);
    for (const file of chosen) {
      if (isTaken(file)) looked.taken.push(file);
      else if (leftNow.get(file.path) === stampOf(file)) looked.left.push(file);
      else looked.fresh.push(file);
    }
    return looked;
  }

  /** Facts of these files' frames. */
  scan(rule: WatchRule, files: readonly CardFile[]): Promise<CardScan> {
    return scanCard(this.disk, this.contents, rule.root, {
      fingerprint: '',
      files: [...files],
      notFollowed: [],
    });
  }

  /** Frames by the day that they belong to, the first day first. What has no time belongs to the day on which its file was written. */
  async byDay(frames: readonly PlanFrame[]): Promise<Map<string, PlanFrame[]>> {
    const { dayStartHour } = await this.settings.all();
    const days = new Map<string, PlanFrame[]>();
    for (const frame of frames) {
      const { capture } = frame.facts;
      const day = capture
        ? shootDay(capture, dayStartHour)
        : localDay(frame.files[0]?.mtimeMillis ?? this.clock.now());
      days.set(day, [...(days.get(day) ?? []), frame]);
    }
    return new Map([...days].sort(([a], [b]) => (a < b ? -1 : 1)));
  }

  /** Drives that are here and get a copy of everything. */
  async targets(): Promise<Volume[]> {
    const here: Volume[] = [];
    for (const volume of await this.volumes.all())
      if (volume.role !== 'edit' && (await this.volumes.isOnline(volume))) here.push(volume);
    return here;
  }

  /** The intake of frames of one day. */
  async request(rule: WatchRule, day: string, fingerprint: string): Promise<IntakeRequest> {
    const all = await this.settings.all();
    const { plans, templates } = all;
    const plan = plans.find(({ id }) => id === rule.plan) ?? all;
    const template = templates.find(({ id }) => id === rule.template);
    const title = rule.title.trim() || rule.name;
    const id = rule.shootId ?? (await this.store.shootOfDay(title, day));
    const shoot = id === null ? null : await livingShoot(this.reading.manager, id);
    return {
      ...{ readerId: readerOf(rule), fingerprint, title, date: day },
      ...{ client: rule.client, place: rule.place },
      ...{ pattern: plan.pattern, folders: plan.folders, seqBy: plan.seqBy },
      seqStart: shoot?.nextSeq ?? 1,
      zoneMinutes: -new Date(this.clock.now()).getTimezoneOffset(),
      targets: (await this.targets()).map(({ id: target }) => target),
      ...(shoot ? { shootId: shoot.id } : {}),
      ...(template ? { template } : {}),
    };
  }

  /** What would happen now. Nothing is changed. */
  async example(rule: WatchRule): Promise<WatchExample> {
    const { fresh, taken, left, outside } = await this.look(rule);
    const some = wholeFrames(fresh, BATCH);
    const scan = await this.scan(rule, some);
    const targets = await this.targets();
    const shoots: WouldGo[] = [];
    for (const [day, frames] of rule.shootId === null
      ? await this.byDay(scan.frames)
      : [['', scan.frames] as const]) {
      if (frames.length === 0) continue;
      const asked = await this.request(rule, day, '');
      const card = { ...scan, frames: [...frames], extras: [], card: rule.name };
      const [share] = await this.plans.prepare(asked, card, targets);
      const { request, plan, shoot } = share!;
      shoots.push({
        ...{ title: request.title, date: request.date, existing: shoot !== null },
        ...{ frames: plan.frames.length, files: plan.items.length, bytes: plan.bytes },
        names: plan.items.slice(0, SHOWN).map(({ from, to }) => ({ from, to })),
      });
    }
    const count = (why: Outside) => [...outside.values()].filter((one) => one === why).length;
    return {
      shoots,
      more: fresh.length - some.length,
      takenBefore: taken.length,
      left: left.length,
      outside: {
        ...{ hidden: count('hidden'), below: count('below'), out: count('out') },
        ...{ type: count('type'), unknown: count('unknown') },
      },
      drives: targets.map(({ name }) => name),
    };
  }
}

/** Reasons that lie in what a file is and what lies beside it, and not in where it lies. */
const ASIDE: ReadonlySet<Outside | undefined> = new Set(['type', 'unknown'] as const);
/** Whether a file is in the archive by it. */
export const isDone = (fate: string): boolean => fate === 'copied' || fate === 'already-here';

/** The reader by which a rule's files are taken in. */
export const readerOf = ({ id }: Pick<WatchRule, 'id'>): string => `${CHOSEN_ID}${id}`;
export const ruleOf = (readerId: string): string => readerId.slice(CHOSEN_ID.length);

/** At most so many files, but no part of a frame. Files are in the order of their paths, where those of a frame lie together. */
export function wholeFrames<F extends CardFile>(files: readonly F[], most: number): F[] {
  if (files.length <= most) return [...files];
  let end = most;
  while (end > 1 && baseOf(files[end]!.path) === baseOf(files[end - 1]!.path)) end -= 1;
  return files.slice(0, end);
}
