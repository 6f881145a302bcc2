import path from 'node:path';
import {
  Injectable,
  Logger,
  type BeforeApplicationShutdown,
  type OnApplicationBootstrap,
} from '@nestjs/common';
import { ArkivError, besideFile, sidecarOf } from '@arkiv/core';
import { Reading, UnitOfWork } from '../db/unitOfWork';
import { Disk, diskErrorCode } from '../disk/disk';
import { MOST_WATCHED, WatchedFolders } from '../disk/watchedFolders';
import { Happenings } from '../events/domainEvents';
import { Frame } from '../frames/frame.entity';
import { FrameStore } from '../frames/frameStore';
import { OwnTextsService } from '../frames/ownTexts.service';
import { IN_HAND } from '../shoots/shoot.entity';
import { Clock } from '../system/clock';
import type { Volume } from '../volumes/volume.entity';
import { VolumesService } from '../volumes/volumes.service';
import { OtherSidecars } from './otherSidecars.service';

/** Milliseconds: a shoot that was taken in or marked in the last thirty days is still in somebody's hands. */
const RECENT = 30 * 24 * 60 * 60 * 1000;
/** A program that saves a hundred sidecars does it in one go: they are looked at together. */
const QUIET = 500;
/** One shoot a minute: an archive of a thousand shoots is gone through in a day, at the cost of a few file facts a second. */
const ROUND = 60 * 1000;
/** Sidecars whose time and size are remembered; above, all are forgotten and read once more. */
const MOST_KNOWN = 200_000;

/** Frames made due in one transaction: some milliseconds of the writer. */
const PART = 500;

const OVER = ['done', 'failed', 'cancelled'];

/** Frames taken up at once. */
const LOOKED_AT = 200;

/** What is needed of a frame to find its sidecar. */
interface SidecarOf {
  key: number;
  id: string;
  name: string;
  place: string;
}

/** A folder with originals of one shoot, on one drive. */
interface Place {
  volumeId: string;
  shootId: string;
  place: string;
}

/**
 * Sees what other programs write into sidecars: at once in the shoots that are on a screen or recent, whose folders are
 * watched; in all others when they are opened, and by a slow round. What it finds is merged by the sidecars' own rules.
 */
@Injectable()
export class SidecarWatch implements OnApplicationBootstrap, BeforeApplicationShutdown {
  private readonly log = new Logger('sidecars');
  private readonly watched: WatchedFolders;
  /** time and size of a sidecar when it was last looked at, by file */
  private readonly known = new Map<string, string>();
  /** shoots that were opened since the start */
  private readonly opened = new Set<string>();
  /** names that changed, by folder, until it is quiet */
  private readonly changed = new Map<string, { at: Place; names: Set<string> }>();
  private roundTimer: NodeJS.Timeout | null = null;
  private changeTimer: NodeJS.Timeout | null = null;
  private watchTimer: NodeJS.Timeout | null = null;
  private settling: Promise<void> = Promise.resolve();
  private lastInRound = '';
  private stopping = false;

  constructor(
    private readonly disk: Disk,
    private readonly reading: Reading,
    private readonly work: UnitOfWork,
    private readonly texts: OwnTextsService,
    private readonly volumes: VolumesService,
    private readonly store: FrameStore,
    private readonly others: OtherSidecars,
    private readonly clock: Clock,
    happenings: Happenings,
  ) {
    this.watched = new WatchedFolders(disk);
    happenings.on('opened', ({ shootId }) => {
      const isNew = !this.opened.has(shootId);
      this.opened.add(shootId);
      this.inTurn(async () => {
        // What is written while it is looked at is seen by the watch.
        if (isNew) await this.watchAll();
        await this.look(shootId);
      });
    });
    // A job that is over may have brought frames, or moved them.
    happenings.on('job', ({ state }) => OVER.includes(state) && this.watchSoon());
    happenings.on('volumes', () => this.watchSoon());
    happenings.on('shoots', () => this.watchSoon());
  }

