import path from 'node:path';
import { Injectable } from '@nestjs/common';
import {
  ArkivError,
  BAG_MANIFEST_NAME,
  BAG_PAYLOAD,
  describe,
  remakePlan,
  type OutputSpec,
} from '@arkiv/core';
import { Disk } from '../disk/disk';
import type { Frame } from '../frames/frame.entity';
import { JobsService } from '../jobs/jobs.service';
import { RAW_PART, type Delivery, type DeliveryFile, type SetAlong } from '../ledger/delivery.entity';
import { OutLedger } from '../ledger/outLedger';
import type { Shoot } from '../shoots/shoot.entity';
import { Clock } from '../system/clock';
import { Ids } from '../system/ids';
import { VolumesService } from '../volumes/volumes.service';
import { liesThere, payloadOf, specsOf, type DeliveryRequest, type PlannedFile } from './deliverySet';
import { FinishedFiles } from './finishedFiles.service';
import { SetPlanner } from './setPlanner.service';
import { MANIFEST_NAME, SHEET_NAME } from './wholeSet.service';

/** One frame, made by one spec, to be looked at before all are made. */
export interface DeliverySample {
  frameId: string;
  name: string;
  bytes: number;
  width: number;
  height: number;
  /** of the picture that it is made of, as it stands upright */
  from: { picture: string; width: number; height: number };
  type: string;
  data: Uint8Array;
}

export interface DeliveryResult {
  /** which of the keepers it is of; empty: all */
  line: string;
  volumeId: string;
  volume: string;
  folder: string;
  files: number;
  bytes: number;
  failed: number;
  /** how many times it was made by now */
  times: number;
  along: SetAlong;
  manifest: string;
  /** the sheet of its pictures; null: none was asked for */
  sheet: string | null;
  zip: { path: string; size: number; sha256: string };
}

/** What a set would be by now, against what it is: numbers of files. */
export interface DeliveryChanges {
  /** of frames that are not in it yet */
  fresh: number;
  /** of other pictures, or with other words, by now */
  changed: number;
  /** of frames that are no part of it any more */
  gone: number;
  /** names of some of these, in this order */
  names: string[];
  /** why it cannot be told; null: it can */
  problem: string | null;
}

export interface DeliveryPlan {
  folder: string;
  frames: number;
  /** ids of the first of them */
  first: string[];
  files: number;
  rule: string;
  /** first, second and last name */
  names: string[];
  /** frames of which nothing can go as it is, where a spec asks for that */
  unfinished: number;
  withoutFinish: number;
  /** frames whose raw goes along, and the bytes of these */
  raws: number;
  rawBytes: number;
  /** whether its folder is there already: then it cannot be made under this name */
  exists: boolean;
}

/** Names of files that are shown of what changed: more nobody reads. */
const NAMES_SHOWN = 4;
/** Pictures that say which frames are meant: three rows of a screen. */
const PICTURES_SHOWN = 36;

/** Sets of finished files of the keepers, made by output specs, with a manifest and a zip of all. */
@Injectable()
export class DeliveryService {
  constructor(
    private readonly disk: Disk,
    private readonly jobs: JobsService,
    private readonly planner: SetPlanner,
    private readonly finished: FinishedFiles,
    private readonly volumes: VolumesService,
    private readonly ledger: OutLedger,
    private readonly clock: Clock,
    private readonly ids: Ids,
  ) {}

  async plan(shootId: string, request: DeliveryRequest): Promise<DeliveryPlan> {
    const { folder, files, unfinished, withoutFinish, rawBytes, rule } = await this.planner.anew(
      shootId,
      request,
    );
    const made = files.filter(({ spec }) => spec >= 0);
    const ids = [...new Set(made.map(({ frameId }) => frameId))];
    const payload = payloadOf(folder, request.along, BAG_PAYLOAD);
    const names = made.map(({ to }) => to.slice(payload.length + 1));
    return {
      folder,
      frames: ids.length,
      first: ids.slice(0, PICTURES_SHOWN),
      files: made.length,
      rule: describe(rule),
      names: [...new Set([names[0], names[1], names.at(-1)])].filter((n) => n !== undefined),
      unfinished,
      withoutFinish,
      raws: files.filter(({ spec }) => spec === RAW_PART).length,
      rawBytes,
      exists: await this.exists(request.volumeId, folder),
    };
  }

