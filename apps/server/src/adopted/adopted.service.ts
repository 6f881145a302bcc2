import path from 'node:path';
import {
  Injectable,
  Logger,
  type BeforeApplicationShutdown,
  type OnApplicationBootstrap,
} from '@nestjs/common';
import { ArkivError, stampOf, type AdoptRule, type CardFile } from '@arkiv/core';
import { BinService } from '../bin/bin.service';
import { Disk } from '../disk/disk';
import { sha256Of } from '../disk/place';
import { WatchedFolders } from '../disk/watchedFolders';
import { isWithin } from '../disk/volumePath';
import { Happenings } from '../events/domainEvents';
import { FrameStore } from '../frames/frameStore';
import { FramesService } from '../frames/frames.service';
import { OVER } from '../jobs/job.entity';
import { OpenJobs } from '../jobs/openJobs.service';
import { MovesService } from '../moves/moves.service';
import { JobsService } from '../jobs/jobs.service';
import { CopiesService } from '../copies/copies.service';
import { ShootsService } from '../shoots/shoots.service';
import { Clock } from '../system/clock';
import { Ids } from '../system/ids';
import { Turns } from '../system/turns';
import type { Volume } from '../volumes/volume.entity';
import { VolumesService } from '../volumes/volumes.service';
import { UnitOfWork } from '../db/unitOfWork';
import type { AdoptItem, AdoptParams } from './adopt.handler';
import type { Adopted } from './adopted.entity';
import { AdoptPlaces } from './adoptPlaces.service';
import { AdoptedFrames, SETTLED } from './adoptedFrames.service';
import { AdoptedStore, type AdoptedCounts } from './adoptedStore';
import { AdoptedTree } from './adoptedTree';

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
/** Jobs after which a tree is looked at. */
const AFTER = ['adopt', 'rebuild', 'move', 'bin', 'derive'];
/** Frames marked as due in one transaction. */
const PART = 500;

export interface AdoptWish {
  /** full path on this machine */
  path: string;
  rule: AdoptRule;
  sidecars: boolean;
}

/** What was begun of taking in an adopted folder. */
export interface TakenIn {
  shoots: number;
  frames: number;
  /** why a shoot could not be taken in, one each */
  left: string[];
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

/** A folder that is to be taken up, and the bytes of its files. */
interface FolderItem {
  folder: string;
  bytes: number;
}

/** Folders whose pictures are in the archive where they lie: adopts them, and sees what changes in them. */
@Injectable()
export class AdoptedService implements OnApplicationBootstrap, BeforeApplicationShutdown {
  private readonly log = new Logger('adopted');
  private readonly turns = new Turns((error) => this.log.error((error as Error).stack));
  private readonly watched: WatchedFolders;
  private readonly troubles = new Map<string, string>();
  private readonly looking = new Set<string>();
  /** by folder, what lay there when it was taken in last */
  private readonly tried = new Map<string, string>();
  private round: NodeJS.Timeout | null = null;

  constructor(
    disk: Disk,
    private readonly work: UnitOfWork,
    private readonly store: AdoptedStore,
    private readonly tree: AdoptedTree,
    private readonly places: AdoptPlaces,
    private readonly frames: AdoptedFrames,
    private readonly archive: FramesService,
    private readonly frameStore: FrameStore,
    private readonly shoots: ShootsService,
    private readonly volumes: VolumesService,
    private readonly jobs: JobsService,
    private readonly openJobs: OpenJobs,
    private readonly copies: CopiesService,
    private readonly bin: BinService,
    private readonly moves: MovesService,
    private readonly clock: Clock,
    private readonly ids: Ids,
    private readonly happenings: Happenings,
  ) {
    this.watched = new WatchedFolders(disk, MOST_FOLDERS);
    happenings.on('volumes', () => {
      this.watched.clear();
      this.allSoon();
    });
    happenings.on('job', ({ kind, state }) => {
      // Files that were moved by the archive itself were let alone meanwhile.
      if (OVER.includes(state as 'done') && AFTER.includes(kind)) this.allSoon();
    });
  }

  onApplicationBootstrap(): void {
    this.allSoon();
    this.round = setInterval(() => this.allSoon(), ROUND);
    this.round.unref();
  }

