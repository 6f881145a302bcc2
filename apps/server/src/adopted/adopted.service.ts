import path from 'node:path';
import {
  Injectable,
  Logger,
  type BeforeApplicationShutdown,
  type OnApplicationBootstrap,
} from '@nestjs/common';
import {
  ArkivError,
  groupCardFiles,
  pictureOf,
  shootDay,
  shootOfFolder,
  stampOf,
  titleOfFolder,
  type AdoptRule,
  type CardFile,
} from '@arkiv/core';
import { BinService } from '../bin/bin.service';
import { Disk } from '../disk/disk';
import { sha256Of } from '../disk/place';
import { Happenings } from '../events/domainEvents';
import { FrameStore } from '../frames/frameStore';
import { FramesService } from '../frames/frames.service';
import { OpenJobs } from '../jobs/openJobs.service';
import { JobsService } from '../jobs/jobs.service';
import { CopiesService } from '../copies/copies.service';
import { Contents } from '../metadata/contents.service';
import { MountsService } from '../mounts/mounts.service';
import { SettingsService } from '../settings/settings.service';
import { ShootsService } from '../shoots/shoots.service';
import { Clock } from '../system/clock';
import { Ids } from '../system/ids';
import { localDay } from '../system/localDay';
import type { Volume } from '../volumes/volume.entity';
import { VolumesService } from '../volumes/volumes.service';
import { UnitOfWork } from '../db/unitOfWork';
import type { AdoptItem, AdoptParams } from './adopt.handler';
import type { Adopted } from './adopted.entity';
import { AdoptedFrames, below, SETTLED } from './adoptedFrames.service';
import { AdoptedStore, type AdoptedCounts } from './adoptedStore';
import { AdoptedTree, noneOut, type LeftOut, type TreeFolder } from './adoptedTree';

/** Milliseconds in which what happens in a tree is gathered. */
const QUIET = 300;
/** Milliseconds: where nothing can be watched (a share), what changed is seen by the next look. */
const ROUND = 10 * 60_000;
/** Watched folders at most: systems begin to refuse at some eight thousand, and others want some too. */
const MOST_FOLDERS = 2000;
/** Frames that are there at once, before the whole tree is walked: a screen of them. */
const AT_ONCE = 48;
/** Frames up to which previews of a whole tree are made without being asked for: an hour's work. Of larger trees, when a shoot is opened. */
const MOST_TOLD = 3000;
/** Shoots named of what a folder would become, and pictures whose day is read for that. */
const SHOWN = 200;
const DAYS_READ = 300;
/** Frames marked as due in one transaction. */
const PART = 500;

export interface AdoptWish {
  /** full path on this machine */
  path: string;
  rule: AdoptRule;
  sidecars: boolean;
}

/** One shoot that a folder would become. */
export interface WouldBecome {
  title: string;
  /** null: its first picture says it, which nobody has read */
  date: string | null;
  /** below the adopted folder */
  folder: string;
  frames: number;
}

export interface AdoptExample {
  /** name of the drive that it lies on */
  drive: string;
  /** full path of a folder that becomes a drive of the archive first; null: it is one */
  newDrive: string | null;
  shoots: WouldBecome[];
  /** shoots beyond those that are named */
  moreShoots: number;
  frames: number;
  files: number;
  bytes: number;
  /** sidecars beside its pictures */
  sidecars: number;
  /** frames whose day was not read */
  daysUnread: number;
  out: Record<LeftOut, number>;
}

export interface AdoptedNow extends AdoptedCounts {
  adopted: Adopted;
  drive: string;
  online: boolean;
  /** full path on this machine; null: its drive is away */
  at: string | null;
  /** why nothing of it is seen at the moment; null: nothing is in the way */
  trouble: string | null;
  /** it is being looked at */
  busy: boolean;
  /** its first shoot; null: it has none yet */
  firstShoot: string | null;
}

/** Where a folder lies: its drive, known or still to be added, and the place below that. */
interface Where {
  volume: Volume | null;
  root: string;
  name: string;
  path: string;
}