  /** A keeper made by a spec, the first or one that is named; null: there is none, or it goes as it is. */
  async sample(
    shootId: string,
    request: DeliveryRequest,
    frameId: string | null,
  ): Promise<DeliverySample | null> {
    const { files, frames } = await this.planner.anew(shootId, request);
    const spec = request.specs[0]!;
    const its = files.find((file) => file.picture !== null && (frameId === null || file.frameId === frameId));
    const frame = frames.find(({ id }) => id === its?.frameId);
    if (!its || !frame || its.picture === null || spec.format === 'asis') return null;
    const natural = await this.finished.natural(its.picture);
    const said = (await this.finished.said([frame])).get(frame.id)!;
    const [made] = await this.finished.render([spec], its, said);
    if (!made) return null;
    return {
      ...{ frameId: its.frameId, name: path.posix.basename(its.to), bytes: made.bytes.length },
      ...{ width: made.width, height: made.height, type: `image/${spec.format}`, data: made.bytes },
      from: { picture: its.picture, ...natural },
    };
  }

  async start(shootId: string, request: DeliveryRequest): Promise<{ jobId: string }> {
    const volume = await this.volumes.get(request.volumeId);
    await this.volumes.check(volume);
    const { shoot, folder, files, rule } = await this.planner.anew(shootId, request);
    if (files.length === 0) throw new ArkivError('job.nothing', { rule: describe(rule) });
    if (await this.exists(volume.id, folder)) throw new ArkivError('file.exists', { file: folder });
    const { name, volumeId, specs, line, along } = request;
    const title = titleOf(shoot, name);
    return this.begin(shoot, files, [], { title, folder, name, volumeId, line, spec: specs, along });
  }

  /** What a set would be by now, against what it is. */
  async changes(id: string): Promise<DeliveryChanges> {
    const delivery = await this.made(id);
    const before = (await this.ledger.deliveryFiles(id)).filter(liesThere);
    try {
      const { files, frames } = await this.planner.again(delivery, before);
      const now = await this.withRecipes(files, frames, specsOf(delivery));
      const plan = remakePlan(before.map(withPart), now.map(withPart));
      const names = [...plan.fresh, ...plan.changed.map(({ now: file }) => file), ...plan.gone];
      return {
        ...{ fresh: plan.fresh.length, changed: plan.changed.length, gone: plan.gone.length },
        names: [...new Set(names.slice(0, NAMES_SHOWN).map(({ to }) => path.posix.basename(to)))],
        problem: null,
      };
    } catch (error) {
      // An album or a stage that its line names may be gone by now.
      if (!(error instanceof ArkivError)) throw error;
      return { fresh: 0, changed: 0, gone: 0, names: [], problem: error.message };
    }
  }

  /** Makes what is new or other by now, takes out what is no part of it any more, and closes the set anew. */
  async again(id: string): Promise<{ jobId: string }> {
    const delivery = await this.made(id);
    const volume = await this.volumes.get(delivery.volumeId);
    await this.volumes.check(volume);
    const { folder, name, title, volumeId, line, along } = delivery;
    await this.planner.mustBeNewest(delivery);
    const before = (await this.ledger.deliveryFiles(id)).filter(liesThere);
    const { shoot, files, rule } = await this.planner.again(delivery, before);
    if (files.length === 0) throw new ArkivError('job.nothing', { rule: describe(rule) });
    return this.begin(shoot, files, before, {
      ...{ title, folder, name, volumeId, line, along, spec: specsOf(delivery), follows: id },
    });
  }

  /** What was delivered so far, the newest first; of a set that was brought up to date, as it is now. */
  async list(
    shootId: string,
  ): Promise<{ jobId: string; title: string; at: number; result: DeliveryResult }[]> {
    const deliveries = (await this.ledger.deliveries(shootId)).filter(({ zip }) => zip !== null);
    const byId = new Map(deliveries.map((one) => [one.id, one]));
    const followed = new Set(deliveries.map(({ follows }) => follows));
    const timesOf = ({ follows }: Delivery): number => {
      const before = follows === null ? undefined : byId.get(follows);
      return 1 + (before ? timesOf(before) : 0);
    };
    return Promise.all(
      deliveries
        .filter(({ id }) => !followed.has(id))
        .map(async (delivery) => {
          const { id, title, volumeId, line, folder, along, zip, at, finishedAt } = delivery;
          const files = await this.ledger.deliveryFiles(id);
          const there = files.filter(liesThere);
          const payload = payloadOf(folder, along, BAG_PAYLOAD);
          const result: DeliveryResult = {
            ...{ volumeId, volume: (await this.volumes.get(volumeId)).name, folder, line, along },
            ...{ files: there.length, times: timesOf(delivery) },
            bytes: there.reduce((sum, file) => sum + (file.size ?? 0), 0),
            failed: files.filter(({ fate }) => fate !== 'made').length,
            manifest: `${folder}/${along.bag ? BAG_MANIFEST_NAME : MANIFEST_NAME}`,
            sheet: along.sheet ? `${payload}/${SHEET_NAME}` : null,
            zip: zip!,
          };
          return { jobId: id, title, at: finishedAt ?? at, result };
        }),
    );
  }

