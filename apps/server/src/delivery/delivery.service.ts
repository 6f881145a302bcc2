import path from 'node:path';
import { Injectable, type OnModuleInit } from '@nestjs/common';
import {
  ArkivError,
  collisionKey,
  describe,
  EMPTY_SIDECAR,
  manifestText,
  nameFactsOf,
  nameProblem,
  correctedLocal,
  AlbumTree,
  endingOf,
  isDecoded,
  lineFilter,
  namedAlbums,
  NOT_KEPT,
  parsePattern,
  partsOfLine,
  readSpec,
  renderName,
  usesOriginal,
  freeName,
  describePatternProblem,
  toldToClients,
  toNamePart,
  withInside,
  writeSidecar,
  type Description,
  type Filter,
  type ManifestLine,
  type NameFacts,
  type PatternToken,
  type OutputSpec,
  type SidecarModel,
} from '@arkiv/core';
import type { EntityManager } from 'typeorm';
import { UnitOfWork } from '../db/unitOfWork';
import { Disk } from '../disk/disk';
import { placeNew, readOwn, replaceOwn, sha256Of, md5Of } from '../disk/place';
import { readProven } from '../disk/provenBytes';
import { hashFile, SourceError } from '../disk/verifiedCopy';
import { FindService } from '../find/find.service';
import type { PlacedAsset } from '../frames/asset.entity';
import type { Frame } from '../frames/frame.entity';
import { FramesService } from '../frames/frames.service';
import type { Job, JobItem } from '../jobs/job.entity';
import { WaitForOutside, type ItemContext, type ItemOutcome, type JobHandler } from '../jobs/jobHandler';
import { JobsService } from '../jobs/jobs.service';
import type { Lane } from '../jobs/lanes';
import type { RenderOrder } from '../pictures/picture.worker';
import { PictureMaker } from '../pictures/pictureMaker';
import { PreviewsService } from '../previews/previews.service';
import { ShootsService } from '../shoots/shoots.service';
import type { Shoot } from '../shoots/shoot.entity';
import type { Delivery, DeliveryFile } from '../ledger/delivery.entity';
import { ArrivalLedger } from '../ledger/arrivalLedger';
import { OutLedger } from '../ledger/outLedger';
import { Clock } from '../system/clock';
import { Ids } from '../system/ids';
import { SidecarsService } from '../sidecars/sidecars.service';
import { SettingsService } from '../settings/settings.service';
import type { Volume } from '../volumes/volume.entity';
import { volumeError, VolumesService } from '../volumes/volumes.service';
import { ZipMaker } from './zip';

export interface DeliveryRequest {
  name: string;
  volumeId: string;
  /** which of the keepers: a line of words and facts; empty: all */
  line: string;
  /** all are made at once, from one reading of each picture */
  specs: OutputSpec[];
}

type Planned = Pick<DeliveryFile, 'item' | 'spec' | 'from' | 'to' | 'frameId' | 'picture'>;

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
  /** frames that it would be of by now, and is not */
  fresh: number;
  volumeId: string;
  volume: string;
  folder: string;
  files: number;
  bytes: number;
  failed: number;
  manifest: string;
  zip: { path: string; size: number; sha256: string };
}

export interface DeliveryPlan {
  folder: string;
  frames: number;
  files: number;
  rule: string;
  /** first, second and last name */
  names: string[];
  /** frames of which nothing can go as it is, where a spec asks for that */
  unfinished: number;
}

interface Made {
  bytes: Uint8Array;
  width: number;
  height: number;
}

/** Makes finished files of the keepers by output specs, with a manifest and a zip of all. */
@Injectable()
export class DeliveryService implements JobHandler, OnModuleInit {
  readonly kind = 'delivery';
  /** as many as there are decoding processes */
  readonly inFlight = 2;