/** Folders whose pictures are in the archive where they lie: adopts them, and sees what changes in them. */
@Injectable()
export class AdoptedService implements OnApplicationBootstrap, BeforeApplicationShutdown {
  private readonly log = new Logger('adopted');
  private readonly timers = new Map<string, NodeJS.Timeout>();
  private readonly turns = new Map<string, Promise<void>>();
  /** by folder on this machine */
  private readonly watched = new Map<string, () => void>();
  private readonly troubles = new Map<string, string>();
  private readonly looking = new Set<string>();
  /** by folder, what lay there when it was taken in last */
  private readonly tried = new Map<string, string>();
  private round: NodeJS.Timeout | null = null;
  private stopping = false;

  constructor(
    private readonly disk: Disk,
    private readonly work: UnitOfWork,
    private readonly store: AdoptedStore,
    private readonly tree: AdoptedTree,
    private readonly frames: AdoptedFrames,
    private readonly archive: FramesService,
    private readonly frameStore: FrameStore,
    private readonly shoots: ShootsService,
    private readonly contents: Contents,
    private readonly settings: SettingsService,
    private readonly volumes: VolumesService,
    private readonly mounts: MountsService,
    private readonly jobs: JobsService,
    private readonly openJobs: OpenJobs,
    private readonly copies: CopiesService,
    private readonly bin: BinService,
    private readonly clock: Clock,
    private readonly ids: Ids,
    private readonly happenings: Happenings,
  ) {
    happenings.on('volumes', () => {
      this.unwatch();
      this.allSoon();
    });
    happenings.on('job', ({ kind, state }) => {
      if (state !== 'done' && state !== 'failed' && state !== 'cancelled') return;
      if (kind === 'adopt' || kind === 'rebuild') this.allSoon();
      // Files that were moved by the archive itself were let alone meanwhile.
      if (kind === 'move' || kind === 'bin' || kind === 'derive') this.allSoon();
    });
  }

  onApplicationBootstrap(): void {
    this.allSoon();
    this.round = setInterval(() => this.allSoon(), ROUND);
    this.round.unref();
  }

  async beforeApplicationShutdown(): Promise<void> {
    this.stopping = true;
    if (this.round) clearInterval(this.round);
    for (const timer of this.timers.values()) clearTimeout(timer);
    this.unwatch();
    await Promise.all(this.turns.values());
  }

  async list(): Promise<AdoptedNow[]> {
    const all: AdoptedNow[] = [];
    for (const adopted of await this.store.all()) {
      const volume = await this.volumes.get(adopted.volumeId);
      const online = await this.volumes.isOnline(volume);
      const [firstShoot = null] = await this.store.shootsOf(adopted.id);
      all.push({
        ...(await this.store.counts(adopted.id)),
        ...{ adopted, drive: volume.name, online, firstShoot },
        at: online ? path.join(volume.root, adopted.path) : null,
        trouble: online ? (this.troubles.get(adopted.id) ?? null) : `“${volume.name}” is not there.`,
        busy: this.looking.has(adopted.id) || (await this.openJob(adopted.id)),
      });
    }
    return all;
  }

