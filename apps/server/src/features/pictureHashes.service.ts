import { Injectable, Logger, type BeforeApplicationShutdown } from '@nestjs/common';
import {
  bandsBeside,
  bandsOf,
  FOUND_WITHIN,
  hashDistance,
  hashOfBands,
  LOOK_VERSION,
  MAKER_VERSION,
  unpackLook,
  type Bands,
  type Hash,
} from '@arkiv/core';
import { Reading, UnitOfWork } from '../db/unitOfWork';
import { PictureHash } from './pictureHash.entity';

/** A hash goes with the preview and the look that it was made from. Versions of a look that each maker of previews has room for: 1,000. */
const MAKER = MAKER_VERSION * 1000 + LOOK_VERSION;
/** Milliseconds between two writings: neither the database nor its log need to hear of each picture. */
const BETWEEN = 2000;

/** SQL: whether a picture was looked at, `key` being what says its key. Its look may have been let go of since then. */
export const hashedSql = (key: string): string =>
  `EXISTS (SELECT 1 FROM picture_hash h WHERE h.picture = ${key} AND h.maker = ${MAKER})`;

interface Row {
  picture: string;
  band0: number;
  band1: number;
  band2: number;
  band3: number;
}

/** Finds pictures by what they look like; the only writer of their hashes. */
@Injectable()
export class PictureHashes implements BeforeApplicationShutdown {
  private readonly log = new Logger('features');
  /** noted and not written yet */
  private readonly noted = new Map<string, Bands>();
  private timer: NodeJS.Timeout | null = null;
  private stopped = false;

  constructor(
    private readonly reading: Reading,
    private readonly work: UnitOfWork,
  ) {}

  async beforeApplicationShutdown(): Promise<void> {
    this.stopped = true;
    await this.write();
  }

  /** Keeps what a picture is found by, out of its kept look. */
  async note(picture: string, look: Uint8Array): Promise<void> {
    if (await this.reading.manager.existsBy(PictureHash, { picture, maker: MAKER })) return;
    this.noted.set(picture, bandsOf(unpackLook(look).dct));
    // What is noted while the server stops is noted again one day.
    if (!this.stopped) this.timer ??= setTimeout(() => void this.write(), BETWEEN).unref();
  }

  /** Writes what was noted. */
  async write(): Promise<void> {
    if (this.timer) clearTimeout(this.timer);
    this.timer = null;
    const rows = [...this.noted].map(([picture, [band0, band1, band2, band3]]) => ({
      ...{ picture, maker: MAKER, band0, band1, band2, band3 },
    }));
    if (rows.length === 0) return;
    try {
      await this.work.write((manager) => manager.upsert(PictureHash, rows, ['picture']));
      for (const { picture } of rows) this.noted.delete(picture);
    } catch (error) {
      this.log.error(`what pictures are found by could not be kept: ${(error as Error).message}`);
    }
  }

  /** The hashes of some pictures, of those that were looked at. */
  async of(pictures: readonly string[]): Promise<Map<string, Hash>> {
    const rows: Row[] = await this.reading.source.query(
      `SELECT * FROM "picture_hash" WHERE maker = ? AND picture IN (SELECT value FROM json_each(?))`,
      [MAKER, JSON.stringify(pictures)],
    );
    return new Map(rows.map((row) => [row.picture, hashOfBands(bandsIn(row))]));
  }

  /**
   * Pictures that look like some others by their hashes: of each of these the ones whose hashes differ by {@link FOUND_WITHIN} bits at
   * most, the nearest first. What was not looked at is not found, nor is anything like it.
   */
  async near(pictures: readonly string[]): Promise<Map<string, string[]>> {
    const { source } = this.reading;
    const own: Row[] = await source.query(
      `SELECT * FROM "picture_hash" WHERE maker = ? AND picture IN (SELECT value FROM json_each(?))`,
      [MAKER, JSON.stringify(pictures)],
    );
    const found = new Map<string, string[]>();
    for (const row of own) {
      const bands = bandsIn(row);
      const wanted = bands.map((band) => JSON.stringify(bandsBeside(band)));
      // Each band by its own index; a picture that is found by several is there several times.
      const rows: Row[] = await source.query(
        [0, 1, 2, 3]
          .map(
            (n) =>
              `SELECT * FROM "picture_hash" WHERE "band${n}" IN (SELECT value FROM json_each(?)) AND maker = ${MAKER}`,
          )
          .join(' UNION '),
        wanted,
      );
      const hash = hashOfBands(bands);
      const near = rows.flatMap((other) => {
        const distance = hashDistance(hash, hashOfBands(bandsIn(other)));
        return other.picture !== row.picture && distance <= FOUND_WITHIN
          ? [{ picture: other.picture, distance }]
          : [];
      });
      near.sort((a, b) => a.distance - b.distance || (a.picture < b.picture ? -1 : 1));
      found.set(
        row.picture,
        near.map(({ picture }) => picture),
      );
    }
    return found;
  }
}

const bandsIn = ({ band0, band1, band2, band3 }: Row): Bands => [band0, band1, band2, band3];
