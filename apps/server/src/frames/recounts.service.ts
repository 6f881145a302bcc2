import { Injectable, Logger, type OnApplicationBootstrap } from '@nestjs/common';
import { Reading, UnitOfWork } from '../db/unitOfWork';
import { Happenings } from '../events/domainEvents';
import { Volume } from '../volumes/volume.entity';
import { DEVICES } from '../volumes/volumes.service';
import { CopyStore } from './copyStore';
import { ShootCounts } from './shootCounts';

const KEPT = `frames || ' ' || keepers || ' ' || rejects || ' ' || files || ' ' || "missingCopies"`;

/** Files judged in one transaction: some milliseconds of the writer. */
const PART = 200;
/** A shoot that changes each time it is counted is counted in the writer's own turn. */
const TRIES = 3;

/**
 * Brings kept numbers in step when what they are counted by has changed: the studio's rules, how many copies it asks
 * for, or which volumes share a device. Goes in small parts; what a stop cut off is finished at the next start.
 */
@Injectable()
export class Recounts implements OnApplicationBootstrap {
  private readonly log = new Logger('counts');
  private under: Promise<void> = Promise.resolve();
  private stopped = false;

  constructor(
    private readonly reading: Reading,
    private readonly work: UnitOfWork,
    private readonly counts: ShootCounts,
    private readonly copyStore: CopyStore,
    private readonly happenings: Happenings,
  ) {
    happenings.on('settings', () => this.soon());
    happenings.on('uncounted', () => this.soon());
    happenings.on('volumes', () => this.soon());
  }

  onApplicationBootstrap(): void {
    this.soon();
  }

  async beforeApplicationShutdown(): Promise<void> {
    this.stopped = true;
    await this.under;
  }

  /** Resolves when everything is counted that was to be counted by now. */
  settled(): Promise<void> {
    return this.under;
  }

  /** Every kept number that is not what its rows say, in words; none when all are true. For checks. */
  async differences(): Promise<string[]> {
    const found: string[] = [];
    const shoots: { id: string; kept: string }[] = await this.reading.source.query(
      `SELECT id, ${KEPT} AS kept FROM shoot`,
    );
    for (const { id, kept } of shoots) {
      const { frames, keepers, rejects, files, missingCopies } = await this.counts.counted(
        this.reading.manager,
        id,
      );
      const counted = [frames, keepers, rejects, files, missingCopies].join(' ');
      if (counted !== kept) found.push(`shoot ${id}: kept ${kept}, counted ${counted}`);
    }
    const volumes: { id: string; kept: string; counted: string }[] = await this.reading.source.query(
      `SELECT v.id, v.files || ' ' || v.bytes || ' ' || v."onlyHere" || ' ' || v.damaged AS kept,
         COUNT(a.id) || ' ' || COALESCE(SUM(a.size), 0) || ' ' || COALESCE(SUM(a.devices <= 1), 0) || ' ' ||
           (SELECT COUNT(*) FROM damage d WHERE d."volumeId" = v.id) AS counted
       FROM volume v LEFT JOIN copy c ON c."volumeId" = v.id LEFT JOIN asset a ON a.id = c."assetId" GROUP BY v.id`,
    );
    for (const { id, kept, counted } of volumes)
      if (kept !== counted) found.push(`volume ${id}: kept ${kept}, counted ${counted}`);
    const assets: { id: string }[] = await this.reading.source.query(
      `SELECT a.id FROM asset a WHERE a.devices <> (SELECT ${DEVICES} FROM copy c
         JOIN volume v ON v.id = c."volumeId" AND v.role <> 'edit'
         WHERE c."assetId" = a.id AND c."verifiedAt" IS NOT NULL) LIMIT 20`,
    );
    found.push(...assets.map(({ id }) => `file ${id}: on another number of devices`));
    const shown: { id: string }[] = await this.reading.source.query(
      `SELECT f.id FROM frame f WHERE f."shownBy" IS NOT NULL AND f.state IN ('arriving', 'here')
         AND NOT EXISTS (SELECT 1 FROM asset a WHERE a.id = f."shownBy" AND a."frameId" = f.id) LIMIT 20`,
    );
    found.push(...shown.map(({ id }) => `frame ${id}: shown by a file that is not its own`));
    const loose: { table: string; parent: string }[] =
      await this.reading.source.query('PRAGMA foreign_key_check');
    found.push(
      ...loose.slice(0, 20).map(({ table, parent }) => `${table}: a row whose ${parent} is not there`),
    );
    return found;
  }

  private soon(): void {
    this.under = this.under
      .then(() => this.volumes())
      .then(() => this.shoots())
      .catch((error: unknown) => this.log.error((error as Error).stack));
  }

  /** Judges the files of volumes whose device or role is another than they were counted by. */
  private async volumes(): Promise<void> {
    const all = await this.reading.manager.find(Volume);
    for (const { id, device, role, countedAs } of all) {
      const now = `${device} ${role}`;
      if (countedAs === now) continue;
      for (let after = ''; !this.stopped;) {
        const rows: { id: string }[] = await this.reading.source.query(
          `SELECT "assetId" AS id FROM copy WHERE "volumeId" = ? AND "assetId" > ? ORDER BY "assetId" LIMIT ?`,
          [id, after, PART],
        );
        if (rows.length === 0) break;
        after = rows.at(-1)!.id;
        await this.work.write((manager) =>
          this.copyStore.judge(
            manager,
            rows.map((row) => row.id),
          ),
        );
      }
      if (this.stopped) return;
      await this.work.write(async (manager) => {
        await manager.query(`UPDATE volume SET "countedAs" = ? WHERE id = ? AND device = ? AND role = ?`, [
          ...[now, id, device, role],
        ]);
        this.happenings.after(manager, 'shoots', { shootId: null });
      });
    }
  }

  private async shoots(): Promise<void> {
    let counted = 0;
    while (!this.stopped) {
      const { text } = await this.counts.basis();
      const [next]: { id: string }[] = await this.reading.source.query(
        `SELECT id FROM shoot WHERE "countedBy" <> ? ORDER BY date DESC, id LIMIT 1`,
        [text],
      );
      if (!next) break;
      await this.shoot(next.id);
      counted += 1;
    }
    if (counted > 0) this.happenings.tell('shoots', { shootId: null });
  }

  /** Counts beside the writer, and writes it down where nothing has changed meanwhile. */
  private async shoot(id: string): Promise<void> {
    const state = `revision || ' ' || ${KEPT}`;
    for (let tries = 1; ; tries++) {
      const alone = tries === TRIES;
      const { text } = await this.counts.basis();
      const [before]: { state: string }[] = await this.reading.source.query(
        `SELECT ${state} AS state FROM shoot WHERE id = ?`,
        [id],
      );
      if (!before) return;
      const seen = alone ? null : await this.counts.counted(this.reading.manager, id);
      const done = await this.work.write(async (manager) => {
        const n = seen ?? (await this.counts.counted(manager, id));
        await manager.query(
          `UPDATE shoot SET frames = ?, keepers = ?, rejects = ?, files = ?, "missingCopies" = ?, "countedBy" = ?
           WHERE id = ? AND (? OR ${state} = ?)`,
          [
            ...[n.frames, n.keepers, n.rejects, n.files, n.missingCopies],
            text,
            id,
            Number(alone),
            before.state,
          ],
        );
        const [{ changed }]: [{ changed: number }] = await manager.query('SELECT changes() AS changed');
        return changed > 0;
      });
      if (done) return;
    }
  }
}
