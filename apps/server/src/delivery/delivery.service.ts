import path from 'node:path';
import { Injectable, type OnModuleInit } from '@nestjs/common';
import {
  ArkivError,
  collisionKey,
  describe,
  EMPTY_SIDECAR,
  manifestText,
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
import { PictureMaker } from '../pictures/pictureMaker';
import { PreviewsService } from '../previews/previews.service';
import { ShootsService } from '../shoots/shoots.service';
import type { Shoot } from '../shoots/shoot.entity';
import { Ids } from '../system/ids';
import { SettingsService } from '../system/settings.service';
import { volumeError, VolumesService } from '../volumes/volumes.service';
import { ZipMaker } from './zip';

export interface DeliveryRequest {
  name: string;
  volumeId: string;
  spec: OutputSpec;
}

interface DeliveryParams extends DeliveryRequest {
  /** the delivery's folder below the volume */
  folder: string;
}

interface DeliveryItem {
  from: string;
  to: string;
  frameId: string;
  sha256: string | null;
  /** the file made, once it is there */
  made: { sha256: string; size: number; width: number; height: number } | null;
}

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
    const params: DeliveryParams = { ...request, folder };
    const rows = items.map((data) => ({ size: 0, data }));
    await this.work.write((manager) =>
      this.jobs.create(
        manager,
        { id: jobId, kind: 'delivery', title: `${shoot.title} · ${request.name}`, shootId, params },
        rows,
      ),
    );
    this.jobs.start(jobId);
    return { jobId };
  }

  async begin(job: Job): Promise<void> {
    const volume = await this.volumes.get((job.params as DeliveryParams).volumeId);
    if (!(await this.volumes.isOnline(volume)))
      throw new WaitForOutside(`“${volume.name}” is not there. Plug it in: the delivery carries on.`);
  }

  async runItem(job: Job, item: JobItem, context: ItemContext): Promise<ItemOutcome> {
    const params = job.params as DeliveryParams;
    const data = item.data as DeliveryItem;
    const volume = await this.volumes.get(params.volumeId);
    try {
      if (data.sha256 === null) throw new ArkivError('picture.none', { file: data.from });
      await this.volumes.check(volume);
      const made = await this.render(params.spec, data.sha256, data.from);
      const final = await this.volumes.resolve(volume, data.to);
      // Done before and killed before its row: the same bytes are there. Anything else is never overwritten.
      const there = (await this.disk.facts(final)) ? await hashFile(this.disk, final, context.signal) : null;
      const sha256 = sha256Of(made.bytes);
      if (there && there.sha256 !== sha256) throw new ArkivError('file.exists', { file: data.to });
      if (!there) await placeNew(this.disk, final, made.bytes, job.id);
      return {
        state: 'done',
        data: {
          ...data,
          made: { sha256, size: made.bytes.byteLength, width: made.width, height: made.height },
        },
      };
    } catch (error) {
      if (context.signal.aborted) throw error;
      const shown = volumeError(error, volume, data.to, 0, 0);
      return { state: 'failed', reason: `${data.from}: ${shown.message} ${shown.body().next}` };
    }
  }

  /** Manifest first, then the zip with the manifest inside: what the client unpacks can be checked. */
  async finish(job: Job, items: readonly JobItem[]): Promise<DeliveryResult> {
    const { volumeId, folder } = job.params as DeliveryParams;
    const volume = await this.volumes.get(volumeId);
    await this.volumes.check(volume);
    const made = items.map((item) => item.data as DeliveryItem).filter((d) => d.made !== null);
    const name = (full: string) => full.slice(folder.length + 1);
    const lines: ManifestLine[] = made.map((d) => ({ sha256: d.made!.sha256, path: name(d.to) }));
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
    const before = (job.result as DeliveryResult | null)?.zip.sha256 ?? null;
    const zipFile = await this.volumes.resolve(volume, zipPath);
    const zip = await this.zips.make(zipFile, entries, job.id, new AbortController().signal, before);
    return {
      volumeId,
      volume: volume.name,
      folder,
      files: made.length,
      bytes: made.reduce((sum, d) => sum + d.made!.size, 0),
      failed: items.length - made.length,
      manifest,
      zip: { path: zipPath, size: zip.size, sha256: zip.sha256 },
    };
  }

  /** The finished zip on this machine, for the download. */
  async zipFile(jobId: string): Promise<{ file: string; name: string; size: number }> {
    const job = await this.jobs.get(jobId);
    const result = job.result as DeliveryResult | null;
    if (job.kind !== 'delivery' || !result)
      throw new ArkivError('not-found', { what: 'finished delivery', id: jobId });
    const volume = await this.volumes.get(result.volumeId);
    await this.volumes.check(volume);
    return {
      file: await this.volumes.resolve(volume, result.zip.path),
      name: path.posix.basename(result.zip.path),
      size: result.zip.size,
    };
  }

  private async render(
    spec: OutputSpec,
    sha256: string,
    from: string,
  ): Promise<{ bytes: Uint8Array; width: number; height: number }> {
    const { name, source } = await this.previews.source(sha256);
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
      ...source,
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
  ): Promise<{ shoot: Shoot; folder: string; items: DeliveryItem[] }> {
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
    const pictures = await this.pictures(shootId);
    // A clip is shown by one of its pictures; that is no picture to deliver.
    const pictureFor = ({ id, role }: Frame) => (role === 'clip' ? null : (pictures.get(id) ?? null));
    const taken = new Set<string>();
    const items = frames.map((frame, i): DeliveryItem => {
      const wanted = renderName(pattern.tokens, nameFacts(shoot, frame, i + 1, settings.creator));
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
      return { from: frame.name, to, frameId: frame.id, sha256: pictureFor(frame), made: null };
    });
    return { shoot, folder, items };
  }

  private async pictures(shootId: string): Promise<Map<string, string>> {
    const { columns } = await this.frames.columns(shootId, 0);
    return new Map((columns.id as string[]).map((id, i) => [id, (columns.picture as string[])[i]!]));
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

function nameFacts(shoot: Shoot, frame: Frame, seq: number, creator: string) {
  return {
    shoot: shoot.title,
    client: shoot.client,
    place: shoot.place,
    creator,
    card: '',
    capture:
      frame.local === null
        ? null
        : {
            local: frame.local,
            millis: frame.millis,
            offsetMinutes: frame.offsetMinutes,
            correctionMillis: frame.correctionMillis,
          },
    seq,
    original: frame.original,
    body: frame.body ?? '',
    serial: frame.serial ?? '',
    stars: frame.stars,
  };
}
