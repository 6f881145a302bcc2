import {
  Injectable,
  Logger,
  type BeforeApplicationShutdown,
  type OnApplicationBootstrap,
} from '@nestjs/common';
import type { EntityManager } from 'typeorm';
import { Reading, UnitOfWork } from '../db/unitOfWork';
import { Happenings } from '../events/domainEvents';
import type { Volume } from '../volumes/volume.entity';
import { VolumesService } from '../volumes/volumes.service';
import { TextDue, type OwnTextKind } from './textDue.entity';

/** Writes one text on one drive that is here. Throws where that cannot be done: then it stays due. */
export type WriteText = (volume: Volume, subject: string) => Promise<void>;
type IsReady = () => Promise<boolean>;

/** Milliseconds of quiet before texts are written: a history changes with each key. */
const QUIET = 5000;
/** A drive that is back gets what it lacks as soon as the mounts have settled. */
const PROMPT = 400;
/** Longest wait for quiet, so that hours of culling are not written all at the end. */
const MOST_WAIT = 60_000;
/**
 * Milliseconds after which what a drive that is here refused is tried again, at first and at most: it may have been full for a moment, or
 * stay read-only for weeks. Each further refusal doubles it.
 */
const [AGAIN, AGAIN_AT_MOST] = [60_000, 3_600_000];
/** Texts taken up at once. */
const PART = 100;

/**
 * What is due on which drive, and the one place from which it is written. A drive that was away catches up with all of
 * it when it is back; each drive owes only what it missed.
 */
@Injectable()
export class DueTexts implements OnApplicationBootstrap, BeforeApplicationShutdown {
  private readonly log = new Logger('texts');
  private readonly writers = new Map<OwnTextKind, { write: WriteText; isReady: IsReady }>();
  /** milliseconds after which what was refused is tried again at first */
  again = AGAIN;
  private refusals = 0;
  private timer: NodeJS.Timeout | null = null;
  private againTimer: NodeJS.Timeout | null = null;
  private waitsSince: number | null = null;
  private writing: Promise<void> = Promise.resolve();
  private stopping = false;

  constructor(
    private readonly reading: Reading,
    private readonly work: UnitOfWork,
    private readonly volumes: VolumesService,
    happenings: Happenings,
  ) {
    happenings.on('volumes', () => this.soon(PROMPT));
  }

  /** `isReady`: whether texts of the kind may be written now; where not, they stay due. */
  register(kind: OwnTextKind, write: WriteText, isReady: IsReady = () => Promise.resolve(true)): void {
    this.writers.set(kind, { write, isReady });
  }

  onApplicationBootstrap(): void {
    this.soon();
  }

  async beforeApplicationShutdown(): Promise<void> {
    this.stopping = true;
    for (const timer of [this.timer, this.againTimer]) if (timer) clearTimeout(timer);
    await this.flush();
  }

  /** A drive lacks a text from now on. Within the caller's transaction. */
  async owe(
    manager: EntityManager,
    volumeIds: readonly string[],
    kind: OwnTextKind,
    subject: string,
  ): Promise<void> {
    await manager.query(
      `INSERT INTO text_due ("volumeId", kind, subject, times) SELECT value, ?, ?, 1 FROM json_each(?) WHERE 1
       ON CONFLICT ("volumeId", kind, subject) DO UPDATE SET times = times + 1`,
      [kind, subject, JSON.stringify(volumeIds)],
    );
  }

  /** A shoot's text is due on every drive that holds anything of it. */
  async oweOfShoot(manager: EntityManager, kind: 'shoot' | 'history', shootId: string): Promise<void> {
    const rows: { id: string }[] = await manager.query(
      `SELECT "volumeId" AS id FROM shoot_volume WHERE "shootId" = ?`,
      [shootId],
    );
    await this.owe(
      manager,
      rows.map(({ id }) => id),
      kind,
      shootId,
    );
    this.soon();
  }

