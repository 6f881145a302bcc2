// What is read of frames for finding them, in SQL.
import {
  correctedLocal,
  DELIVERED,
  FINISHED,
  hashOfBands,
  takenOf,
  type FoundRow,
  type FoundShoot,
  type GroupedFrame,
  type Hash,
} from '@arkiv/core';
import type Database from 'better-sqlite3';
import { PICTURE } from '../frames/frameColumns';

const FACTS = [
  ...['key', 'shootId', 'name', 'original', 'verdict', 'stars', 'label', 'note', 'take', 'instant', 'local'],
  ...['millis', 'correctionMillis', 'body', 'lens', 'aperture', 'exposure', 'iso', 'focalLength', 'role'],
  ...['format', 'raw', 'sign', 'detail', 'sharpness', 'advice', 'voice', 'piles', 'caption', 'keywords'],
  ...['persons', 'texts', 'albums', 'place', 'stage', 'edited', 'finish'],
] as const;

const ROW = `SELECT ${FACTS.map((fact) => `f."${fact}"`).join(', ')}, f.state = 'binned' AS binned,
    f."shownBy" IS NOT NULL AS shown,
    (SELECT v."arrivalId" FROM arrival_file v WHERE v."frameId" = f.id LIMIT 1) AS arrival,
    (SELECT group_concat(c."volumeId", '+') FROM copy c WHERE c."assetId" = f."shownBy") AS drives,
    EXISTS (SELECT 1 FROM delivery_file g JOIN delivery d ON d.id = g."deliveryId" AND d."finishedAt" IS NOT NULL
      WHERE g."frameId" = f.id AND g.fate = 'made') AS delivered
  FROM frame f`;
const THERE = `f.state IN ('here', 'binned')`;

/** A frame, and the key of its picture; null: nobody has one of it. */
export interface PicturedFrame {
  key: number;
  id: string;
  picture: string | null;
}

type Text = string | null;
/** A row as the database gives it, value by value: as an object of thirty members it would take twice the time. */
type Row = [
  ...[
    key: number,
    shootId: string,
    name: string,
    original: string,
    verdict: string,
    stars: number,
    label: Text,
  ],
  ...[note: Text, take: Text, instant: number | null, local: Text, millis: number, correctionMillis: number],
  ...[body: Text, lens: Text, aperture: number | null, exposure: number | null, iso: number | null],
  ...[focalLength: number | null, role: string, format: string, raw: string, sign: Text, detail: Text],
  ...[sharpness: number | null, advice: string, voice: Text, piles: string, caption: Text, keywords: string],
  ...[
    persons: string,
    texts: string,
    albums: string,
    place: string,
    stage: Text,
    edited: Text,
    finish: string,
    binned: 0 | 1,
    shown: 0 | 1,
    arrival: Text,
    drives: Text,
    delivered: 0 | 1,
  ],
];

function foundRow(row: Row): FoundRow {
  const [key, shootId, name, original, verdict, stars, label, note, take, instant, local] = row;
  const time =
    local === null
      ? null
      : correctedLocal({ local, millis: row[11], offsetMinutes: null, correctionMillis: row[12] });
  return {
    key,
    shootId,
    name,
    original,
    verdict: verdict as FoundRow['verdict'],
    stars,
    label: label as FoundRow['label'],
    note,
    take,
    instant,
    taken: takenOf(time),
    body: row[13],
    lens: row[14],
    aperture: row[15],
    exposure: row[16],
    iso: row[17],
    focalLength: row[18],
    role: row[19],
    format: row[20],
    raw: row[21],
    sign: row[22],
    detail: row[23] as FoundRow['detail'],
    sharpness: row[24],
    advice: row[25],
    voice: row[26],
    piles: row[27],
    caption: row[28],
    keywords: row[29],
    persons: row[30],
    texts: row[31],
    albums: row[32],
    lies: row[33],
    stage: row[34],
    edited: row[35],
    finish: row[36],
    finished: row[36] === '' ? null : FINISHED,
    binned: row[37] === 1,
    shown: row[38] === 1,
    arrival: row[39],
    drives: row[40] ?? '',
    delivered: row[41] === 1 ? DELIVERED : null,
  };
}

/** Reads what frames are found by, over a connection that other reading does not wait for. */
export class FindRows {
  constructor(private readonly database: Database.Database) {}

  /** The frames before a key, the newest first; at most so many. */
  before(key: number, most: number): FoundRow[] {
    return this.raw(`${ROW} WHERE f.key < ? AND ${THERE} ORDER BY f.key DESC LIMIT ?`, key, most).map(
      foundRow,
    );
  }

  /** Frames and the keys of their pictures, those that came last first: some before a frame's key. */
  pictures(before: number, most: number): PicturedFrame[] {
    return this.all<PicturedFrame>(
      `SELECT f.key, f.id, ${PICTURE} AS picture FROM frame f WHERE f.key < ? AND ${THERE} ORDER BY f.key DESC LIMIT ?`,
      ...[before, most],
    );
  }

  /** How many frames there are, and a key above all of them. */
  extent(): { frames: number; above: number } {
    const [found] = this.all<{ frames: number; above: number | null }>(
      `SELECT (SELECT coalesce(sum(frames), 0) FROM shoot) AS frames, (SELECT max(key) + 1 FROM frame) AS above`,
    );
    return { frames: found!.frames, above: found!.above ?? 0 };
  }