  /** What a folder would become. Nothing is changed. */
  async example({ path: given, rule }: Omit<AdoptWish, 'sidecars'>): Promise<AdoptExample> {
    const where = await this.where(given);
    const { dayStartHour } = await this.settings.all();
    // A drive that is still to be added is walked as what it will be.
    const volume = where.volume ?? ({ id: '', root: where.root, name: where.name } as Volume);
    const root = path.posix.basename(where.path) || where.name;
    const out = noneOut();
    const shoots = new Map<string, WouldBecome>();
    const sum = { frames: 0, files: 0, bytes: 0, sidecars: 0, daysUnread: 0 };
    for await (const there of this.tree.walk(volume, where.path)) {
      for (const why of Object.keys(out) as LeftOut[]) out[why] += there.out[why];
      const { frames } = groupCardFiles(there.files);
      for (const frame of frames) {
        const main = pictureOf(frame.files);
        let day = '';
        if (rule === 'day' && sum.frames < DAYS_READ && main) {
          const file = path.join(await this.volumes.resolve(volume, there.path), main.path);
          const { capture } = (await this.contents.facts(file, main)).facts;
          day = capture ? shootDay(capture, dayStartHour) : localDay(main.mtimeMillis);
        } else if (rule === 'day') sum.daysUnread += 1;
        sum.frames += 1;
        if (rule === 'day' && day === '') continue;
        const its = shootOfFolder(rule, below(where.path, there.path), day);
        const shoot = shoots.get(its.key) ?? {
          ...{ title: titleOfFolder(its, rule, root), date: its.date, frames: 0 },
          folder: rule === 'day' ? '' : its.folder,
        };
        shoot.frames += 1;
        shoots.set(its.key, shoot);
      }
      const isSidecar = (name: string): boolean => /\.xmp$/i.test(name);
      const pictures = there.files.filter((file) => !isSidecar(file.path));
      sum.files += pictures.length;
      sum.bytes += pictures.reduce((bytes, { size }) => bytes + size, 0);
      sum.sidecars += there.files.length - pictures.length;
    }
    return {
      ...{ drive: where.name, newDrive: where.volume ? null : where.root, ...sum, out },
      shoots: [...shoots.values()].slice(0, SHOWN),
      moreShoots: Math.max(0, shoots.size - SHOWN),
    };
  }

  /** Adopts a folder: its first frames are there when this returns, the rest follows. */
  async adopt({ path: given, rule, sidecars }: AdoptWish): Promise<AdoptedNow> {
    const where = await this.where(given);
    const volume =
      where.volume ?? (await this.volumes.add({ root: where.root, name: where.name, role: 'working' }));
    const adopted: Adopted = {
      ...{ id: this.ids.newId(), volumeId: volume.id, path: where.path, rule, sidecars },
      createdAt: this.clock.now(),
    };
    await this.store.add(adopted);
    await this.inTurn(adopted.id, async () => {
      for await (const there of this.tree.walk(volume, adopted.path)) {
        if (there.files.length === 0) continue;
        const { added } = await this.frames.index(adopted, volume, there, { most: AT_ONCE, tell: true });
        if (added > 0) break;
      }
    });
    this.soon(adopted.id, 0);
    return (await this.list()).find((one) => one.adopted.id === adopted.id)!;
  }

  /** Whether sidecars may be written beside its pictures from now on. Where they may, those of marked frames are written. */
  async change(id: string, { sidecars }: { sidecars: boolean }): Promise<void> {
    const { sidecars: before } = await this.store.get(id);
    if (before === sidecars) return;
    const shoots = await this.store.setSidecars(id, sidecars);
    if (!sidecars) return;
    for (const shootId of shoots) {
      const marked = (await this.archive.ofShoot(shootId)).filter(({ markedAt }) => markedAt > 0);
      await this.work.inParts(
        marked.map((frame) => frame.id),
        PART,
        (manager, part) => this.frameStore.due(manager, part),
      );
    }
  }

  /** Its frames leave the archive; the files stay as they are. */
  async forget(id: string): Promise<{ frames: number }> {
    const counts = await this.store.counts(id);
    const shoots = await this.store.shootsOf(id);
    for (const shootId of shoots)
      if (await this.openJobs.onShoots([shootId]))
        throw new ArkivError('move.busy', { shoot: (await this.shoots.get(shootId)).title });
    await this.inTurn(id, async () => {
      this.unwatch();
      for (const shootId of shoots) {
        const frameIds = (await this.archive.ofShoot(shootId)).map((frame) => frame.id);
        if (frameIds.length > 0) await this.bin.start({ deed: 'forget', shootId, frameIds });
      }
      await this.store.remove(id);
    });
    this.allSoon();
    return { frames: counts.frames };
  }

  /** Looks at a tree now. */
  async again(id: string): Promise<void> {
    await this.store.get(id);
    this.tried.clear();
    this.soon(id, 0);
  }

