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
  outputSize,
  parsePattern,
  renderName,
  usesOriginal,
  freeName,
  describePatternProblem,
  toNamePart,
  writeSidecar,
  type ManifestLine,
  type NameFacts,
  type OutputSpec,
} from '@arkiv/core';
import { UnitOfWork } from '../db/unitOfWork';
import { Disk } from '../disk/disk';
import { placeNew, readOwn, replaceOwn, sha256Of } from '../disk/place';
import { hashFile } from '../disk/verifiedCopy';
import type { Frame } from '../frames/frame.entity';
import { FramesService } from '../frames/frames.service';
import type { Job, JobItem } from '../jobs/job.entity';
import { WaitForOutside, type ItemContext, type ItemOutcome, type JobHandler } from '../jobs/jobHandler';
import { JobsService } from '../jobs/jobs.service';
import type { Lane } from '../jobs/lanes';
import { PictureMaker } from '../pictures/pictureMaker';
import { PreviewsService } from '../previews/previews.service';
import { ShootsService } from '../shoots/shoots.service';
import type { Shoot } from '../shoots/shoot.entity';
import type { Delivery, DeliveryFile } from '../ledger/delivery.entity';
import { ArrivalLedger } from '../ledger/arrivalLedger';
import { OutLedger } from '../ledger/outLedger';
import { Clock } from '../system/clock';
import { Ids } from '../system/ids';
import { SettingsService } from '../settings/settings.service';
import { volumeError, VolumesService } from '../volumes/volumes.service';
import { ZipMaker } from './zip';

export interface DeliveryRequest {
  name: string;
  volumeId: string;
  spec: OutputSpec;
}

type Planned = Pick<DeliveryFile, 'from' | 'to' | 'frameId' | 'picture'>;

export interface DeliveryResult {
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
  rule: string;
  /** first, second and last name */
  names: string[];
}

