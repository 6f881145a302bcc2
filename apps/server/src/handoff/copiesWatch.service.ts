import path from 'node:path';
import {
  Injectable,
  Logger,
  type BeforeApplicationShutdown,
  type OnApplicationBootstrap,
} from '@nestjs/common';
import { ArkivError } from '@arkiv/core';
import { LongReading } from '../db/longReading';
import { Reading } from '../db/unitOfWork';
import { Disk } from '../disk/disk';
import { WatchedFolders } from '../disk/watchedFolders';
import { Happenings } from '../events/domainEvents';
import { OutLedger } from '../ledger/outLedger';
import { Clock } from '../system/clock';
import { VolumesService } from '../volumes/volumes.service';
import { WithEditing } from './withEditing';

/** Milliseconds: a shoot that was touched in the last sixty days may still be with an editor. */
const RECENT = 60 * 24 * 60 * 60 * 1000;
/** Shoots looked at when the server starts, and watched: the rest when they are opened. */
const MOST_SHOOTS = 200;
/** A program that saves a hundred sidecars does it in one go: they are taken in together. */
const QUIET = 500;
/** Milliseconds: where nothing can be watched (a share), what was written is seen by the next look, or when its shoot is opened. */
const ROUND = 600_000;
/** Jobs that write copies themselves. */
const OWN = ['handoff', 'take-back'];
const OVER = ['done', 'failed', 'cancelled'];

/** What editors wrote into the copies, and was taken in. */
export interface HeardFromEditing {
  frames: number;
  /** when last; milliseconds since 1970 UTC; null: never */
  at: number | null;
  /** why some copies cannot be read */
  problems: string[];
}

/** Sees what editors write into the copies that lie with them, in shoots that are recent or were opened, and has it taken in. */
@Injectable()
export class CopiesWatch implements OnApplicationBootstrap, BeforeApplicationShutdown {
  private readonly log = new Logger('copies');
  private readonly watched: WatchedFolders;
  private readonly opened = new Set<string>();
  /** shoots that were looked at since all their folders are watched: what is written there says so */
  private readonly seen = new Set<string>();
  /** names that changed, by shoot, until it is quiet; null: any may have */
  private readonly changed = new Map<string, Set<string> | null>();
  /** why a copy cannot be read, by shoot and file */
  private readonly problems = new Map<string, Map<string, string>>();
  private timer: NodeJS.Timeout | null = null;
  private roundTimer: NodeJS.Timeout | null = null;
  private looking: Promise<void> = Promise.resolve();
  private stopping = false;

  constructor(
    disk: Disk,
    private readonly reading: Reading,
    private readonly long: LongReading,
    private readonly ledger: OutLedger,
    private readonly editing: WithEditing,
    private readonly volumes: VolumesService,
    private readonly clock: Clock,
    private readonly happenings: Happenings,
  ) {
    this.watched = new WatchedFolders(disk);
    happenings.on('opened', ({ shootId }) => {
      this.opened.add(shootId);
      if (!this.seen.has(shootId)) this.soon(shootId);
    });
    happenings.on('volumes', () => {
      this.watched.clear();
      this.seen.clear();
      this.allSoon();
    });
    happenings.on('job', ({ kind, state }) => {
      if (!OWN.includes(kind) || !OVER.includes(state)) return;
      // There may be folders that nobody watches yet.
      this.seen.clear();
      this.allSoon();
    });
  }

  onApplicationBootstrap(): void {
    this.allSoon();
    this.roundTimer = setInterval(() => this.allSoon(), ROUND);
    this.roundTimer.unref();
  }

  async beforeApplicationShutdown(): Promise<void> {
    this.stopping = true;
    for (const timer of [this.timer, this.roundTimer]) if (timer) clearTimeout(timer);
    this.watched.end();
    await this.looking;
  }

  async heard(shootId: string): Promise<HeardFromEditing> {
    const [row] = await this.long.rows<{ frames: number; at: number | null }>(
      `SELECT COUNT(DISTINCT subject) AS frames, MAX(at) AS at FROM operation WHERE "shootId" = ? AND "window" = 'copies'`,
      [shootId],
    );
    return { ...row!, problems: [...(this.problems.get(shootId)?.values() ?? [])] };
  }

