import { Injectable, Logger, type BeforeApplicationShutdown } from '@nestjs/common';
import { ArkivError, foldText, type ClockCorrection } from '@arkiv/core';
import type { EntityManager } from 'typeorm';
import { LongReading } from '../db/longReading';
import { Reading, UnitOfWork } from '../db/unitOfWork';
import { Happenings } from '../events/domainEvents';
import { PICTURE } from '../frames/frameColumns';
import { FramesService } from '../frames/frames.service';
import { FrameStore } from '../frames/frameStore';
import { ShootCounts } from '../frames/shootCounts';
import { OutLedger, type ShootSteps } from '../ledger/outLedger';
import { Clock } from '../system/clock';
import { VolumesService } from '../volumes/volumes.service';
import { Shoot } from './shoot.entity';
import { ShootTextsService } from './shootTexts.service';

export interface ShootSummary extends ShootSteps {
  /** its kept numbers stand in its row */
  shoot: Shoot;
  /** keys of the pictures of up to six frames that stand for the shoot */
  leads: string[];
}

export type NewShoot = Omit<
  Shoot,
  | 'revision'
  | 'frames'
  | 'keepers'
  | 'rejects'
  | 'files'
  | 'missingCopies'
  | 'countedBy'
  | 'mergedInto'
  | 'createdAt'
  | 'touchedAt'
  | 'leads'
  | 'leadsAt'
>;

/** Which shoots are listed. */
export interface ShootsAsked {
  /** only those that come after this one in the list */
  before?: string;
  /** words that must all stand in title, client, place or date */
  find?: string;
  /** those whose date is nearest come first, YYYY-MM-DD */
  near?: string;
  /** only those with a step still to do, the oldest first */
  open?: boolean;
}

export interface ShootMonth {
  /** YYYY-MM */
  month: string;
  shoots: number;
  frames: number;
}

export interface ShootTotals {
  shoots: number;
  frames: number;
  missingCopies: number;
  /** the oldest first */
  months: ShootMonth[];
}

/** Shoots in one answer: some screens full, some 60 kB. */
const PAGE = 60;
/** Frames from which choosing leads takes longer than an answer may wait: about a millisecond a hundred. */
const CHOSEN_AT_ONCE = 500;
const FOLDED = `arkiv_fold(s.title || ' ' || s.client || ' ' || s.place || ' ' || s.date)`;
const words = (find = ''): string[] => foldText(find.trim()).split(/\s+/).filter(Boolean);

/** The shoots that words find, as a condition over `shoot s`; those that went into others are none. */
export function foundShoots(find?: string): { where: string; parameters: string[] } {
  const wanted = words(find);
  const where = ['s."mergedInto" IS NULL', ...wanted.map(() => `instr(${FOLDED}, ?) > 0`)].join(' AND ');
  return { where, parameters: wanted };
}

@Injectable()
export class ShootsService implements BeforeApplicationShutdown {
  private readonly log = new Logger('shoots');

  /** shoots whose leads are to be chosen anew, one after the other beside everything else */
  private readonly faded = new Set<string>();
  private choosing: Promise<void> | null = null;
  private stopping = false;

  constructor(
    private readonly reading: Reading,
    private readonly long: LongReading,
    private readonly frames: FramesService,
    private readonly store: FrameStore,
    private readonly counts: ShootCounts,
    private readonly ledger: OutLedger,
    private readonly work: UnitOfWork,
    private readonly volumes: VolumesService,
    private readonly texts: ShootTextsService,
    private readonly happenings: Happenings,
    private readonly clock: Clock,
  ) {}

  /** A shoot that has nothing yet. Within the caller's transaction. */
  async create(manager: EntityManager, shoot: NewShoot): Promise<void> {
    const { text: countedBy } = await this.counts.basis();
    const none = { frames: 0, keepers: 0, rejects: 0, files: 0, missingCopies: 0, leads: null, leadsAt: -1 };
    const at = { createdAt: this.clock.now(), touchedAt: this.clock.now(), revision: 1, mergedInto: null };
    await manager.insert(Shoot, { ...shoot, ...at, ...none, countedBy });
    this.happenings.after(manager, 'shoots', { shootId: shoot.id });
  }