  constructor(
    private readonly disk: Disk,
    private readonly work: UnitOfWork,
    private readonly jobs: JobsService,
    private readonly shoots: ShootsService,
    private readonly frames: FramesService,
    private readonly previews: PreviewsService,
    private readonly maker: PictureMaker,
    private readonly sidecars: SidecarsService,
    private readonly find: FindService,
    private readonly zips: ZipMaker,
    private readonly settings: SettingsService,
    private readonly volumes: VolumesService,
    private readonly ledger: OutLedger,
    private readonly arrivals: ArrivalLedger,
    private readonly clock: Clock,
    private readonly ids: Ids,
  ) {}

  onModuleInit(): void {
    this.jobs.register(this);
  }

  async plan(shootId: string, request: DeliveryRequest): Promise<DeliveryPlan> {
    const { folder, items, unfinished, rule } = await this.prepare(shootId, request);
    const names = items.map((item) => item.to.slice(folder.length + 1));
    return {
      folder,
      frames: new Set(items.map(({ item }) => item)).size,
      files: items.length,
      rule: describe(rule),
      names: [...new Set([names[0], names[1], names.at(-1)])].filter((n) => n !== undefined),
      unfinished,
    };
  }

  /** A keeper made by a spec, the first or one that is named; null: there is none, or it goes as it is. */
  async sample(
    shootId: string,
    request: DeliveryRequest,
    frameId: string | null,
  ): Promise<DeliverySample | null> {
    const { items } = await this.prepare(shootId, request);
    const spec = request.specs[0]!;
    const its = items.find((item) => item.picture !== null && (frameId === null || item.frameId === frameId));
    if (!its || its.picture === null || spec.format === 'asis') return null;
    const { name, source } = await this.previews.source(its.picture);
    const natural = await this.maker.measure(name, source);
    const [made] = await this.render([spec], its);
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
    const { shoot, folder, items, rule } = await this.prepare(shootId, request);
    if (items.length === 0) throw new ArkivError('job.nothing', { rule: describe(rule) });
    if (await this.disk.facts(await this.volumes.resolve(volume, folder)))
      throw new ArkivError('file.exists', { file: folder });
    const jobId = this.ids.newId();
    const { name, volumeId, specs, line } = request;
    const title = `${shoot.title} · ${name}`;
    const delivery: Delivery = {
      ...{ id: jobId, shootId, title, folder, name, volumeId, line, spec: specs, zip: null },
      ...{ at: this.clock.now(), finishedAt: null },
    };
    const unmade = { fate: 'todo' as const, sha256: null, size: null, width: null, height: null };
    const files = items.map((item, seq) => ({ ...item, ...unmade, deliveryId: jobId, seq }));
    const frames = items.filter(({ item }, i) => items[i - 1]?.item !== item);
    await this.jobs.begin([
      {
        job: { id: jobId, kind: 'delivery', title, shootId, params: {} },
        items: frames.map(({ from }) => ({ size: 0, name: from, data: {} })),
        head: (manager) => this.ledger.openDelivery(manager, delivery),
        // Each frame has one file by each spec.
        part: (manager, from, to) =>
          this.ledger.addDeliveryFiles(manager, files.slice(from * specs.length, to * specs.length)),
      },
    ]);
    return { jobId };
  }

  async undo(job: Job): Promise<void> {
    while (await this.work.write((manager) => this.ledger.forgetDelivery(manager, job.id)));
  }

  lane(): Lane {
    return { bulk: false, way: null, first: false };
  }

  async begin(job: Job): Promise<void> {
    const volume = await this.volumes.get((await this.delivery(job.id)).volumeId);
    if (!(await this.volumes.isOnline(volume)))
      throw new WaitForOutside(`“${volume.name}” is not there. Plug it in: the delivery carries on.`);
  }

  private async delivery(id: string): Promise<Delivery> {
    const delivery = await this.ledger.delivery(id);
    if (!delivery) throw new ArkivError('not-found', { what: 'delivery', id });
    return delivery;
  }