  /** The finished zip on this machine, for the download. */
  async zipFile(jobId: string): Promise<{ file: string; name: string; size: number }> {
    const { volumeId, zip } = await this.made(jobId);
    const volume = await this.volumes.get(volumeId);
    await this.volumes.check(volume);
    return {
      file: await this.volumes.resolve(volume, zip!.path),
      name: path.posix.basename(zip!.path),
      size: zip!.size,
    };
  }

  /** The sheet of a set's pictures on this machine. Throws `not-found` where none was asked for. */
  async sheetFile(jobId: string): Promise<string> {
    const { volumeId, folder, along } = await this.made(jobId);
    if (!along.sheet) throw new ArkivError('not-found', { what: 'proof sheet of the set', id: jobId });
    const volume = await this.volumes.get(volumeId);
    await this.volumes.check(volume);
    return this.volumes.resolve(volume, `${payloadOf(folder, along, BAG_PAYLOAD)}/${SHEET_NAME}`);
  }

  private async exists(volumeId: string, folder: string): Promise<boolean> {
    const volume = await this.volumes.get(volumeId);
    if (!(await this.volumes.isOnline(volume))) return false;
    return (await this.disk.facts(await this.volumes.resolve(volume, folder))) !== null;
  }

  private async made(id: string): Promise<Delivery> {
    const delivery = await this.ledger.delivery(id);
    if (!delivery?.zip) throw new ArkivError('not-found', { what: 'finished delivery', id });
    return delivery;
  }

  private async withRecipes(
    files: readonly PlannedFile[],
    frames: readonly Frame[],
    specs: readonly OutputSpec[],
  ): Promise<(PlannedFile & { recipe: string | null })[]> {
    const said = await this.finished.said(frames);
    const now = [];
    for (const file of files)
      now.push({ ...file, recipe: await this.finished.recipe(file, specs, said.get(file.frameId)!) });
    return now;
  }

  private async begin(
    shoot: Shoot,
    files: readonly PlannedFile[],
    before: readonly DeliveryFile[],
    set: Pick<Delivery, 'title' | 'folder' | 'name' | 'volumeId' | 'line' | 'spec' | 'along'> &
      Partial<Pick<Delivery, 'follows'>>,
  ): Promise<{ jobId: string }> {
    const jobId = this.ids.newId();
    const delivery: Delivery = {
      ...{ kind: 'set', follows: null, ...set, id: jobId, shootId: shoot.id, zip: null, texts: [] },
      ...{ at: this.clock.now(), finishedAt: null },
    };
    const lying = new Map(before.map((file) => [file.to, file]));
    const unmade = { recipe: null, sha256: null, size: null, width: null, height: null };
    const rows = files.map((file, seq): DeliveryFile => {
      const { recipe, sha256, size, width, height } = lying.get(file.to) ?? unmade;
      const fate = 'todo' as const;
      return { ...file, deliveryId: jobId, seq, fate, recipe, sha256, size, width, height };
    });
    const first = rows.filter(({ item }, i) => rows[i - 1]?.item !== item);
    await this.jobs.begin([
      {
        job: { id: jobId, kind: 'delivery', title: delivery.title, shootId: shoot.id, params: {} },
        items: first.map(({ from }) => ({ size: 0, name: from, data: {} })),
        head: (manager) => this.ledger.openDelivery(manager, delivery),
        part: (manager, from, to) =>
          this.ledger.addDeliveryFiles(manager, rows.slice(first[from]!.seq, first[to]?.seq ?? rows.length)),
      },
    ]);
    return { jobId };
  }
}

const titleOf = (shoot: Shoot, name: string): string => `${shoot.title} · ${name}`;

/** What tells a file from the others of its frame, for the plan of a set that is made again. */
const withPart = <T extends { spec: number }>(file: T): T & { part: string } => ({
  ...file,
  part: String(file.spec),
});