  onApplicationBootstrap(): void {
    this.inTurn(async () => {
      await this.watchAll();
      for (const shootId of await this.recent()) await this.look(shootId);
    });
    this.roundTimer = setInterval(() => this.inTurn(() => this.round()), ROUND);
    this.roundTimer.unref();
  }

  async beforeApplicationShutdown(): Promise<void> {
    this.stopping = true;
    if (this.roundTimer) clearInterval(this.roundTimer);
    for (const timer of [this.changeTimer, this.watchTimer]) if (timer) clearTimeout(timer);
    this.watched.end();
    await this.settling;
  }

  /** Looks at all sidecars of a shoot on the drives that are here, and has those merged that others changed. */
  async look(shootId: string): Promise<void> {
    const changed: string[] = [];
    for (const { volumeId, place } of await this.places([shootId])) {
      const volume = await this.volumes.get(volumeId);
      for (let after = 0; ;) {
        const frames: SidecarOf[] = await this.reading.source.query(
          `SELECT key, id, name, place FROM frame_here WHERE "shootId" = ? AND place = ? AND key > ? ORDER BY key LIMIT ?`,
          [shootId, place, after, LOOKED_AT],
        );
        for (const frame of frames) {
          if (this.stopping) return;
          if (await this.isChanged(volume, frame)) changed.push(frame.id);
        }
        if (frames.length < LOOKED_AT) break;
        after = frames.at(-1)!.key;
      }
      await this.lookBeside(volume, { shootId, place });
    }
    await this.merge(changed);
  }

  /** Looks at one more shoot of those that nobody has in hand, in the order of their ids and then from the start. */
  async round(): Promise<void> {
    const next = async (after: string): Promise<string | undefined> => {
      const rows: { id: string }[] = await this.reading.source.query(
        'SELECT id FROM shoot WHERE id > ? AND "mergedInto" IS NULL ORDER BY id LIMIT 1',
        [after],
      );
      return rows[0]?.id;
    };
    const shootId = (await next(this.lastInRound)) ?? (await next(''));
    if (shootId === undefined) return;
    this.lastInRound = shootId;
    await this.look(shootId);
  }

  /** Returns when everything that was seen so far has been looked at. */
  async settled(): Promise<void> {
    await this.settling;
  }

  private async isChanged(volume: Volume, frame: Pick<SidecarOf, 'name' | 'place'>): Promise<boolean> {
    const relative = sidecarOf(frame.place, frame.name);
    const file = await this.volumes.resolve(volume, relative);
    try {
      const facts = await this.disk.facts(file);
      if (facts?.kind !== 'file') return false;
      const stamp = `${facts.mtimeMillis}.${facts.size}.${facts.inode}`;
      if (this.known.get(file) === stamp) return false;
      const { changedOutside } = await this.texts.read(volume, relative);
      if (this.known.size >= MOST_KNOWN) this.known.clear();
      this.known.set(file, stamp);
      return changedOutside;
    } catch (error) {
      // One that cannot be read is named when it is written; a drive that has just gone is looked at when it is back.
      if (diskErrorCode(error) === null && !(error instanceof ArkivError)) throw error;
      return error instanceof ArkivError && error.code === 'sidecar.malformed';
    }
  }

  /** Makes frames due: writing a sidecar merges first what another program has put there. */
  private async merge(frameIds: readonly string[]): Promise<void> {
    if (frameIds.length === 0) return;
    await this.work.inParts([...new Set(frameIds)], PART, (manager, part) => this.store.due(manager, part));
  }

  /** Brings the watched folders in line with the shoots that are recent or were opened, and the drives that are here. */
  private async watchAll(): Promise<void> {
    const shootIds = new Set([...this.opened, ...(await this.recent())]);
    const wanted = new Map<string, Place>();
    for (const at of await this.places([...shootIds])) {
      if (wanted.size >= MOST_WATCHED) break;
      const volume = await this.volumes.get(at.volumeId);
      wanted.set(await this.volumes.resolve(volume, at.place), at);
    }
    this.watched.keep(wanted);
    // A place that cannot be watched is left to opening and to the slow round.
    for (const [folder, at] of wanted)
      await this.watched.watch(folder, (name) => this.noticed(folder, at, name));
  }