  /** All files of one frame: made from one reading of its picture. */
  async runItem(job: Job, item: JobItem, context: ItemContext): Promise<ItemOutcome> {
    const delivery = await this.delivery(job.id);
    const specs = specsOf(delivery);
    const files = await this.ledger.deliveryFilesOf(job.id, item.seq);
    const volume = await this.volumes.get(delivery.volumeId);
    const reasons: string[] = [];
    const notes: ((manager: EntityManager) => Promise<void>)[] = [];
    const attempt = async (some: readonly DeliveryFile[], make: () => Promise<Made[]>): Promise<void> => {
      if (some.length === 0) return;
      const left = new Set(some);
      try {
        const made = await make();
        for (const [i, file] of some.entries()) {
          await this.place(job, file, made[i]!, volume, context, (note) => notes.push(note));
          left.delete(file);
        }
      } catch (error) {
        if (context.signal.aborted) throw error;
        const cause = error instanceof SourceError ? error.reason : error;
        const shown = volumeError(cause, volume, some[0]!.to, 0, 0);
        reasons.push(`${some[0]!.from}: ${shown.message} ${shown.body().next}`);
        for (const { seq } of left)
          notes.push((manager) => this.ledger.noteDelivery(manager, job.id, seq, { fate: 'failed' }));
      }
    };
    const open = files.filter(({ fate }) => fate !== 'made');
    const isAsIs = ({ spec }: DeliveryFile) => specs[spec]!.format === 'asis';
    const rendered = open.filter((file) => !isAsIs(file));
    await attempt(rendered, async () => {
      await this.volumes.check(volume);
      return this.render(
        rendered.map(({ spec }) => specs[spec]!),
        rendered[0]!,
      );
    });
    for (const file of open.filter(isAsIs))
      await attempt([file], async () => {
        await this.volumes.check(volume);
        return [await this.asItIs(file)];
      });
    const commit = async (manager: EntityManager): Promise<void> => {
      for (const note of notes) await note(manager);
    };
    return reasons.length === 0
      ? { state: 'done', commit }
      : { state: 'failed', reason: reasons.join(' '), commit };
  }

  /** A file under its name: the same bytes may be there from a run that was killed; anything else is never overwritten. */
  private async place(
    job: Job,
    { seq, to }: DeliveryFile,
    made: Made,
    volume: Volume,
    context: ItemContext,
    onNote: (note: (manager: EntityManager) => Promise<void>) => void,
  ): Promise<void> {
    const final = await this.volumes.resolve(volume, to);
    const sha256 = sha256Of(made.bytes);
    const there = (await this.disk.facts(final)) ? await hashFile(this.disk, final, context.signal) : null;
    if (there && there.sha256 !== sha256) throw new ArkivError('file.exists', { file: to });
    if (!there) await placeNew(this.disk, final, made.bytes, job.id);
    const { width, height } = made;
    const size = made.bytes.byteLength;
    onNote((manager) =>
      this.ledger.noteDelivery(manager, job.id, seq, { fate: 'made', sha256, size, width, height }),
    );
  }

  /** A finished picture's own file, proven. */
  private async asItIs({ picture, from }: DeliveryFile): Promise<Made> {
    const asset = picture === null ? null : finishedOf(await this.frames.ofPicture(picture));
    if (!asset?.sha256) throw new ArkivError('delivery.unfinished', { file: from });
    const { file } = await this.frames.locate(asset.id);
    const bytes = await readProven(this.disk, file, asset.sha256, asset.at);
    const size = await this.maker.measure(from, { input: bytes, orientation: null });
    return { bytes, ...size };
  }

