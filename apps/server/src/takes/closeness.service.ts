import { Injectable, Logger, type BeforeApplicationShutdown } from '@nestjs/common';
import { CLOSENESS_VERSION, LOOK_VERSION, LOOKED_BACK, MAKER_VERSION, type Close } from '@arkiv/core';
import { UnitOfWork } from '../db/unitOfWork';
import { Copying } from '../events/copying';
import { Happenings } from '../events/domainEvents';
import { LongReading } from '../db/longReading';
import { FeaturesService } from '../features/features.service';
import { hashedSql, PictureHashes } from '../features/pictureHashes.service';
import { TAKEN } from '../frames/frameColumns';
import { FrameStore } from '../frames/frameStore';
import { FramesService } from '../frames/frames.service';
import { PictureMaker } from '../pictures/pictureMaker';

/** Milliseconds that pictures of a shoot are gathered for: in the background some six are looked at a second. */
const GATHERED = 1500;
/** Pairs that are compared, and written, at once: a fifth of a second of a picture process, some milliseconds of the writer. */
const PART = 50;

/**
 * Pictures of a shoot that are looked at by themselves when it is opened: a minute of one process. A shoot that came before there
 * were looks, with thousands, is asked for: nobody's computer is to be kept busy for half an hour by opening a shoot.
 */
const BY_ITSELF = 500;

/** Characters of a picture's key that tell it from the other pictures of a shoot. */
const ENOUGH = 12;
/** What a comparison was made by: either one's new version makes it anew. */
const VERSIONS = `${MAKER_VERSION}.${LOOK_VERSION}.${CLOSENESS_VERSION}`;
/** 1 to {@link LOOKED_BACK}: how far before a frame. */
const BACK = Array.from({ length: LOOKED_BACK }, (_, i) => i + 1);
/** `taken`: the frames of a shoot (first parameter) that have a picture, by what their camera took. */
const TAKEN_IN_SHOOT = `taken AS MATERIALIZED (
  SELECT * FROM (SELECT f.id, coalesce(f.serial, f.body, '') AS body, f.instant, f.name, f."closeTo", ${TAKEN} AS own
    FROM frame_here f WHERE f."shootId" = ?) WHERE own IS NOT NULL
)`;

interface Due {
  frameId: string;
  /** pictures: of the frames of its body before it, the last first, and its own */
  before: readonly string[];
  own: string;
  /** milliseconds since the last before it; null: one of the two has no time */
  gap: number | null;
  closeTo: string;
}

/**
 * Compares each frame with the one of its body before it: what takes are made from. It stays true by itself: when frames come,
 * go or are given another time, another frame stands before, and the two are compared when somebody opens the
 * shoot or a picture of it was looked at.
 */
@Injectable()
export class ClosenessService implements BeforeApplicationShutdown {
  private readonly log = new Logger('takes');
  /** shoots that are gone through next: around the pictures that were looked at, or (null) as a whole */
  private readonly waiting = new Map<string, Set<string> | null>();
  private running: Promise<void> | null = null;
  private timer: NodeJS.Timeout | null = null;
  private stopped = false;

  constructor(
    private readonly frames: FramesService,
    private readonly store: FrameStore,
    private readonly features: FeaturesService,
    private readonly hashes: PictureHashes,
    private readonly maker: PictureMaker,
    private readonly long: LongReading,
    private readonly work: UnitOfWork,
    private readonly happenings: Happenings,
    private readonly copying: Copying,
  ) {
    happenings.on('looked', ({ picture }) => void this.ofPicture(picture));
    happenings.on('opened', ({ shootId }) => this.later(shootId, null));
    copying.after(() => this.soon());
  }

  async beforeApplicationShutdown(): Promise<void> {
    this.stopped = true;
    if (this.timer) clearTimeout(this.timer);
    await this.running;
  }

  /** Compares all of a shoot that was not compared yet, in the background. Returns how many pictures have to be looked at first. */
  async compareAll(shootId: string): Promise<number> {
    const missing = await this.compare(shootId, null, Infinity);
    this.features.later(missing);
    return missing.length;
  }

  private async ofPicture(picture: string): Promise<void> {
    const shoots = await this.frames.shootsShownBy(picture).catch(() => []);
    for (const shootId of shoots) this.later(shootId, picture);
  }

  private later(shootId: string, picture: string | null): void {
    const known = this.waiting.get(shootId);
    if (picture === null || known === null) this.waiting.set(shootId, null);
    else this.waiting.set(shootId, (known ?? new Set<string>()).add(picture));
    this.soon();
  }

  private soon(): void {
    if (this.stopped || this.running || this.waiting.size === 0 || this.copying.isUnderWay) return;
    this.timer ??= setTimeout(() => {
      this.timer = null;
      this.running = this.carryOn().finally(() => {
        this.running = null;
        this.soon();
      });
    }, GATHERED).unref();
  }