  async beforeApplicationShutdown(): Promise<void> {
    this.stopping = true;
    await this.choosing;
  }

  async get(id: string): Promise<Shoot> {
    const shoot = await this.reading.manager.findOneBy(Shoot, { id });
    if (!shoot) throw new ArkivError('not-found', { what: 'shoot', id });
    return shoot;
  }

  /** A page of shoots, the newest first; those that went into others are not listed. */
  async list({ before, find, near, open }: ShootsAsked = {}): Promise<ShootSummary[]> {
    const query = this.reading.manager.createQueryBuilder(Shoot, 's').where('s."mergedInto" IS NULL');
    for (const [i, word] of words(find).entries())
      query.andWhere(`instr(${FOLDED}, :word${i}) > 0`, { [`word${i}`]: word });
    if (before !== undefined) {
      const { date, createdAt, id } = await this.get(before);
      query.andWhere('(s.date, s."createdAt", s.id) < (:date, :createdAt, :id)', { date, createdAt, id });
    }
    if (open)
      query.andWhere(
        `(s.keepers = 0 OR s.frames > s.keepers + s.rejects
          OR NOT EXISTS (SELECT 1 FROM handoff h WHERE h."shootId" = s.id AND h."finishedAt" IS NOT NULL)
          OR NOT EXISTS (SELECT 1 FROM delivery d WHERE d."shootId" = s.id AND d."finishedAt" IS NOT NULL))`,
      );
    if (open) query.orderBy('s.date', 'ASC').addOrderBy('s.id', 'ASC');
    else if (near !== undefined)
      query.orderBy(`abs(julianday(s.date) - julianday(:near))`).setParameter('near', near);
    else query.orderBy('s.date', 'DESC').addOrderBy('s.createdAt', 'DESC').addOrderBy('s.id', 'DESC');
    return this.summaries(await query.limit(PAGE).getMany());
  }

  /** All shoots in numbers, by month; `find`: only those that have its words in title, client, place or date. */
  async totals(find?: string): Promise<ShootTotals> {
    const { where, parameters } = foundShoots(find);
    const months: (ShootMonth & { missingCopies: number })[] = await this.reading.source.query(
      `SELECT substr(s.date, 1, 7) AS month, COUNT(*) AS shoots, SUM(s.frames) AS frames,
         SUM(s."missingCopies") AS "missingCopies"
       FROM shoot s WHERE ${where} GROUP BY 1 ORDER BY 1`,
      parameters,
    );
    const sum = (key: 'shoots' | 'frames' | 'missingCopies') =>
      months.reduce((total, month) => total + month[key], 0);
    return {
      shoots: sum('shoots'),
      frames: sum('frames'),
      missingCopies: sum('missingCopies'),
      months: months.map(({ month, shoots, frames }) => ({ month, shoots, frames })),
    };
  }

  async summary(shoot: Shoot): Promise<ShootSummary> {
    return (await this.summaries([shoot]))[0]!;
  }

  private async summaries(shoots: readonly Shoot[]): Promise<ShootSummary[]> {
    const steps = await this.ledger.steps(shoots.map(({ id }) => id));
    const summaries: ShootSummary[] = [];
    for (const shoot of shoots)
      summaries.push({
        shoot,
        leads: await this.leadsOf(shoot),
        ...(steps.get(shoot.id) ?? { handoffs: 0, deliveries: 0 }),
      });
    return summaries;
  }