  /** Manifest first, then the zip with the manifest inside: what the client unpacks can be checked. */
  async finish(job: Job): Promise<object> {
    const { volumeId, folder, zip: before } = await this.delivery(job.id);
    const volume = await this.volumes.get(volumeId);
    await this.volumes.check(volume);
    const made = (await this.ledger.deliveryFiles(job.id)).filter((file) => file.fate === 'made');
    const name = (full: string) => full.slice(folder.length + 1);
    const lines: ManifestLine[] = made.map((d) => ({ sha256: d.sha256!, path: name(d.to) }));
    const manifest = `${folder}/manifest.sha256`;
    await this.writeManifest(await this.volumes.resolve(volume, manifest), manifestText(lines), job.id);
    const entries = await Promise.all(
      [...made.map((d) => d.to), manifest].map(async (relative) => {
        const file = await this.volumes.resolve(volume, relative);
        const facts = await this.disk.facts(file);
        return {
          file,
          name: `${path.posix.basename(folder)}/${name(relative)}`,
          mtimeMillis: facts?.mtimeMillis ?? job.createdAt,
        };
      }),
    );
    const zipPath = `${folder}.zip`;
    const zipFile = await this.volumes.resolve(volume, zipPath);
    const zip = await this.zips.make(
      zipFile,
      entries,
      job.id,
      new AbortController().signal,
      before?.sha256 ?? null,
    );
    const its = { path: zipPath, size: zip.size, sha256: zip.sha256 };
    const finishedAt = this.clock.now();
    await this.work.write((manager) => this.ledger.finishDelivery(manager, job.id, { finishedAt, zip: its }));
    return {};
  }

  /** What was delivered so far, the newest first. */
  async list(
    shootId: string,
  ): Promise<{ jobId: string; title: string; at: number; result: DeliveryResult }[]> {
    const deliveries = (await this.ledger.deliveries(shootId)).filter(({ zip }) => zip !== null);
    return Promise.all(
      deliveries.map(async ({ id, title, volumeId, line, folder, zip, at, finishedAt }) => {
        const files = await this.ledger.deliveryFiles(id);
        const made = files.filter((file) => file.fate === 'made');
        const result: DeliveryResult = {
          ...{ volumeId, volume: (await this.volumes.get(volumeId)).name, folder, files: made.length },
          bytes: made.reduce((sum, file) => sum + (file.size ?? 0), 0),
          failed: files.length - made.length,
          ...{ line, fresh: await this.freshFor(shootId, line, made) },
          ...{ manifest: `${folder}/manifest.sha256`, zip: zip! },
        };
        return { jobId: id, title, at: finishedAt ?? at, result };
      }),
    );
  }

  /** How many frames a set would be of by now, and is not. */
  private async freshFor(shootId: string, line: string, made: readonly DeliveryFile[]): Promise<number> {
    try {
      const there = new Set(made.map(({ frameId }) => frameId));
      const now = await this.frames.select(shootId, await this.ruleOf(line));
      return now.filter(({ id }) => !there.has(id)).length;
    } catch (error) {
      // An album or a stage that its line names may be gone by now.
      if (!(error instanceof ArkivError)) throw error;
      return 0;
    }
  }

  /** The finished zip on this machine, for the download. */
  async zipFile(jobId: string): Promise<{ file: string; name: string; size: number }> {
    const delivery = await this.ledger.delivery(jobId);
    if (!delivery?.zip) throw new ArkivError('not-found', { what: 'finished delivery', id: jobId });
    const { volumeId, zip } = delivery;
    const volume = await this.volumes.get(volumeId);
    await this.volumes.check(volume);
    return {
      file: await this.volumes.resolve(volume, zip.path),
      name: path.posix.basename(zip.path),
      size: zip.size,
    };
  }