  async settle(manager: EntityManager, volumeId: string, kind: OwnTextKind, subject: string): Promise<void> {
    await manager.delete(TextDue, { volumeId, kind, subject });
  }

  /** How many texts of a kind each drive lacks. */
  async counts(kind: OwnTextKind): Promise<Map<string, number>> {
    const rows: { id: string; n: number }[] = await this.reading.source.query(
      `SELECT "volumeId" AS id, COUNT(*) AS n FROM text_due WHERE kind = ? GROUP BY "volumeId"`,
      [kind],
    );
    return new Map(rows.map(({ id, n }) => [id, n]));
  }

  /** Writes after `quiet` milliseconds in which nothing else asked for it. */
  soon(quiet = QUIET): void {
    if (this.stopping) return;
    const now = performance.now();
    this.waitsSince ??= now;
    if (this.timer) clearTimeout(this.timer);
    const wait = Math.max(0, Math.min(quiet, this.waitsSince + MOST_WAIT - now));
    this.timer = setTimeout(() => void this.flush(), wait);
    this.timer.unref();
  }

  /** Writes everything that is due now on drives that are here, or one kind of it. What cannot be written stays due. */
  flush(only: OwnTextKind | null = null): Promise<void> {
    if (only === null) this.waitsSince = null;
    this.writing = this.writing
      .then(() => this.writeAll(only))
      .then((refused) => this.tryAgain(refused, only))
      .catch((error: unknown) => this.log.error((error as Error).stack));
    return this.writing;
  }

  /** Later, where something was refused; nobody else comes back to it before there is more to write. */
  private tryAgain(refused: number, only: OwnTextKind | null): void {
    if (refused === 0 && only === null) {
      this.refusals = 0;
      if (this.againTimer) clearTimeout(this.againTimer);
      this.againTimer = null;
    }
    if (refused === 0 || this.stopping || this.againTimer) return;
    const wait = Math.min(AGAIN_AT_MOST, this.again * 2 ** this.refusals);
    this.refusals += 1;
    this.againTimer = setTimeout(() => {
      this.againTimer = null;
      void this.flush();
    }, wait).unref();
  }

  /** How many were refused. */
  private async writeAll(only: OwnTextKind | null): Promise<number> {
    let refused = 0;
    for (const volume of await this.volumes.all())
      for (const [kind, { write, isReady }] of this.writers) {
        if (only !== null && kind !== only) continue;
        // Whether it is here is asked only where it lacks anything.
        let here: boolean | null = null;
        for (let after = ''; ;) {
          const due = await this.page(volume.id, kind, after);
          // What another archive left on it is taken in first.
          here ??=
            due.length > 0 &&
            volume.heldBy === null &&
            (await isReady()) &&
            (await this.volumes.isOnline(volume));
          if (due.length === 0 || !here) break;
          for (const row of due) if (!(await this.tryOne(volume, row, write))) refused += 1;
          after = due.at(-1)!.subject;
        }
      }
    return refused;
  }

  private page(volumeId: string, kind: OwnTextKind, after: string): Promise<TextDue[]> {
    return this.reading.manager
      .createQueryBuilder(TextDue, 't')
      .where('t."volumeId" = :volumeId AND t.kind = :kind AND t.subject > :after', { volumeId, kind, after })
      .orderBy('t.subject', 'ASC')
      .take(PART)
      .getMany();
  }

  /** One text's failure is its own: the others are written all the same. */
  private async tryOne(
    volume: Volume,
    { kind, subject, times }: TextDue,
    write: WriteText,
  ): Promise<boolean> {
    try {
      await write(volume, subject);
      await this.work.write((manager) =>
        manager.delete(TextDue, { volumeId: volume.id, kind, subject, times }),
      );
      return true;
    } catch (error) {
      this.log.warn(`a ${kind} text on “${volume.name}” could not be written: ${(error as Error).message}`);
      return false;
    }
  }
}
