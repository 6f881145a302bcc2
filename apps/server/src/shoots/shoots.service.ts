import { Injectable, Logger, type BeforeApplicationShutdown } from '@nestjs/common';
import {
  ArkivError,
  correctedLocal,
  folderOf,
  folderOwner,
  foldText,
  keptCapture,
  ownFolder,
  stageAt,
  standingSql,
  type CaptureTime,
  type ClockCorrection,
  type FolderOwner,
} from '@arkiv/core';
import { IsNull, Not, type EntityManager } from 'typeorm';
import { LongReading } from '../db/longReading';
import { Reading, UnitOfWork } from '../db/unitOfWork';
import { Happenings } from '../events/domainEvents';
import { SHOWN_PICTURE } from '../frames/frameColumns';
import { FramesService } from '../frames/frames.service';
import { FrameStore } from '../frames/frameStore';
import { ShootCounts } from '../frames/shootCounts';
import { OutLedger, type ShootSteps } from '../ledger/outLedger';
import { SettingsService } from '../settings/settings.service';
import { grouped } from '../system/grouped';
import { Clock } from '../system/clock';
import { VolumesService } from '../volumes/volumes.service';
import { IN_HAND, Shoot } from './shoot.entity';
import { ShootTextsService } from './shootTexts.service';

export interface ShootSummary extends ShootSteps {
  /** its kept numbers stand in its row */
  shoot: Shoot;
  /** keys of the pictures of up to six frames that stand for the shoot */
  leads: string[];
  /** how many of its keepers stand at each of the studio's stages, in their order */
  stages: number[];
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
  | 'chosenLeads'
  | 'folderLeads'
  | 'keptIn'
  | 'workFolder'
  | 'sidecars'
> &
  Partial<Pick<Shoot, 'keptIn' | 'sidecars'>>;

/** Which shoots are listed. */
export interface ShootsAsked {
  /** only those that come after this one in the list */
  before?: string;
  /** words that must all stand in title, client, place or date */
  find?: string;
  /** those whose date is nearest come first, YYYY-MM-DD */
  near?: string;
  /** only those with a step still to do, the oldest first; of adopted ones, only those in which somebody decided something here */
  open?: boolean;
  /** only those of a year, YYYY */
  year?: string;
  /** only those of this client, or at this place; empty: of those that name none */
  client?: string;
  place?: string;
}

/** A client or a place, with all shoots that name it. */
export interface ShootGroup {
  /** empty: of those that name none */
  name: string;
  shoots: number;
  frames: number;
  /** dates of the first and the last of them, YYYY-MM-DD */
  first: string;
  last: string;
}

/** A frame as one passes over a shoot. */
export interface SkimmedFrame {
  id: string;
  name: string;
  /** corrected wall clock, `YYYY-MM-DDTHH:mm:ss.SSS`; null: not known */
  time: string | null;
  /** key of the picture that shows it */
  picture: string;
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

type CaptureRow = Omit<CaptureTime, 'local'> & { local: string | null };

/** Shoots that are listed, in SQL: not those that went into others, nor folders that were let go with all that was in them. */
const LISTED = `s."mergedInto" IS NULL AND (s."keptIn" IS NULL OR s.frames > 0)`;

/** Shoots in one answer: some screens full, some 60 kB. */
const PAGE = 60;
/** Frames that one passes over in a shoot: as many as a hand can tell apart on a strip; of more every so-manieth. */
const SKIMMED = 240;
/** Frames that stand for a shoot. */
export const MOST_LEADS = 6;
/** Frames from which choosing leads takes longer than an answer may wait: about a millisecond a hundred. */
const CHOSEN_AT_ONCE = 500;
const FOLDED = `arkiv_fold(s.title || ' ' || s.client || ' ' || s.place || ' ' || s.date)`;
const words = (find = ''): string[] => foldText(find.trim()).split(/\s+/).filter(Boolean);

/** The shoots that words find, as a condition over `shoot s`; those that went into others are none. */
export function foundShoots(find?: string): { where: string; parameters: string[] } {
  const wanted = words(find);
  const where = [LISTED, ...wanted.map(() => `instr(${FOLDED}, ?) > 0`)].join(' AND ');
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
    private readonly settings: SettingsService,
    private readonly texts: ShootTextsService,
    private readonly happenings: Happenings,
    private readonly clock: Clock,
  ) {}