  /** What specs make of one picture, from one reading of it. */
  private async render(
    specs: readonly OutputSpec[],
    { picture, from, frameId }: Pick<Planned, 'picture' | 'from' | 'frameId'>,
  ): Promise<Made[]> {
    if (picture === null) throw new ArkivError('picture.none', { file: from });
    const { name, source } = await this.previews.source(picture);
    const said = await this.sidecars.saidOf(frameId);
    const told = specs.map((spec) => this.told(spec, said));
    const orders = specs.map((spec, i): RenderOrder => {
      const { size, quality, mostBytes, space, sharpen, watermark } = spec;
      const format = spec.format as RenderOrder['format'];
      // A JPEG's metadata are put into what was coded, in all three ways that programs read.
      const inCoding = format === 'jpeg' ? null : told[i]!;
      return {
        ...{ size, format, quality, mostBytes, space, sharpen, watermark },
        exif: inCoding === null ? {} : exifOf(inCoding.description),
        xmp: inCoding?.packet ?? null,
      };
    });
    const made = await this.maker.render(name, source, orders);
    return made.map(({ bytes, fits, ...size }, i) => {
      const spec = specs[i]!;
      if (!fits)
        throw new ArkivError('delivery.large', { file: from, bytes: bytes.length, most: spec.mostBytes! });
      const { packet, description } = told[i]!;
      if (spec.format !== 'jpeg' || packet === null) return { bytes, ...size };
      const inside = withInside(bytes, packet, description, md5Of);
      if (!inside.ok) return { bytes, ...size };
      return { bytes: Buffer.concat([inside.head, bytes.subarray(inside.replaces)]), ...size };
    });
  }

  /** What goes along inside, by a spec; no packet: nothing is said. */
  private told(
    spec: OutputSpec,
    { model, isTold }: { model: SidecarModel; isTold: (keyword: string) => boolean },
  ): { description: Description; packet: string | null } {
    const description = toldToClients(model, spec.metadata, isTold);
    if (spec.metadata === 'none') return { description, packet: null };
    const { preservedFileName } = spec.metadata === 'rights' ? EMPTY_SIDECAR : model;
    const whole = { ...EMPTY_SIDECAR, ...description, preservedFileName };
    // Where nobody has said who made it, there is nothing to say.
    const anything =
      JSON.stringify(whole) !== JSON.stringify({ ...EMPTY_SIDECAR, persons: [], keywords: [] });
    return { description, packet: anything ? writeSidecar(whole) : null };
  }

  private async prepare(
    shootId: string,
    request: DeliveryRequest,
  ): Promise<{ shoot: Shoot; folder: string; items: Planned[]; unfinished: number; rule: Filter }> {
    const shoot = await this.shoots.get(shootId);
    const settings = await this.settings.all();
    const rule = await this.ruleOf(request.line);
    const frames = await this.frames.select(shootId, rule);
    const part = toNamePart(request.name);
    if (!part || nameProblem(part))
      throw new ArkivError('request.invalid', { reason: 'the delivery’s name cannot be a folder name' });
    const folder = `${shoot.folders[0]}/${shoot.plan.delivery}/${part}`;
    const pictures = await this.frames.pictures(shootId);
    const cards = await this.arrivals.cards(shootId);
    // A clip is shown by one of its pictures; that is no picture to deliver.
    const pictureFor = ({ id, role }: Frame) => (role === 'clip' ? null : (pictures.get(id) ?? null));
    const asIs = request.specs.some(({ format }) => format === 'asis');
    const finished = asIs
      ? await this.finished(frames.flatMap((frame) => pictureFor(frame) ?? []))
      : new Map<string, string>();
    const taken = new Set<string>();
    const items: Planned[] = [];
    for (const [number, frame] of frames.entries())
      for (const [at, spec] of request.specs.entries()) {
        const tokens = tokensOf(spec.pattern);
        const picture = pictureFor(frame);
        const ending = endingOf(spec.format, (picture !== null && finished.get(picture)) || 'jpg');
        const day = spec.byDay ? `/${dayOf(frame)}` : '';
        const home = `${folder}${request.specs.length > 1 ? `/${toNamePart(spec.name)}` : ''}${day}`;
        const wanted = renderName(
          tokens,
          nameFacts(shoot, frame, number + 1, settings.creator, cards.get(frame.id) ?? ''),
        );
        const placed = (base: string) => collisionKey(`${home}/${base}.${ending}`);
        // Names that come from cameras may be equal.
        const name = usesOriginal(tokens) ? freeName(wanted, (base) => taken.has(placed(base))) : wanted;
        const file = `${name}.${ending}`;
        if (nameProblem(file))
          throw new ArkivError('request.invalid', { reason: `“${file}” is no legal file name` });
        if (taken.has(placed(name)))
          throw new ArkivError('request.invalid', {
            reason: `two files would be called “${file}”; add {number:3} to the pattern`,
          });
        taken.add(placed(name));
        items.push({
          ...{ item: number, spec: at, from: frame.name, to: `${home}/${file}`, frameId: frame.id, picture },
        });
      }
    const unfinished = asIs ? frames.filter((frame) => !finished.has(pictureFor(frame) ?? '')).length : 0;
    return { shoot, folder, items, unfinished, rule };
  }