  /** Throws `adopt.folder` for what is no folder, is adopted already, or is the archive's own. */
  private async where(given: string): Promise<Where> {
    const refuse = (reason: string): never => {
      throw new ArkivError('adopt.folder', { path: given, reason });
    };
    if (!path.isAbsolute(given)) refuse('it is not a full path');
    if ((await this.disk.facts(given))?.kind !== 'folder') refuse('there is no such folder');
    const at = await this.disk.realPath(given);
    for (const volume of await this.volumes.all()) {
      if (!(await this.volumes.isOnline(volume))) continue;
      const root = await this.disk.realPath(volume.root);
      if (!within(at, root)) {
        if (root.startsWith(`${at}/`)) refuse(`the drive “${volume.name}” lies in it`);
        continue;
      }
      if (volume.role === 'edit') refuse(`“${volume.name}” is for editing: what lies there is a copy`);
      const place = at === root ? '' : at.slice(root.length + 1);
      for (const other of await this.store.all())
        if (other.volumeId === volume.id && (within(place, other.path) || within(other.path, place)))
          refuse('it, or a folder in it or above it, is adopted already');
      const there = await this.tree.folder(volume, place);
      if (there?.closed === 'archive') refuse(`it belongs to a shoot on “${volume.name}”`);
      if (there?.closed === 'unreadable') refuse('it may not be read');
      return { volume, root, name: volume.name, path: place };
    }
    const root = await this.rootFor(at);
    return {
      volume: null,
      root,
      name: path.basename(root) || root,
      path: at === root ? '' : at.slice(root.length + 1),
    };
  }

  /** The folder that becomes a drive, so that a folder on it can be adopted: where its disk is mounted, or else the folder above. */
  private async rootFor(at: string): Promise<string> {
    const points = (await this.mounts.now()).map(({ mount }) => mount.point);
    const mount = points.filter((point) => point !== '/' && (at === point || at.startsWith(`${point}/`)));
    const [longest] = mount.sort((a, b) => b.length - a.length);
    return longest ?? path.dirname(at);
  }

  private async openJob(id: string): Promise<boolean> {
    const open = await this.openJobs.ofKind('adopt');
    return open.some(({ params }) => (params as AdoptParams).adoptedId === id);
  }

  private allSoon(): void {
    if (this.stopping) return;
    void this.store.all().then(
      (all) => all.forEach(({ id }) => this.soon(id)),
      (error: unknown) => this.log.error((error as Error).stack),
    );
  }

  private soon(id: string, wait = QUIET): void {
    if (this.stopping) return;
    const before = this.timers.get(id);
    if (before) clearTimeout(before);
    const timer = setTimeout(() => {
      this.timers.delete(id);
      void this.look(id);
    }, wait);
    this.timers.set(id, timer.unref());
  }

  /** Looks at a whole tree, after whatever is done for it now. */
  look(id: string): Promise<void> {
    return this.inTurn(id, () => this.lookAt(id));
  }

  private inTurn(id: string, work: () => Promise<void>): Promise<void> {
    const turn = (this.turns.get(id) ?? Promise.resolve()).then(() => (this.stopping ? undefined : work()));
    this.turns.set(
      id,
      turn.catch((error: unknown) => {
        if (!(error instanceof ArkivError)) this.log.error((error as Error).stack);
      }),
    );
    return turn.catch((error: unknown) => {
      if (error instanceof ArkivError) throw error;
    });
  }