  /** Looks at the copies of a shoot as soon as what is looked at now is done; `names`: at files of these names alone. */
  look(shootId: string, names: ReadonlySet<string> | null = null): Promise<void> {
    this.looking = this.looking
      .then(() => (this.stopping ? undefined : this.lookAt(shootId, names)))
      .catch((error: unknown) => {
        // A shoot that was put away, or a drive that has just gone.
        if (!(error instanceof ArkivError)) this.log.error((error as Error).stack);
      });
    return this.looking;
  }

  private async lookAt(shootId: string, names: ReadonlySet<string> | null): Promise<void> {
    // What a job of ours is about to write there is no editor's; it is looked at when the job is over.
    if (await this.isUnderWay(shootId)) return;
    let all = true;
    for (const volumeId of await this.ledger.handedOn(shootId)) {
      const volume = await this.volumes.get(volumeId);
      // Of one that another archive had, what was decided there says more than its sidecars do.
      if (volume.heldBy !== null || !(await this.volumes.isOnline(volume))) continue;
      for (const folder of await this.ledger.handedFolders(shootId, volumeId))
        all =
          (await this.watched.watch(await this.volumes.resolve(volume, folder), (name) =>
            this.soon(shootId, name),
          )) && all;
      const { problems } = await this.editing.hear(shootId, volumeId, names);
      this.note(shootId, volumeId, names, problems);
    }
    if (names === null && all) this.seen.add(shootId);
  }

  /** Which copies cannot be read by now, of those that were looked at. */
  private note(
    shootId: string,
    volumeId: string,
    names: ReadonlySet<string> | null,
    problems: readonly { path: string; message: string }[],
  ): void {
    const known = this.problems.get(shootId) ?? new Map<string, string>();
    const before = [...known.values()].join('\n');
    for (const key of [...known.keys()])
      if (key.startsWith(`${volumeId}/`) && (names === null || names.has(path.posix.basename(key))))
        known.delete(key);
    for (const { path: at, message } of problems) known.set(`${volumeId}/${at}`, message);
    this.problems.set(shootId, known);
    if ([...known.values()].join('\n') !== before) this.happenings.tell('heard', { shootId });
  }

  /** `name`: of the file that has changed; null: any may have. */
  private soon(shootId: string, name: string | null = null): void {
    if (this.stopping) return;
    const names = this.changed.get(shootId);
    if (name === null) this.changed.set(shootId, null);
    else if (names !== null) this.changed.set(shootId, (names ?? new Set()).add(name));
    this.timer ??= setTimeout(() => {
      this.timer = null;
      const changed = [...this.changed];
      this.changed.clear();
      for (const [id, its] of changed) void this.look(id, its);
    }, QUIET).unref();
  }

  /** All of which something may have been written unseen. */
  private allSoon(): void {
    if (this.stopping) return;
    void this.recent().then(
      (ids) => new Set([...ids, ...this.opened]).forEach((id) => !this.seen.has(id) && this.soon(id)),
      (error: unknown) => !this.stopping && this.log.error((error as Error).stack),
    );
  }

  private async isUnderWay(shootId: string): Promise<boolean> {
    const rows: unknown[] = await this.reading.source.query(
      `SELECT 1 FROM job WHERE kind IN ('${OWN.join(`', '`)}') AND "shootId" = ? AND state IN ('queued', 'running') LIMIT 1`,
      [shootId],
    );
    return rows.length > 0;
  }

  /** Shoots of which something lies with editing, and that somebody may be at work on. */
  private async recent(): Promise<string[]> {
    const rows: { id: string }[] = await this.reading.source.query(
      `SELECT s.id FROM shoot s WHERE s."touchedAt" >= ? AND s."mergedInto" IS NULL
         AND EXISTS (SELECT 1 FROM handed h WHERE h."shootId" = s.id) ORDER BY s."touchedAt" DESC LIMIT ?`,
      [this.clock.now() - RECENT, MOST_SHOOTS],
    );
    return rows.map(({ id }) => id);
  }
}
