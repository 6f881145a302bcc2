import path from 'node:path';
import { Injectable, type OnModuleInit } from '@nestjs/common';
import {
  ArkivError,
  kindOfExtension,
  matchReturn,
  seemsWhole,
  sidecarOf,
  TAIL_BYTES,
  type FileKind,
  type ReturnedFacts,
  type ReturnMatch,
} from '@arkiv/core';
import { UnitOfWork } from '../db/unitOfWork';
import { Disk, type DiskPath } from '../disk/disk';
import { readOwn } from '../disk/place';
import { hashFile } from '../disk/verifiedCopy';
import type { PlacedAsset } from '../frames/asset.entity';
import { CopyStore } from '../frames/copyStore';
import { FrameStore } from '../frames/frameStore';
import { FramesService } from '../frames/frames.service';
import type { Job, JobItem } from '../jobs/job.entity';
import { WaitForOutside, type ItemContext, type ItemOutcome, type JobHandler } from '../jobs/jobHandler';
import { JobsService } from '../jobs/jobs.service';
import type { Lane } from '../jobs/lanes';
import { MetadataTool } from '../metadata/metadataTool';
import { Parser } from '../metadata/parser';
import { FileWays } from '../moves/fileWays';
import { PictureMaker } from '../pictures/pictureMaker';
import { ShootsService } from '../shoots/shoots.service';
import { Clock } from '../system/clock';
import { Ids } from '../system/ids';
import type { Volume } from '../volumes/volume.entity';
import { volumeError, VolumesService } from '../volumes/volumes.service';
import { Looks } from './looks';
import type { FoundFile } from './returnPlaces';
import { ReturnsService } from './returns.service';
import { ReturnStore } from './returnStore';
import { saidInTags } from './saidInTags';

interface ReturnItem {
  volumeId: string;
  /** below the volume */
  path: string;
}

/** Takes in what came back from editing: proven, and matched with what it was made from. The files themselves are never touched. */
@Injectable()
export class ReturnHandler implements JobHandler, OnModuleInit {
  readonly kind = 'return';
  readonly inFlight = 1;

  constructor(
    private readonly disk: Disk,
    private readonly work: UnitOfWork,
    private readonly jobs: JobsService,
    private readonly store: ReturnStore,
    private readonly returns: ReturnsService,
    private readonly frames: FramesService,
    private readonly frameStore: FrameStore,
    private readonly copyStore: CopyStore,
    private readonly ways: FileWays,
    private readonly looks: Looks,
    private readonly maker: PictureMaker,
    private readonly parser: Parser,
    private readonly tool: MetadataTool,
    private readonly shoots: ShootsService,
    private readonly volumes: VolumesService,
    private readonly clock: Clock,
    private readonly ids: Ids,
  ) {}

  onModuleInit(): void {
    this.jobs.register(this);
  }

  lane(): Lane {
    return { bulk: true, way: null, first: false };
  }

  async start(shootId: string, files: readonly FoundFile[]): Promise<{ jobId: string }> {
    const { title } = await this.shoots.get(shootId);
    const id = this.ids.newId();
    await this.jobs.begin([
      {
        job: { id, kind: 'return', title, shootId, params: {} },
        items: files.map(({ volume, path: at, size }) => ({
          ...{ size, name: at },
          data: { volumeId: volume.id, path: at } satisfies ReturnItem,
        })),
      },
    ]);
    return { jobId: id };
  }

  begin(): Promise<void> {
    return Promise.resolve();
  }

  async runItem(job: Job, item: JobItem, { signal, onBytes }: ItemContext): Promise<ItemOutcome> {
    const { volumeId, path: at } = item.data as ReturnItem;
    const volume = await this.volumes.get(volumeId);
    if (!(await this.volumes.isOnline(volume)))
      throw new WaitForOutside(`“${volume.name}” is not there. Plug it in: edits are taken in then.`);
    try {
      const file = await this.volumes.resolve(volume, at);
      const whole = await this.proven(file, at, signal);
      if (!whole)
        return { state: 'skipped', reason: `${at} is still being written: it comes when it is whole.` };
      onBytes(whole.size);
      const already = await this.takeIn(job.shootId!, volume, at, whole);
      return already === null ? { state: 'done' } : { state: 'skipped', reason: already };
    } catch (error) {
      if (signal.aborted) throw error;
      const shown = error instanceof ArkivError ? error : volumeError(error, volume, at, item.size, 0);
      return { state: 'failed', reason: `${shown.message} ${shown.body().next}` };
    }
  }