  private async lookAt(id: string): Promise<void> {
    const adopted = await this.store.find(id);
    if (!adopted || (await this.openJob(id))) return;
    const volume = await this.volumes.get(adopted.volumeId);
    if (!(await this.volumes.isOnline(volume))) return;
    // While the archive moves files by itself, they are neither here nor there; before it is whole, all would seem new.
    if (!(await this.openJobs.isWhole()) || (await this.openJobs.thatDoes('moves'))) return;
    this.looking.add(id);
    this.happenings.tell('adopted', {});
    try {
      const top = await this.tree.folder(volume, adopted.path);
      if (top === null || top.closed === 'unreadable') {
        this.troubles.set(id, 'The folder is not there, or may not be read.');
        return;
      }
      this.troubles.delete(id);
      const { items, waits, frames } = await this.differing(adopted, volume);
      if (this.stopping) return;
      if (items.length > 0) await this.begin(adopted, volume, items, frames <= MOST_TOLD);
      else await this.readUnread(adopted, volume);
      if (waits) this.soon(id, SETTLED);
    } finally {
      this.looking.delete(id);
      this.happenings.tell('adopted', {});
    }
  }

  /** Folders in which something is another than it is known. */
  private async differing(
    adopted: Adopted,
    volume: Volume,
  ): Promise<{ items: { folder: string; bytes: number; files: number }[]; waits: boolean; frames: number }> {
    const items: { folder: string; bytes: number; files: number }[] = [];
    const known = new Set(await this.store.knownFolders(volume.id, adopted.id));
    let waits = false;
    let frames = 0;
    for await (const there of this.tree.walk(volume, adopted.path)) {
      if (this.stopping) break;
      await this.watch(adopted, volume, there);
      known.delete(there.path);
      if (there.closed !== null) continue;
      const { settled, isWriting } = this.frames.settled(there);
      waits ||= isWriting;
      // What could not be read is tried when something has changed.
      const stamp = stampOfFolder(settled);
      const key = `${adopted.id} ${there.path}`;
      if (this.tried.get(key) === stamp || !(await this.frames.differs(volume, there))) continue;
      this.tried.set(key, stamp);
      frames += there.files.length;
      items.push(sizeOf(there));
    }
    // Folders that went, with all that was in them.
    for (const folder of known)
      if (
        within(folder, adopted.path) &&
        (await this.tree.folder(volume, folder)) === null &&
        (await this.frames.differs(volume, this.tree.empty(folder)))
      )
        items.push({ folder, bytes: 0, files: 0 });
    return { items, waits, frames };
  }

  private async begin(
    adopted: Adopted,
    volume: Volume,
    items: readonly { folder: string; bytes: number }[],
    tell: boolean,
  ): Promise<void> {
    const id = this.ids.newId();
    const params: AdoptParams = { adoptedId: adopted.id, tell };
    const title = path.posix.basename(adopted.path) || volume.name;
    await this.jobs.begin([
      {
        job: { id, kind: 'adopt', title, shootId: null, params },
        items: items.map(({ folder, bytes }) => ({
          ...{ size: bytes, name: folder || volume.name },
          data: { folder } satisfies AdoptItem,
        })),
      },
    ]);
  }

  /** What is known by its ends alone is read whole, when nothing else is to be done. */
  private async readUnread(adopted: Adopted, volume: Volume): Promise<void> {
    const { unread } = await this.store.counts(adopted.id);
    if (unread > 0) await this.copies.readFirst(volume);
  }

  private async watch(adopted: Adopted, volume: Volume, there: TreeFolder): Promise<void> {
    const place = await this.tree.place(volume, there.path);
    if (place === null || this.watched.has(place) || this.watched.size >= MOST_FOLDERS || this.stopping)
      return;
    const stop = this.disk.watch(place, () => this.soon(adopted.id));
    // A place that cannot be watched (a share, too many of them) is left to the next look.
    if (stop) this.watched.set(place, stop);
  }

  private unwatch(): void {
    for (const stop of this.watched.values()) stop();
    this.watched.clear();
  }
}

const within = (place: string, root: string): boolean =>
  root === '' || place === root || place.startsWith(`${root}/`);

const stampOfFolder = (files: readonly CardFile[]): string =>
  sha256Of(files.map((file) => `${file.path} ${stampOf(file)}`).join('\n'));

const sizeOf = ({ path: folder, files }: TreeFolder) => ({
  folder,
  files: files.length,
  bytes: files.reduce((sum, { size }) => sum + size, 0),
});
