import {
  Injectable,
  Logger,
  type BeforeApplicationShutdown,
  type OnApplicationBootstrap,
} from '@nestjs/common';
import { ArkivError, stampOf } from '@arkiv/core';
import { Reading, UnitOfWork } from '../db/unitOfWork';
import { Disk } from '../disk/disk';
import { WatchedFolders } from '../disk/watchedFolders';
import { Happenings } from '../events/domainEvents';
import { IN_HAND } from '../shoots/shoot.entity';
import { ShootsService } from '../shoots/shoots.service';
import { Clock } from '../system/clock';
import { ReturnHandler } from './return.handler';
import { ReturnStore } from './returnStore';
import { ReturnPlaces, type FoundFile } from './returnPlaces';

/** Milliseconds for which a file must not have changed: programs write a large picture in parts, with pauses under a second. */
const SETTLED = 2000;
/** A program that saves a hundred pictures does it in one go: they are taken in together. */
const QUIET = 500;
/** Milliseconds: a shoot that was touched in the last sixty days may still be with an editor. */
const RECENT = 60 * 24 * 60 * 60 * 1000;
/** Shoots looked at when the server starts, and watched: the rest when they are opened. */
const MOST_SHOOTS = 200;
/** Milliseconds: where nothing can be watched (a share), what came is seen by the next look, or when its shoot is opened. */
const ROUND = 600_000;
const OVER = ['done', 'failed', 'cancelled'];

/** Sees what comes back from editing, in the folders of shoots that are recent or were opened. */
@Injectable()
export class ReturnsWatch implements OnApplicationBootstrap, BeforeApplicationShutdown {
  /** milliseconds for which a file must not have changed; tests, which write theirs whole, wait for less */
  settles = SETTLED;
  private readonly log = new Logger('returns');
  private readonly watched: WatchedFolders;
  private readonly opened = new Set<string>();
  /** files that were not known yet, with what they were like and since when; by shoot, drive and path */
  private readonly pending = new Map<string, { stamp: string; since: number }>();
  private readonly timers = new Map<string, NodeJS.Timeout>();
  private roundTimer: NodeJS.Timeout | null = null;
  private looking: Promise<void> = Promise.resolve();
  private stopping = false;

  constructor(
    disk: Disk,
    private readonly reading: Reading,
    private readonly work: UnitOfWork,
    private readonly store: ReturnStore,
    private readonly places: ReturnPlaces,
    private readonly handler: ReturnHandler,
    private readonly shoots: ShootsService,
    private readonly clock: Clock,
    happenings: Happenings,
  ) {
    this.watched = new WatchedFolders(disk);
    happenings.on('opened', ({ shootId }) => {
      this.opened.add(shootId);
      this.soon(shootId);
    });
    happenings.on('returns', ({ shootId }) => this.opened.has(shootId) && this.soon(shootId));
    happenings.on('volumes', () => {
      this.watched.clear();
      this.allSoon();
    });
    happenings.on('job', ({ kind, state }) => {
      // What came while others were taken in, and to drives that were given copies just now.
      if ((kind === 'return' || kind === 'handoff') && state === 'done') this.allSoon();
      if (kind === 'move' && OVER.includes(state)) this.follow();
    });
  }

  onApplicationBootstrap(): void {
    this.follow();
    this.allSoon();
    this.roundTimer = setInterval(() => this.allSoon(), ROUND);
    this.roundTimer.unref();
  }

  async beforeApplicationShutdown(): Promise<void> {
    this.stopping = true;
    if (this.roundTimer) clearInterval(this.roundTimer);
    for (const timer of this.timers.values()) clearTimeout(timer);
    this.watched.end();
    await this.looking;
  }

  /** What came back goes where its frames went; after a kill between the two, at the next start. */
  private follow(): void {
    this.looking = this.looking
      .then(() => (this.stopping ? undefined : this.work.write((manager) => this.store.follow(manager))))
      .catch((error: unknown) => this.log.error((error as Error).stack));
  }