  /** The keepers that a line means. Throws `request.invalid` for a part of it that says nothing. */
  private async ruleOf(line: string): Promise<Filter> {
    const { keeper } = (await this.settings.all()).rules;
    if (line.trim() === '') return keeper;
    const context = { ...(await this.find.context()), unknown: NOT_KEPT };
    const parts = partsOfLine(line, {
      ...context,
      albums: namedAlbums(new AlbumTree(context.albums), context),
    });
    const wrong = parts.find(({ problem }) => problem !== undefined);
    if (wrong) throw new ArkivError('request.invalid', { reason: wrong.problem! });
    return { all: [keeper, lineFilter(parts)] };
  }

  /** How the names of pictures end that can go as they are, by picture. */
  private async finished(pictures: readonly string[]): Promise<Map<string, string>> {
    const found = new Map<string, string>();
    for (const picture of new Set(pictures)) {
      const asset = finishedOf(await this.frames.ofPicture(picture));
      if (asset) found.set(picture, path.posix.extname(asset.at).slice(1).toLowerCase());
    }
    return found;
  }

  /** The manifest as it is now. One of an earlier run holds fewer of the same lines; any other is somebody else's. */
  private async writeManifest(file: string, text: string, job: string): Promise<void> {
    const there = await readOwn(this.disk, file);
    if (there === text) return;
    const lines = new Set(text.split('\n'));
    if (there !== null && !there.split('\n').every((line) => lines.has(line)))
      throw new ArkivError('file.exists', { file: path.basename(file) });
    await replaceOwn(this.disk, file, text, there === null ? null : sha256Of(there), job);
  }
}

/** A file that is a picture as it is: an edit that came back, or what a camera finished itself. */
const finishedOf = (files: readonly PlacedAsset[]): PlacedAsset | null =>
  files.find((file) => file.role === 'edit') ??
  files.find((file) => isDecoded({ ...file, raw: Boolean(file.raw) })) ??
  null;

/** By which specs a delivery is made; an earlier version kept one. */
const specsOf = ({ spec }: Delivery): OutputSpec[] => (Array.isArray(spec) ? spec : [readSpec(spec)]);

function tokensOf(pattern: string): readonly PatternToken[] {
  const parsed = parsePattern(pattern);
  if (!parsed.ok)
    throw new ArkivError('request.invalid', { reason: describePatternProblem(pattern, parsed.problem) });
  return parsed.tokens;
}

/** The day on which a frame was taken, by its body's corrected clock. */
const dayOf = (frame: Frame): string =>
  frame.local === null ? 'without a time' : correctedLocal({ ...frame, local: frame.local }).slice(0, 10);

/** What Exif has places for, for formats whose metadata are written while they are coded. */
const exifOf = ({ caption, creator, rights }: Description): Record<string, string> => ({
  ...(caption !== null && { ImageDescription: caption }),
  ...(creator !== null && { Artist: creator }),
  ...(rights !== null && { Copyright: rights }),
});

function nameFacts(shoot: Shoot, frame: Frame, seq: number, creator: string, card: string): NameFacts {
  const { title, client, place } = shoot;
  return nameFactsOf(frame, { shoot: title, client, place, creator, card, seq });
}