  byKeys(keys: readonly number[]): FoundRow[] {
    return this.raw(
      `${ROW} WHERE f.key IN (SELECT value FROM json_each(?)) AND ${THERE}`,
      JSON.stringify(keys),
    ).map(foundRow);
  }

  /** Keys of frames that are named in one of several ways. */
  keysOf({ frames, shoots, assets, deliveries }: Changed): number[] {
    const asked = [
      [`SELECT key FROM frame WHERE id IN (SELECT value FROM json_each(?))`, frames],
      [`SELECT key FROM frame WHERE "shootId" IN (SELECT value FROM json_each(?))`, shoots],
      [
        `SELECT f.key FROM asset a JOIN frame f ON f.id = a."frameId" WHERE a.id IN (SELECT value FROM json_each(?))`,
        assets,
      ],
      [
        `SELECT f.key FROM delivery_file g JOIN frame f ON f.id = g."frameId"
         WHERE g."deliveryId" IN (SELECT value FROM json_each(?))`,
        deliveries,
      ],
    ] as const;
    const keys = asked.flatMap(([sql, ids]) =>
      ids.length === 0 ? [] : this.all<{ key: number }>(sql, JSON.stringify(ids)).map(({ key }) => key),
    );
    return [...new Set(keys)];
  }

  /** How many frames some shoots have. */
  framesIn(shoots: readonly string[]): number {
    const [found] = this.all<{ n: number | null }>(
      `SELECT sum(frames) AS n FROM shoot WHERE id IN (SELECT value FROM json_each(?))`,
      JSON.stringify(shoots),
    );
    return found!.n ?? 0;
  }

  /** What the takes of a shoot are made from, in order of time. */
  grouped(shootId: string): GroupedRow[] {
    return this.all(
      `SELECT f.id, f.key, coalesce(f.serial, f.body) AS body, f.original, f.instant, f.close, f.take, f.aperture, f.exposure,
         f.iso, f."exposureBias", f.focus, f.dx, f.dy FROM frame_here f
       WHERE f."shootId" = ? ORDER BY f.instant IS NULL, f.instant, f.name`,
      shootId,
    );
  }

  shoots(): FoundShoot[] {
    return this.all<FoundShoot>(`SELECT id, title, client, place, date FROM shoot`);
  }

  arrivals(ids: readonly string[]): { id: string; card: string; at: number }[] {
    return this.all(
      `SELECT id, card, at FROM arrival WHERE id IN (SELECT value FROM json_each(?))`,
      JSON.stringify(ids),
    );
  }

  /** What pictures are like, with the frames that they show: those after a picture’s key, so many. `last`: the key one is at then; null: that was all. */
  hashesAfter(picture: string, most: number): { found: KeyedHash[]; last: string | null } {
    const rows = this.all<HashRow>(
      `${HASHES} (SELECT * FROM picture_hash WHERE picture > ? ORDER BY picture LIMIT ?) h ${SHOWN_BY}`,
      picture,
      most,
    );
    return {
      found: hashesIn(rows),
      last: rows.reduce<string | null>((at, row) => later(at, row.picture), null),
    };
  }

  /** The same of some pictures; of those that nobody has looked at nothing. */
  hashesOf(pictures: readonly string[]): { found: KeyedHash[]; known: string[] } {
    const rows = this.all<HashRow>(
      `${HASHES} (SELECT * FROM picture_hash WHERE picture IN (SELECT value FROM json_each(?))) h ${SHOWN_BY}`,
      JSON.stringify(pictures),
    );
    return { found: hashesIn(rows), known: rows.map(({ picture }) => picture) };
  }

  private raw(sql: string, ...parameters: unknown[]): Row[] {
    return this.database
      .prepare(sql)
      .raw()
      .all(...parameters) as Row[];
  }

  all<T>(sql: string, ...parameters: unknown[]): T[] {
    return this.database.prepare(sql).all(...parameters) as T[];
  }
}

interface HashRow {
  picture: string;
  key: number | null;
  band0: number;
  band1: number;
  band2: number;
  band3: number;
}

const HASHES = `SELECT h.picture, f.key, h.band0, h.band1, h.band2, h.band3 FROM`;
/** A picture’s key is its file’s checksum, or stands beside it. */
const SHOWN_BY = `LEFT JOIN asset s ON s.id IN (SELECT id FROM asset WHERE sha256 = h.picture AND picture IS NULL
    UNION ALL SELECT id FROM asset WHERE picture = h.picture)
  LEFT JOIN frame f ON f.id = s."frameId" AND f."shownBy" = s.id`;

/** What the picture of a frame is like. */
export interface KeyedHash {
  key: number;
  hash: Hash;
}

const hashesIn = (rows: readonly HashRow[]): KeyedHash[] =>
  rows.flatMap(({ key, band0, band1, band2, band3 }) =>
    key === null ? [] : [{ key, hash: hashOfBands([band0, band1, band2, band3]) }],
  );
const later = (a: string | null, b: string): string => (a === null || b > a ? b : a);

/** A frame as its take is made from, with its key. */
export type GroupedRow = GroupedFrame & { key: number };

/** Frames that are to be read again: by their ids, their shoots, their files, or the deliveries they were in. */
export interface Changed {
  frames: readonly string[];
  shoots: readonly string[];
  assets: readonly string[];
  deliveries: readonly string[];
}