  /** Looks for edits of a shoot as soon as what is looked at now is done. */
  look(shootId: string): Promise<void> {
    this.looking = this.looking
      .then(() => (this.stopping ? undefined : this.lookAt(shootId)))
      .catch((error: unknown) => {
        // A shoot that was put away, or a drive that has just gone.
        if (!(error instanceof ArkivError)) this.log.error((error as Error).stack);
      });
    return this.looking;
  }

  private soon(shootId: string, wait = QUIET): void {
    if (this.stopping || this.timers.has(shootId)) return;
    const timer = setTimeout(() => {
      this.timers.delete(shootId);
      void this.look(shootId);
    }, wait);
    this.timers.set(shootId, timer.unref());
  }

  private allSoon(): void {
    if (this.stopping || this.timers.has('')) return;
    const timer = setTimeout(() => {
      this.timers.delete('');
      void this.recent().then(
        (ids) => new Set([...ids, ...this.opened]).forEach((id) => this.soon(id, 0)),
        (error: unknown) => this.log.error((error as Error).stack),
      );
    }, QUIET);
    this.timers.set('', timer.unref());
  }

  private async lookAt(shootId: string): Promise<void> {
    const places = await this.places.of(await this.shoots.get(shootId));
    const known = await this.known(shootId);
    const found: FoundFile[] = [];
    for (const place of places) {
      for (const folder of await this.places.watched(place))
        await this.watched.watch(folder, () => this.soon(shootId));
      for (const file of await this.places.files(place)) {
        const copy = known.get(`${file.volume.id}/${file.path}`);
        if (copy !== stampOf(file)) found.push(file);
      }
    }
    const now = this.clock.now();
    const ready: FoundFile[] = [];
    let waits = false;
    for (const file of found) {
      const key = `${shootId}/${file.volume.id}/${file.path}`;
      const stamp = stampOf(file);
      const seen = this.pending.get(key);
      if (seen?.stamp !== stamp) this.pending.set(key, { stamp, since: now });
      if (seen?.stamp === stamp && now - seen.since >= this.settles) ready.push(file);
      else waits = true;
    }
    if (waits) this.soon(shootId, this.settles);
    if (ready.length === 0 || (await this.isUnderWay(shootId))) return;
    // What could not be taken in is tried again when it has changed, or with the next start.
    const fresh = ready.filter((file) => {
      const seen = this.pending.get(`${shootId}/${file.volume.id}/${file.path}`)!;
      const tried = seen.since < 0;
      if (!tried) seen.since = -now;
      return !tried;
    });
    if (fresh.length > 0) await this.handler.start(shootId, fresh);
  }

  /** What lies where by what is written down, as it was when it was seen last. */
  private async known(shootId: string): Promise<Map<string, string>> {
    const rows: { volumeId: string; at: string; size: number; mtime: number | null }[] =
      await this.reading.source.query(
        `SELECT c."volumeId", COALESCE(c.path, a."at") AS at, COALESCE(c.size, a.size) AS size, c.mtime FROM asset_at a
       JOIN copy c ON c."assetId" = a.id WHERE a."shootId" = ? AND a.role = 'edit'`,
        [shootId],
      );
    return new Map(rows.map(({ volumeId, at, size, mtime }) => [`${volumeId}/${at}`, `${size}.${mtime}`]));
  }

  private async isUnderWay(shootId: string): Promise<boolean> {
    const rows: unknown[] = await this.reading.source.query(
      `SELECT 1 FROM job WHERE kind = 'return' AND "shootId" = ? AND state NOT IN ('done', 'failed', 'cancelled') LIMIT 1`,
      [shootId],
    );
    return rows.length > 0;
  }

  private async recent(): Promise<string[]> {
    const rows: { id: string }[] = await this.reading.source.query(
      `SELECT s.id FROM shoot s WHERE s."touchedAt" >= ? AND s."mergedInto" IS NULL AND ${IN_HAND} ORDER BY s."touchedAt" DESC LIMIT ?`,
      [this.clock.now() - RECENT, MOST_SHOOTS],
    );
    return rows.map(({ id }) => id);
  }
}