  async beforeApplicationShutdown(): Promise<void> {
    if (this.round) clearInterval(this.round);
    this.watched.end();
    await this.turns.stop();
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

  /** Adopts a folder: its first frames are there when this returns, the rest follows. */
  async adopt({ path: given, rule, sidecars }: AdoptWish): Promise<AdoptedNow> {
    const where = await this.places.of(given);
    const volume =
      where.volume ?? (await this.volumes.add({ root: where.root, name: where.name, role: 'working' }));
    const adopted: Adopted = {
      ...{ id: this.ids.newId(), volumeId: volume.id, path: where.path, rule, sidecars },
      createdAt: this.clock.now(),
    };
    await this.store.add(adopted);
    await this.turns.take(adopted.id, async () => {
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
    await this.turns.take(id, async () => {
      this.watched.clear();
      for (const shootId of shoots) {
        const frameIds = (await this.archive.ofShoot(shootId)).map((frame) => frame.id);
        if (frameIds.length > 0) await this.bin.start({ deed: 'forget', shootId, frameIds });
      }
      await this.store.remove(id);
    });
    this.allSoon();
    return { frames: counts.frames };
  }

  /**
   * Takes its shoots in, each by a job of its own: into the archive's dated folders. What cannot be taken in now stays adopted, and is
   * said; it can be tried again.
   */
  async takeIn(id: string, naming: { rename: boolean; pattern?: string }): Promise<TakenIn> {
    await this.store.get(id);
    const taken: TakenIn = { shoots: 0, frames: 0, left: [] };
    const claimed = new Set<string>();
    for (const shootId of await this.store.shootsOf(id)) {
      const { title, frames } = await this.shoots.get(shootId);
      if (frames === 0) continue;
      try {
        await this.moves.start({ kind: 'takeIn', shootId, ...naming }, claimed);
        taken.shoots += 1;
        taken.frames += frames;
      } catch (error) {
        if (!(error instanceof ArkivError)) throw error;
        taken.left.push(`“${title}”: ${error.message} ${error.body().next}`);
      }
    }
    return taken;
  }

  /** Looks at a tree now. */
  async again(id: string): Promise<void> {
    await this.store.get(id);
    this.tried.clear();
    this.soon(id, 0);
  }

  private async openJob(id: string): Promise<boolean> {
    const open = await this.openJobs.ofKind('adopt');
    return open.some(({ params }) => (params as AdoptParams).adoptedId === id);
  }

  private allSoon(): void {
    if (this.turns.isStopped) return;
    void this.store.all().then(
      (all) => all.forEach(({ id }) => this.soon(id)),
      (error: unknown) => this.log.error((error as Error).stack),
    );
  }

  private soon(id: string, wait = QUIET): void {
    this.turns.soon(id, wait, async () => void (await this.lookAt(id)));
  }

  /** Looks at a whole tree, after whatever is done for it now; whether it could: not while it is being taken in, nor while its drive is away. */
  async look(id: string): Promise<boolean> {
    let looked = false;
    await this.turns.take(id, async () => void (looked = await this.lookAt(id)));
    return looked;
  }

  private async lookAt(id: string): Promise<boolean> {
    const adopted = await this.store.find(id);
    if (!adopted || (await this.openJob(id))) return false;
    const volume = await this.volumes.get(adopted.volumeId);
    if (!(await this.volumes.isOnline(volume))) return false;
    // While the archive moves files by itself, they are neither here nor there; before it is whole, all would seem new.
    if (!(await this.openJobs.isWhole()) || (await this.openJobs.thatDoes('moves'))) return false;
    this.looking.add(id);
    this.happenings.tell('adopted', {});
    try {
      const place = await this.tree.place(volume, adopted.path);
      if (place !== null && adopted.path !== '') await this.watched.watchFor(place, () => this.soon(id));
      const top = await this.tree.folder(volume, adopted.path);
      if (top === null || top.closed === 'unreadable') {
        this.troubles.set(id, 'The folder is not there, or may not be read.');
        return true;
      }
      this.troubles.delete(id);
      const { items, waits, frames } = await this.differing(adopted, volume);
      if (this.turns.isStopped) return false;
      if (items.length > 0) await this.begin(adopted, volume, items, frames <= MOST_TOLD);
      else await this.readUnread(adopted, volume);
      if (waits) this.soon(id, SETTLED);
      return true;
    } finally {
      this.looking.delete(id);
      this.happenings.tell('adopted', {});
    }
  }

  /** Folders in which something is another than it is known. */
  private async differing(
    adopted: Adopted,
    volume: Volume,
  ): Promise<{ items: FolderItem[]; waits: boolean; frames: number }> {
    const items: FolderItem[] = [];
    const known = new Set(await this.store.knownFolders(volume.id, adopted.id));
    let waits = false;
    let frames = 0;
    // Watched before it is read: what comes in between is seen twice, and not never.
    const watch = (folder: string) => this.watch(adopted, volume, folder);
    for await (const there of this.tree.walk(volume, adopted.path, watch)) {
      if (this.turns.isStopped) break;
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
      const bytes = there.files.reduce((sum, { size }) => sum + size, 0);
      items.push({ folder: there.path, bytes });
    }
    // Folders that went, with all that was in them.
    for (const folder of known)
      if (
        isWithin(folder, adopted.path) &&
        (await this.tree.folder(volume, folder)) === null &&
        (await this.frames.differs(volume, this.tree.empty(folder)))
      )
        items.push({ folder, bytes: 0 });
    return { items, waits, frames };
  }

  private async begin(
    adopted: Adopted,
    volume: Volume,
    items: readonly FolderItem[],
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

  private async watch(adopted: Adopted, volume: Volume, folder: string): Promise<void> {
    const place = await this.tree.place(volume, folder);
    if (place === null || this.turns.isStopped) return;
    // A place that cannot be watched (a share, too many of them) is left to the next look.
    await this.watched.watch(place, () => this.soon(adopted.id));
  }
}

const stampOfFolder = (files: readonly CardFile[]): string =>
  sha256Of(files.map((file) => `${file.path} ${stampOf(file)}`).join('\n'));