  /** A shoot that has nothing yet. Within the caller's transaction. */
  async create(manager: EntityManager, shoot: NewShoot): Promise<void> {
    const { text: countedBy } = await this.counts.basis();
    const none = {
      frames: 0,
      keepers: 0,
      rejects: 0,
      files: 0,
      missingCopies: 0,
      leads: null,
      leadsAt: -1,
      chosenLeads: null,
      folderLeads: null,
      keptIn: null,
      workFolder: null,
      sidecars: true,
    };
    const at = { createdAt: this.clock.now(), touchedAt: this.clock.now(), revision: 1, mergedInto: null };
    await manager.insert(Shoot, { ...none, ...shoot, ...at, countedBy });
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

  /** Whose folders there are, but those of one shoot; one that went into another has none any more. */
  async folderOwner(but = ''): Promise<FolderOwner> {
    const shoots = await this.reading.manager.find(Shoot, {
      where: { id: Not(but), mergedInto: IsNull() },
      select: { id: true, title: true, folders: true, workFolder: true },
    });
    return folderOwner(shoots);
  }

  /**
   * A shoot with a folder for what goes out of it and comes back. One whose pictures lie in an adopted folder gets its own when it is
   * asked for first.
   */
  async withWorkFolder(id: string): Promise<Shoot> {
    const shoot = await this.get(id);
    if (shoot.keptIn === null || shoot.workFolder !== null) return shoot;
    const { folders, creator, dayStartHour } = await this.settings.all();
    const planned = folderOf(shoot, { path: folders.path, creator, dayStartHour });
    const workFolder = ownFolder(planned, await this.folderOwner(id));
    await this.work.write(async (manager) => {
      await manager.update(Shoot, { id, workFolder: IsNull() }, { workFolder });
      this.happenings.after(manager, 'shoots', { shootId: id });
    });
    return this.get(id);
  }

  /** Whether a folder of a drive is for what goes out of shoots. */
  async isForWork(folder: string): Promise<boolean> {
    return this.reading.manager.existsBy(Shoot, { workFolder: folder });
  }

  /** A page of shoots, the newest first; those that went into others are not listed. */
  async list({ before, find, near, open, year, client, place }: ShootsAsked = {}): Promise<ShootSummary[]> {
    const query = this.reading.manager.createQueryBuilder(Shoot, 's').where(LISTED);
    for (const [i, word] of words(find).entries())
      query.andWhere(`instr(${FOLDED}, :word${i}) > 0`, { [`word${i}`]: word });
    if (before !== undefined) {
      const { date, createdAt, id } = await this.get(before);
      query.andWhere('(s.date, s."createdAt", s.id) < (:date, :createdAt, :id)', { date, createdAt, id });
    }
    if (year !== undefined) query.andWhere('substr(s.date, 1, 4) = :year', { year });
    if (client !== undefined) query.andWhere('s.client = :client', { client });
    if (place !== undefined) query.andWhere('s.place = :place', { place });
    if (open)
      query.andWhere(
        `(s.keepers = 0 OR s.frames > s.keepers + s.rejects
          OR NOT EXISTS (SELECT 1 FROM handoff h WHERE h."shootId" = s.id AND h."finishedAt" IS NOT NULL)
          OR NOT EXISTS (SELECT 1 FROM delivery d WHERE d."shootId" = s.id AND d."finishedAt" IS NOT NULL))
         AND ${IN_HAND}`,
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

  /** All clients, or all places, by their names; those that name none come last. */
  groups(by: 'client' | 'place'): Promise<ShootGroup[]> {
    return this.reading.source.query(
      `SELECT s."${by}" AS name, COUNT(*) AS shoots, SUM(s.frames) AS frames, min(s.date) AS first, max(s.date) AS last
       FROM shoot s WHERE ${LISTED} GROUP BY 1 ORDER BY s."${by}" = '', arkiv_fold(s."${by}"), 1`,
    );
  }

  /** Frames of a shoot in order of time, spread evenly over it. */
  async skim(id: string): Promise<SkimmedFrame[]> {
    const { frames } = await this.get(id);
    const step = Math.max(1, Math.ceil(frames / SKIMMED));
    const rows = await this.long.rows<CaptureRow & { id: string; name: string; picture: string | null }>(
      `SELECT id, name, local, millis, "offsetMinutes", "correctionMillis", ${SHOWN_PICTURE} AS picture FROM (
         SELECT f.*, ROW_NUMBER() OVER (ORDER BY f.instant IS NULL, f.instant, f.name) - 1 AS nth
         FROM frame_here f WHERE f."shootId" = ?) f WHERE nth % ? = 0 ORDER BY nth`,
      [id, step],
    );
    return rows.flatMap(({ id: frame, name, picture, ...capture }) => {
      if (picture === null) return [];
      const kept = keptCapture(capture);
      return [{ id: frame, name, picture, time: kept && correctedLocal(kept) }];
    });
  }

  /** Says which frames stand for a shoot, or for its folders; none: Arkiv chooses. Frames of other shoots stand for nothing here. */
  async chooseLeads(
    id: string,
    of: 'chosenLeads' | 'folderLeads',
    frameIds: readonly string[],
  ): Promise<void> {
    await this.work.write(async (manager) => {
      const shoot = await manager.findOneBy(Shoot, { id });
      if (!shoot) throw new ArkivError('not-found', { what: 'shoot', id });
      await manager.update(Shoot, { id }, { [of]: frameIds.length === 0 ? null : [...new Set(frameIds)] });
      await this.touch(manager, id);
      this.happenings.after(manager, 'shoots', { shootId: id });
    });
    await this.texts.writeAll(await this.get(id), await this.volumes.all(), 'leads');
  }

  async summary(shoot: Shoot): Promise<ShootSummary> {
    return (await this.summaries([shoot]))[0]!;
  }

  private async summaries(shoots: readonly Shoot[]): Promise<ShootSummary[]> {
    const steps = await this.ledger.steps(shoots.map(({ id }) => id));
    const staged = await this.staged(shoots);
    const leads = await this.leadsOf(shoots);
    return shoots.map((shoot) => ({
      shoot,
      leads: leads.get(shoot.id) ?? shoot.leads ?? [],
      stages: staged.get(shoot.id)!,
      ...(steps.get(shoot.id) ?? { handoffs: 0, deliveries: 0 }),
    }));
  }

  /** Keepers by stage. Those of which nothing was said are the rest of them, and need no look. */
  private async staged(shoots: readonly Shoot[]): Promise<Map<string, number[]>> {
    const { stages, rules } = await this.settings.all();
    const { keeper } = standingSql(rules, 'f');
    const rows = await this.long.rows<{ id: string; stage: string; frames: number }>(
      `SELECT f."shootId" AS id, f.stage, COUNT(*) AS frames FROM frame_here f
       WHERE f."shootId" IN (SELECT value FROM json_each(?)) AND f.stage IS NOT NULL AND ${keeper.where} GROUP BY 1, 2`,
      [JSON.stringify(shoots.map(({ id }) => id)), ...keeper.parameters],
    );
    const counts = new Map(shoots.map(({ id }) => [id, stages.map(() => 0)]));
    for (const { id, stage, frames } of rows) counts.get(id)![stageAt(stage, stages)]! += frames;
    for (const { id, keepers } of shoots) {
      const its = counts.get(id)!;
      its[0] = Math.max(0, keepers - its.slice(1).reduce((sum, frames) => sum + frames, 0));
    }
    return counts;
  }

  /**
   * Leads of shoots that have none yet. Of a shoot that has changed since its own were chosen, these stand until they are chosen anew,
   * afterwards.
   */
  private async leadsOf(shoots: readonly Shoot[]): Promise<Map<string, string[]>> {
    const faded = shoots.filter(({ leadsAt, revision }) => leadsAt !== revision);
    if (faded.length === 0) return new Map();
    for (const { id } of faded) this.faded.add(id);
    this.choosing ??= this.chooseAll().finally(() => (this.choosing = null));
    // Nobody has seen these yet: their pictures come with the first answer.
    return this.leads(faded.filter(({ leads, frames }) => leads === null && frames <= CHOSEN_AT_ONCE));
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
    const leads = (await this.leads([shoot])).get(id) ?? [];
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

  /**
   * Six pictures that stand for each of these shoots, in order of time: those that were chosen, and of the best marked of each sixth as
   * many as are left, so that the strip tells its course. A shoot without pictures is not in the answer.
   */
  private async leads(shoots: readonly Pick<Shoot, 'id' | 'chosenLeads'>[]): Promise<Map<string, string[]>> {
    if (shoots.length === 0) return new Map();
    const rows = await this.long.rows<{ shootId: string; picture: string; chosen: 0 | 1 }>(
      // Which pictures these are is asked of the best alone: of every frame it would be two further rows, all over the archive's.
      `WITH six AS (
         SELECT f.key, f."shootId", NTILE(6) OVER (PARTITION BY f."shootId" ORDER BY f.instant, f.name) AS part,
           (f.verdict = 'keep') * 10 + f.stars - (f.verdict = 'reject') * 20 AS merit, f.instant, f.name,
           f.role = 'original' AND f."shownBy" IS NOT NULL AS pictured,
           f.id IN (SELECT value FROM json_each(?)) AS chosen
         FROM json_each(?) j CROSS JOIN frame_here f ON f."shootId" = j.value),
       best AS (SELECT key, chosen,
           ROW_NUMBER() OVER (PARTITION BY "shootId", part ORDER BY merit DESC, instant, name) AS place
         FROM six WHERE pictured)
       SELECT f."shootId", ${SHOWN_PICTURE} AS picture, b.chosen FROM best b JOIN frame f ON f.key = b.key
       WHERE b.place = 1 OR b.chosen ORDER BY f.instant, f.name`,
      [
        JSON.stringify(shoots.flatMap(({ chosenLeads }) => chosenLeads ?? [])),
        JSON.stringify(shoots.map(({ id }) => id)),
      ],
    );
    return new Map(
      [...grouped(rows, ({ shootId }) => shootId)].map(([id, of]) => {
        // What was chosen comes before what is left of the others, which are spread as evenly as they go.
        let room = Math.max(0, MOST_LEADS - of.filter((row) => row.chosen).length);
        const leads = of.flatMap((row) => (row.chosen || room-- > 0 ? [row.picture] : []));
        return [id, leads.slice(0, MOST_LEADS)];
      }),
    );
  }
}