  finish(): Promise<object> {
    return Promise.resolve({});
  }

  /** A file with its checksum; null: it is not whole, or changed while it was read. */
  private async proven(file: DiskPath, at: string, signal: AbortSignal): Promise<Whole | null> {
    const before = await this.disk.facts(file);
    if (before?.kind !== 'file') return null;
    const kind = kindOfExtension(path.posix.extname(at).slice(1))!;
    const head = await this.disk.readPart(file, 0, 64);
    const tail = await this.disk.readPart(file, Math.max(0, before.size - TAIL_BYTES), TAIL_BYTES);
    if (!seemsWhole(kind.format, head, tail, before.size)) return null;
    const { sha256, size, pastCache } = await hashFile(this.disk, file, signal);
    const after = await this.disk.facts(file);
    const same = after?.size === size && after.mtimeMillis === before.mtimeMillis;
    return same ? { sha256, size, pastCache, mtimeMillis: before.mtimeMillis, kind, file } : null;
  }

  /** Says why it is nothing new, or null. */
  private async takeIn(shootId: string, volume: Volume, at: string, whole: Whole): Promise<string | null> {
    const { sha256, size, pastCache, mtimeMillis, kind } = whole;
    const verified = { verifiedAt: this.clock.now(), pastCache };
    const there = await this.frames.atPlace(shootId, at);
    if (there?.sha256 === sha256) {
      await this.work.write(async (manager) => {
        await this.copyStore.verified(manager, there.id, volume.id, verified);
        await this.copyStore.seenAs(manager, there.id, volume.id, mtimeMillis);
      });
      // A run that was killed before it was matched has left that to do.
      const open = there.role === 'edit' && (await this.store.one(there.id))?.state === 'unknown';
      if (!open) return `${at} is known already.`;
      const its = { assetId: there.id, shootId };
      await this.match(its, path.posix.basename(at), sha256, await this.told(whole, volume, at));
      return null;
    }
    const same = (await this.frames.ofContent(sha256)).find((file) => file.shootId === shootId);
    if (same) return `${at} is ${same.at}, byte for byte: nothing was edited.`;
    // Somebody saved over an earlier edit: what is known of that one holds for the one in its place.
    const before = there?.role === 'edit' ? await this.setAside(shootId, there, volume) : null;
    if (there && there.role !== 'edit') throw new ArkivError('file.exists', { file: at });
    const name = path.posix.basename(at);
    const side = await this.sizeOf(name, whole.file);
    const assetId = await this.work.write(async (manager) => {
      const id = await this.store.add(
        manager,
        { shootId, at, format: kind.format, raw: false, sha256, size },
        { name, at: this.clock.now(), ...side },
      );
      await this.copyStore.verified(manager, id, volume.id, verified);
      await this.copyStore.seenAs(manager, id, volume.id, mtimeMillis);
      return id;
    });
    const returned = { assetId, shootId };
    if (before && before.length > 0) await this.returns.match(returned, 'hand', before);
    else await this.match(returned, name, sha256, await this.told(whole, volume, at));
    return null;
  }