  private async carryOn(): Promise<void> {
    for (const [shootId, around] of [...this.waiting]) {
      if (this.stopped || this.copying.isUnderWay) return;
      this.waiting.delete(shootId);
      try {
        const missing = await this.compare(shootId, around, BY_ITSELF + 1);
        // Around what was just looked at the rest comes by itself.
        if (around === null && missing.length <= BY_ITSELF) this.features.later(missing);
      } catch (error) {
        if (!this.stopped)
          this.log.error(`frames of a shoot could not be compared: ${(error as Error).message}`);
      }
    }
  }

  /**
   * Compares what was not compared yet of a shoot, or of that what some pictures are part of: while thousands are looked at, one
   * after the other, each is asked for once. Returns pictures of the shoot, `most` of them, that nobody has looked at yet; none around
   * some pictures.
   */
  private async compare(
    shootId: string,
    around: ReadonlySet<string> | null,
    most: number,
  ): Promise<string[]> {
    // What was looked at just now is asked of the database below.
    await this.hashes.write();
    const due = await this.due(shootId, around);
    // Known to have been looked at, but the look was let go of meanwhile.
    const missing = new Set<string>();
    for (let at = 0; at < due.length && !this.stopped; at += PART) {
      const part = due.slice(at, at + PART);
      const looks = new Map<string, Buffer>();
      for (const picture of new Set(part.flatMap(({ before, own }) => [own, ...before]))) {
        if (missing.has(picture)) continue;
        const look = await this.features.look(picture);
        if (look) looks.set(picture, look);
        else missing.add(picture);
      }
      // Without the last there is nothing to say; those further back are looked at where they can be.
      const ready = part.filter(({ before: [last], own }) => looks.has(own) && (!last || looks.has(last)));
      const found = await this.maker.compare(
        ready.map(({ before, own, gap }) => ({
          own: looks.get(own)!,
          before: before.flatMap((picture) => looks.get(picture) ?? []),
          gap,
        })),
      );
      await this.write(
        shootId,
        ready.map((frame, i) => [frame, found[i] ?? NOTHING] as const),
      );
    }
    if (around === null)
      for (const picture of await this.unseen(shootId, most - missing.size)) missing.add(picture);
    return [...missing];
  }

  /**
   * The frames that were not compared yet with the one of their body before them, and can be: both were looked at. In order of time. It is
   * the database that says so, in a thread of its own: of a shoot that is up to date not one row comes from there, and of fifty thousand that
   * nobody has looked at not one file is asked for.
   */
  private async due(shootId: string, around: ReadonlySet<string> | null): Promise<Due[]> {
    const rows = await this.long.rows<Omit<Due, 'before'> & { before: string }>(
      `WITH ${TAKEN_IN_SHOOT}, beside AS (
         SELECT id, own, instant, name, "closeTo" AS known, lag(own) OVER body AS last, lag(instant) OVER body AS earlier,
           json_array(${BACK.map((n) => `lag(own, ${n}) OVER body`).join(', ')}) AS before
         FROM taken WINDOW body AS (PARTITION BY body ORDER BY instant IS NULL, instant, name)
       ), called AS (
         SELECT *, '${VERSIONS} ' || coalesce(substr(last, 1, ${ENOUGH}), '-') || ' ' || substr(own, 1, ${ENOUGH}) AS "closeTo" FROM beside
       )
       SELECT id AS "frameId", own, before, instant - earlier AS gap, "closeTo" FROM called
       WHERE known IS NOT "closeTo" AND ${hashedSql('own')} AND (last IS NULL OR ${hashedSql('last')})
         ${around ? `AND EXISTS (SELECT 1 FROM json_each(?) WHERE value IN (own, ${BACK.map((n) => `before ->> ${n - 1}`).join(', ')}))` : ''}
       ORDER BY instant IS NULL, instant, name`,
      [shootId, ...(around ? [JSON.stringify([...around])] : [])],
    );
    return rows.map(({ before, ...row }) => ({
      ...row,
      before: (JSON.parse(before) as (string | null)[]).filter((picture) => picture !== null),
    }));
  }

  /** Pictures of a shoot that nobody has looked at yet, in order of time, `most` of them. */
  private async unseen(shootId: string, most: number): Promise<string[]> {
    if (most <= 0) return [];
    const rows = await this.long.rows<{ own: string }>(
      `WITH ${TAKEN_IN_SHOOT} SELECT own FROM taken WHERE NOT ${hashedSql('own')} ORDER BY instant IS NULL, instant, name LIMIT ?`,
      [shootId, Number.isFinite(most) ? most : -1],
    );
    return rows.map(({ own }) => own);
  }

  private async write(
    shootId: string,
    found: readonly (readonly [Due, Close | typeof NOTHING])[],
  ): Promise<void> {
    if (found.length === 0) return;
    await this.work.write(async (manager) => {
      for (const [{ frameId, closeTo }, { close, dx, dy }] of found)
        await this.store.setClose(manager, frameId, { close, dx, dy, closeTo });
      const frames = found.map(([{ frameId }, { close, dx, dy }]) => [frameId, close, dx, dy] as const);
      this.happenings.after(manager, 'compared', { shootId, frames });
    });
  }
}

/** The first of its body has nothing before it. */
const NOTHING = { close: null, dx: null, dy: null };