  /** Those that were chosen last; where the shoot has changed since, they are chosen anew afterwards. */
  private async leadsOf({ id, frames, revision, leads, leadsAt }: Shoot): Promise<string[]> {
    if (leadsAt === revision) return leads ?? [];
    this.faded.add(id);
    this.choosing ??= this.chooseAll().finally(() => (this.choosing = null));
    if (leads !== null || frames > CHOSEN_AT_ONCE) return leads ?? [];
    // Nobody has seen it yet: its pictures come with the first answer.
    return this.leads(id);
  }

  private async chooseAll(): Promise<void> {
    for (const id of this.faded) {
      // Whoever waits for an answer goes first.
      await new Promise((resolve) => setImmediate(resolve));
      this.faded.delete(id);
      if (this.stopping) return;
      await this.choose(id).catch((error: unknown) => this.log.warn((error as Error).message));
    }
  }

  private async choose(id: string): Promise<void> {
    const shoot = await this.reading.manager.findOneBy(Shoot, { id });
    if (!shoot || shoot.leadsAt === shoot.revision) return;
    const leads = await this.leads(id);
    await this.work.write(async (manager) => {
      await manager.update(Shoot, { id }, { leads, leadsAt: shoot.revision });
      if (JSON.stringify(leads) !== JSON.stringify(shoot.leads))
        this.happenings.after(manager, 'shoots', { shootId: id });
    });
  }

  async columns(id: string, asked: { only?: readonly string[]; gzip: boolean }): Promise<Buffer> {
    const shoot = await this.get(id);
    return this.frames.columns(id, shoot.revision, asked);
  }

  async away(id: string): Promise<string[]> {
    await this.get(id);
    return this.frames.away(id);
  }

  /** Counts a change; every change that windows must learn of goes through here, in the change's transaction. */
  async touch(manager: EntityManager, id: string): Promise<number> {
    const { revision } = await manager.findOneByOrFail(Shoot, { id });
    await manager.update(Shoot, { id }, { revision: revision + 1, touchedAt: this.clock.now() });
    return revision + 1;
  }

  /** A shoot that has files is listed, though it was put away when it had none left. */
  async listWhereAny(manager: EntityManager, id: string): Promise<void> {
    await manager.query(
      `UPDATE shoot SET "mergedInto" = NULL WHERE id = ? AND EXISTS (SELECT 1 FROM asset a WHERE a."shootId" = shoot.id)`,
      [id],
    );
  }

  /**
   * Corrects the clocks of bodies after their frames are here: the frames' order changes, the camera's own times and
   * the files' names do not. Bodies that are not named keep theirs.
   */
  async correctClocks(id: string, corrections: readonly ClockCorrection[]): Promise<void> {
    const shoot = await this.get(id);
    await this.work.write(async (manager) => {
      for (const { body, millis } of corrections)
        await this.store.correctClock(manager, shoot.id, body, millis);
      const revision = await this.touch(manager, shoot.id);
      this.happenings.after(manager, 'frames', { shootId: id, revision, ids: null });
    });
    await this.texts.writeAll(shoot, await this.volumes.all(), 'clocks');
  }

  /** Six pictures spread over the shoot: the best marked of each sixth, so that the strip tells its course. */
  private async leads(shootId: string): Promise<string[]> {
    const rows = await this.long.rows<{ picture: string }>(
      `WITH six AS (
         SELECT f.id, NTILE(6) OVER (ORDER BY f.instant, f.name) AS part,
           (f.verdict = 'keep') * 10 + f.stars - (f.verdict = 'reject') * 20 AS merit, f.instant, f.name,
           CASE WHEN f.role = 'original' THEN ${PICTURE} END AS picture
         FROM frame_here f WHERE f."shootId" = ?),
       best AS (SELECT picture, part, ROW_NUMBER() OVER (PARTITION BY part ORDER BY merit DESC, instant, name) AS place
         FROM six WHERE picture IS NOT NULL)
       SELECT picture FROM best WHERE place = 1 ORDER BY part`,
      [shootId],
    );
    return rows.map((row) => row.picture);
  }
}