  /**
   * What was at a place is another version: where other drives still have it, it gets a name of its own there. Returns of which frames
   * somebody said that it is.
   */
  private async setAside(shootId: string, old: PlacedAsset, volume: Volume): Promise<string[]> {
    const returned = await this.store.one(old.id);
    const originals = await this.store.originals([old.id]);
    await this.work.write((manager) => this.copyStore.released(manager, old.id, volume.id));
    const copies = await this.frames.copiesOf(old.id);
    if (copies.length === 0)
      await this.work.write((manager) => this.store.over(manager, { assetId: old.id, shootId }));
    else {
      const to = await freeVersion(
        old.at,
        async (place) => (await this.frames.atPlace(shootId, place)) !== null,
      );
      const here: typeof copies = [];
      for (const one of copies) if (await this.volumes.isOnline(one.volume)) here.push(one);
      await this.ways.go(
        here.map((one) => ({ volume: one.volume, from: one.copy.at, to, sha256: old.sha256 })),
        () =>
          this.work.write((manager) =>
            this.frameStore.placeAside(manager, old.id, {
              ...{ at: to, before: old.at },
              there: here.map((one) => one.volume.id),
            }),
          ),
      );
    }
    return returned?.by === 'hand' ? originals.map(({ id }) => id) : [];
  }

  /** As it stands upright; a picture that cannot be shown is taken in all the same. */
  private async sizeOf(
    name: string,
    file: DiskPath,
  ): Promise<{ width: number | null; height: number | null }> {
    try {
      return await this.maker.measure(name, { input: file, orientation: null });
    } catch (error) {
      if (!(error instanceof ArkivError)) throw error;
      return { width: null, height: null };
    }
  }

  /** What it says of itself, and a sidecar beside it. */
  private async told({ file }: Whole, volume: Volume, at: string): Promise<ReturnedFacts> {
    const said = saidInTags((await this.tool.everything(file)) ?? {});
    const { dir, name, base } = path.posix.parse(at);
    for (const beside of [sidecarOf(dir, name), sidecarOf(dir, base)]) {
      const text = await readOwn(this.disk, await this.volumes.resolve(volume, beside));
      const read = text === null ? null : await this.parser.readSidecar(text);
      if (!read?.ok) continue;
      const { frameId, preservedFileName } = read.model;
      if (frameId !== null) said.frameIds.push(frameId);
      said.preserved ??= preservedFileName;
    }
    return { ...said, name };
  }

  private async match(
    returned: { assetId: string; shootId: string },
    name: string,
    picture: string,
    facts: ReturnedFacts,
  ): Promise<void> {
    const { shootId } = returned;
    const told = matchReturn(facts, await this.frames.calledIn(shootId));
    const found = told?.sure ? told : await this.seen(shootId, picture, name, told);
    if (found?.sure) await this.returns.match(returned, found.by, found.frames);
    else if (found)
      await this.work.write((manager) => this.store.ask(manager, returned, found.by, found.frames));
  }

  /** What nothing else tells surely is told by the pictures, or asked for. */
  private async seen(
    shootId: string,
    picture: string,
    name: string,
    told: ReturnMatch | null,
  ): Promise<ReturnMatch | null> {
    try {
      const { frames, sure } = await this.looks.nearest(shootId, picture, name, told?.frames ?? null);
      // A row of frames behind a name may be a panorama: that no picture tells.
      const row = told?.by === 'name' && told.frames.length > 1;
      if (sure && !row) return { by: told?.by ?? 'look', sure: true, frames };
      const others = (told?.frames ?? []).filter((id) => !frames.includes(id));
      const among = row ? told.frames : [...frames, ...others];
      return among.length === 0 ? null : { by: told?.by ?? 'look', sure: false, frames: among };
    } catch (error) {
      // A picture that cannot be shown is looked at by nobody: what it says has to do.
      if (!(error instanceof ArkivError)) throw error;
      return told;
    }
  }
}

interface Whole {
  file: DiskPath;
  kind: FileKind;
  sha256: string;
  /** bytes */
  size: number;
  mtimeMillis: number;
  pastCache: boolean;
}

/** A name for an earlier version of a file, beside it. */
async function freeVersion(at: string, taken: (at: string) => Promise<boolean>): Promise<string> {
  const { dir, name, ext } = path.posix.parse(at);
  for (let version = 1; ; version++) {
    const free = `${dir}/${name} (version ${version})${ext}`;
    if (!(await taken(free))) return free;
  }
}