/** Makes finished JPEGs of the keepers by an output spec, with a manifest and a zip of all. */
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
    const { folder, items } = await this.prepare(shootId, request);
    const names = items.map((item) => path.posix.basename(item.to));
    const { rules } = await this.settings.all();
    return {
      folder,
      frames: items.length,
      rule: describe(rules.keeper),
      names: [...new Set([names[0], names[1], names.at(-1)])].filter((n) => n !== undefined),
    };
  }

  async start(shootId: string, request: DeliveryRequest): Promise<{ jobId: string }> {
    const volume = await this.volumes.get(request.volumeId);
    await this.volumes.check(volume);
    const { shoot, folder, items } = await this.prepare(shootId, request);
    if (items.length === 0)
      throw new ArkivError('job.nothing', { rule: describe((await this.settings.all()).rules.keeper) });
    if (await this.disk.facts(await this.volumes.resolve(volume, folder)))
      throw new ArkivError('file.exists', { file: folder });
    const jobId = this.ids.newId();
    const title = `${shoot.title} · ${request.name}`;
    const delivery: Delivery = {
      ...{ id: jobId, shootId, title, folder, ...request, zip: null, at: this.clock.now(), finishedAt: null },
    };
    const unmade = { fate: 'todo' as const, sha256: null, size: null, width: null, height: null };
    const files = items.map((item, seq) => ({ ...item, ...unmade, deliveryId: jobId, seq }));
    await this.jobs.begin([
      {
        job: { id: jobId, kind: 'delivery', title, shootId, params: {} },
        items: items.map(({ from: name }) => ({ size: 0, name, data: {} })),
        head: (manager) => this.ledger.openDelivery(manager, delivery),
        part: (manager, from, to) => this.ledger.addDeliveryFiles(manager, files.slice(from, to)),
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

  async runItem(job: Job, item: JobItem, context: ItemContext): Promise<ItemOutcome> {
    const { spec, volumeId } = await this.delivery(job.id);
    const data = await this.ledger.deliveryFile(job.id, item.seq);
    const volume = await this.volumes.get(volumeId);
    try {
      if (data.picture === null) throw new ArkivError('picture.none', { file: data.from });
      await this.volumes.check(volume);
      const made = await this.render(spec, data.picture, data.from);
      const final = await this.volumes.resolve(volume, data.to);
      // Done before and killed before its row: the same bytes are there. Anything else is never overwritten.
      const there = (await this.disk.facts(final)) ? await hashFile(this.disk, final, context.signal) : null;
      const sha256 = sha256Of(made.bytes);
      if (there && there.sha256 !== sha256) throw new ArkivError('file.exists', { file: data.to });
      if (!there) await placeNew(this.disk, final, made.bytes, job.id);
      const { width, height } = made;
      const size = made.bytes.byteLength;
      return {
        state: 'done',
        commit: (manager) =>
          this.ledger.noteDelivery(manager, job.id, item.seq, { fate: 'made', sha256, size, width, height }),
      };
    } catch (error) {
      if (context.signal.aborted) throw error;
      const shown = volumeError(error, volume, data.to, 0, 0);
      return {
        state: 'failed',
        reason: `${data.from}: ${shown.message} ${shown.body().next}`,
        commit: (manager) => this.ledger.noteDelivery(manager, job.id, item.seq, { fate: 'failed' }),
      };
    }
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
      deliveries.map(async ({ id, title, volumeId, folder, zip, at, finishedAt }) => {
        const files = await this.ledger.deliveryFiles(id);
        const made = files.filter((file) => file.fate === 'made');
        const result: DeliveryResult = {
          ...{ volumeId, volume: (await this.volumes.get(volumeId)).name, folder, files: made.length },
          bytes: made.reduce((sum, file) => sum + (file.size ?? 0), 0),
          failed: files.length - made.length,
          ...{ manifest: `${folder}/manifest.sha256`, zip: zip! },
        };
        return { jobId: id, title, at: finishedAt ?? at, result };
      }),
    );
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

  private async render(
    spec: OutputSpec,
    picture: string,
    from: string,
  ): Promise<{ bytes: Uint8Array; width: number; height: number }> {
    const { name, source } = await this.previews.source(picture);
    const natural = await this.maker.measure(name, source);
    const size = outputSize(natural.width, natural.height, spec.longSide);
    const { creator, rights } = await this.settings.all();
    const exif: Record<string, string> = {};
    if (spec.metadata !== 'none' && creator) exif.Artist = creator;
    if (spec.metadata !== 'none' && rights) exif.Copyright = rights;
    const wanted = spec.metadata !== 'none' && (creator || rights);
    const original = path.posix.parse(from).name;
    const model = {
      ...EMPTY_SIDECAR,
      creator: creator || null,
      rights: rights || null,
      preservedFileName: spec.metadata === 'all' ? original : null,
    };
    const bytes = await this.maker.render(name, {
      source,
      ...size,
      quality: spec.quality,
      sharpen: spec.sharpen,
      exif,
      xmp: wanted ? writeSidecar(model) : null,
    });
    return { bytes, ...size };
  }

  private async prepare(
    shootId: string,
    request: DeliveryRequest,
  ): Promise<{ shoot: Shoot; folder: string; items: Planned[] }> {
    const shoot = await this.shoots.get(shootId);
    const settings = await this.settings.all();
    const frames = await this.frames.select(shootId, settings.rules.keeper);
    const part = toNamePart(request.name);
    if (!part || nameProblem(part))
      throw new ArkivError('request.invalid', { reason: 'the delivery’s name cannot be a folder name' });
    const folder = `${shoot.folders[0]}/${shoot.plan.delivery}/${part}`;
    const pattern = parsePattern(request.spec.pattern);
    if (!pattern.ok)
      throw new ArkivError('request.invalid', {
        reason: describePatternProblem(request.spec.pattern, pattern.problem),
      });
    const pictures = await this.frames.pictures(shootId);
    const cards = await this.arrivals.cards(shootId);
    // A clip is shown by one of its pictures; that is no picture to deliver.
    const pictureFor = ({ id, role }: Frame) => (role === 'clip' ? null : (pictures.get(id) ?? null));
    const taken = new Set<string>();
    const items = frames.map((frame, i): Planned => {
      const wanted = renderName(
        pattern.tokens,
        nameFacts(shoot, frame, i + 1, settings.creator, cards.get(frame.id) ?? ''),
      );
      const placed = (base: string) => collisionKey(`${folder}/${base}.jpg`);
      // Names that come from cameras may be equal.
      const name = usesOriginal(pattern.tokens)
        ? freeName(wanted, (base) => taken.has(placed(base)))
        : wanted;
      const to = `${folder}/${name}.jpg`;
      if (nameProblem(`${name}.jpg`))
        throw new ArkivError('request.invalid', { reason: `“${name}.jpg” is no legal file name` });
      if (taken.has(collisionKey(to)))
        throw new ArkivError('request.invalid', {
          reason: `two files would be called “${name}.jpg”; add {number:3} to the pattern`,
        });
      taken.add(collisionKey(to));
      return { from: frame.name, to, frameId: frame.id, picture: pictureFor(frame) };
    });
    return { shoot, folder, items };
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

function nameFacts(shoot: Shoot, frame: Frame, seq: number, creator: string, card: string): NameFacts {
  const { title, client, place } = shoot;
  return nameFactsOf(frame, { shoot: title, client, place, creator, card, seq });
}
