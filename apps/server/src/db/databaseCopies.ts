import path from 'node:path';
import { Injectable, Logger, type OnApplicationBootstrap, type OnApplicationShutdown } from '@nestjs/common';
import { pool } from 'workerpool';
import { ArkivConfig } from '../config/config';
import { Disk, diskErrorCode } from '../disk/disk';
import { discard, settle } from '../disk/place';
import { Clock } from '../system/clock';
import { databaseFile } from './sources';

/** A week of evenings: a mistake that is noticed later than that is mended from what drives hold. */
const KEPT = 7;
/** Milliseconds between looks whether a new day has begun. */
const LOOK = 60 * 60 * 1000;
const NAME = /^archive-(\d{4}-\d\d-\d\d)\.sqlite$/;

/** One copy of the database a day, each whole and read through before it gets its name. */
@Injectable()
export class DatabaseCopies implements OnApplicationBootstrap, OnApplicationShutdown {
  private readonly log = new Logger('database');
  private timer: NodeJS.Timeout | null = null;
  private copying: Promise<void> | null = null;

  constructor(
    private readonly config: ArkivConfig,
    private readonly disk: Disk,
    private readonly clock: Clock,
  ) {}

  onApplicationBootstrap(): void {
    void this.copyIfDue();
    this.timer = setInterval(() => void this.copyIfDue(), LOOK);
    this.timer.unref();
  }

  async onApplicationShutdown(): Promise<void> {
    if (this.timer) clearInterval(this.timer);
    await this.copying;
  }

  /** Copies the database where today's copy is not there yet; a failure is said in the log and tried again later. */
  copyIfDue(): Promise<void> {
    this.copying ??= this.copy()
      .catch((error: unknown) =>
        this.log.warn(`the database could not be copied: ${(error as Error).message}. It is tried again.`),
      )
      .finally(() => (this.copying = null));
    return this.copying;
  }

  /** The copies that are there, oldest first, as days YYYY-MM-DD. */
  async days(): Promise<string[]> {
    try {
      const names = (await this.disk.names(this.folder)).map(String);
      return names.flatMap((name) => NAME.exec(name)?.[1] ?? []).sort();
    } catch (error) {
      if (diskErrorCode(error) === 'ENOENT') return [];
      throw error;
    }
  }

  private async copy(): Promise<void> {
    const today = new Date(this.clock.now()).toISOString().slice(0, 10);
    if ((await this.days()).includes(today)) return;
    await this.disk.makeFolders(this.folder);
    const final = this.fileOf(today);
    const temporary = `${final}.part`;
    await discard(this.disk, temporary);
    const thread = pool(require.resolve('@arkiv/server/dist/db/databaseCopy.worker.js'), {
      workerType: 'thread',
      maxWorkers: 1,
    });
    try {
      await thread.exec('copy', [databaseFile(this.config.dataDir), temporary]);
    } finally {
      await thread.terminate();
    }
    await settle(this.disk, temporary, final);
    // Only what is older than the newest goes, and only now that the newest is whole.
    for (const day of (await this.days()).slice(0, -KEPT)) await discard(this.disk, this.fileOf(day));
  }

  private get folder(): string {
    return path.join(this.config.dataDir, 'database-copies');
  }

  private fileOf(day: string): string {
    return path.join(this.folder, `archive-${day}.sqlite`);
  }
}