  /** A name in a watched folder; null: the system does not say which. */
  private noticed(folder: string, at: Place, name: string | null): void {
    if (name !== null && !name.toLowerCase().endsWith('.xmp')) return;
    const entry = this.changed.get(folder) ?? { at, names: new Set<string>() };
    entry.names.add(name ?? '');
    this.changed.set(folder, entry);
    if (this.changeTimer) return;
    this.changeTimer = setTimeout(() => {
      this.changeTimer = null;
      const found = [...this.changed.values()];
      this.changed.clear();
      this.inTurn(async () => {
        for (const { at: where, names } of found) await this.lookAtNames(where, names);
      });
    }, QUIET);
  }

  private async lookAtNames({ volumeId, shootId, place }: Place, names: ReadonlySet<string>): Promise<void> {
    if (names.has('')) return this.look(shootId);
    const volume = await this.volumes.get(volumeId);
    if (!(await this.volumes.isOnline(volume))) return;
    const beside = [...names].filter((name) => besideFile(name) !== null);
    await this.lookBeside(volume, { shootId, place }, beside);
    const changed: string[] = [];
    for (const name of names) {
      const frame = await this.reading.manager.findOneBy(Frame, {
        ...{ shootId, place, state: 'here' },
        name: path.posix.parse(name).name,
      });
      if (frame && (await this.isChanged(volume, frame))) changed.push(frame.id);
    }
    await this.merge(changed);
  }

  /** What other programs say there in sidecars of their own. */
  private lookBeside(
    volume: Volume,
    { shootId, place }: Pick<Place, 'shootId' | 'place'>,
    names: readonly string[] | null = null,
  ): Promise<void> {
    return this.others.look({ volume, place, frames: () => this.others.framesIn(shootId, place) }, names);
  }

  private async recent(): Promise<string[]> {
    const since = this.clock.now() - RECENT;
    const rows: { id: string }[] = await this.reading.source.query(
      `SELECT s.id FROM shoot s WHERE s."touchedAt" >= ? AND s."mergedInto" IS NULL AND ${IN_HAND} ORDER BY s.id DESC`,
      [since],
    );
    return rows.map(({ id }) => id);
  }

  /** Folders of shoots on the drives that are here and hold anything of them. */
  private async places(shootIds: readonly string[]): Promise<Place[]> {
    const held: { shootId: string; volumeId: string }[] = await this.reading.source.query(
      `SELECT "shootId", "volumeId" FROM shoot_volume WHERE "shootId" IN (SELECT value FROM json_each(?))`,
      [JSON.stringify(shootIds)],
    );
    const here = new Set<string>();
    for (const volumeId of new Set(held.map((h) => h.volumeId))) {
      const volume = await this.volumes.get(volumeId);
      // Of one that another archive had, what was decided there says more than its sidecars do.
      if (volume.heldBy === null && (await this.volumes.isOnline(volume))) here.add(volumeId);
    }
    const found: Place[] = [];
    for (const shootId of shootIds) {
      const on = held.filter((h) => h.shootId === shootId && here.has(h.volumeId));
      if (on.length === 0) continue;
      const folders: { place: string }[] = await this.reading.source.query(
        `SELECT DISTINCT place FROM frame_here WHERE "shootId" = ?`,
        [shootId],
      );
      for (const { volumeId } of on)
        for (const { place } of folders) found.push({ shootId, place, volumeId });
    }
    return found;
  }

  private watchSoon(): void {
    if (this.stopping || this.watchTimer) return;
    this.watchTimer = setTimeout(() => {
      this.watchTimer = null;
      this.inTurn(() => this.watchAll());
    }, QUIET);
  }

  /** One look after the other: a drive is not asked for two things at once. */
  private inTurn(work: () => Promise<void>): void {
    if (this.stopping) return;
    this.settling = this.settling
      .then(() => (this.stopping ? undefined : work()))
      .catch((error: unknown) =>
        this.log.warn(`sidecars could not be looked at: ${(error as Error).message}`),
      );
  }
}
