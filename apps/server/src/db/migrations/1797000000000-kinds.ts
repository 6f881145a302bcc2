import type { MigrationInterface, QueryRunner } from 'typeorm';

/**
 * A file's part in its frame, its format and whether it is a raw become three facts. Until here `raw` and `jpeg` were
 * parts, a TIFF counted as a raw, and a frame's `format` was one of `jpeg`, `raw`, `raw+jpeg`, `clip`.
 */
const FORMATS: Readonly<Record<string, readonly string[]>> = {
  jpeg: ['jpg', 'jpeg', 'jpe'],
  heic: ['heic', 'heif', 'hif'],
  tiff: ['tif', 'tiff'],
  mp4: ['mp4'],
  mov: ['mov'],
  avi: ['avi'],
  mxf: ['mxf'],
  mts: ['mts'],
};
const RAWS = ['dng', 'arw', 'cr2', 'cr3', 'nef', 'nrw', 'orf', 'pef', 'raf', 'rw2', 'srw'];
const OTHERS = ['wav', 'mp3', 'xmp'];

const when = (extension: string, format: string): string =>
  `WHEN lower(path) LIKE '%.${extension}' THEN '${format}'`;
const FORMAT_OF = `CASE ${[
  ...Object.entries(FORMATS).flatMap(([format, list]) => list.map((e) => when(e, format))),
  ...[...RAWS, ...OTHERS].map((e) => when(e, e)),
].join(' ')} ELSE '' END`;

/** Pictures and clips of a frame, each format once, the raw first. */
const FRAME_FORMAT = `(SELECT group_concat(format, '+') FROM (
  SELECT format, MAX(raw) AS raw, MAX(role = 'original') AS picture FROM asset
  WHERE "frameId" = frame.id AND role IN ('original', 'clip') GROUP BY format ORDER BY raw DESC, picture DESC, format))`;
const originals = (raw: 0 | 1): string =>
  `EXISTS (SELECT 1 FROM asset WHERE "frameId" = frame.id AND role = 'original' AND raw = ${raw})`;

const STATEMENTS = [
  `ALTER TABLE "asset" ADD COLUMN "format" text NOT NULL DEFAULT ''`,
  `ALTER TABLE "asset" ADD COLUMN "raw" boolean NOT NULL DEFAULT 0`,
  `UPDATE "asset" SET "format" = ${FORMAT_OF} WHERE "role" <> 'other'`,
  `UPDATE "asset" SET "raw" = 1 WHERE "role" = 'raw' AND "format" <> 'tiff'`,
  `UPDATE "asset" SET "role" = 'original' WHERE "role" IN ('raw', 'jpeg')`,
  `ALTER TABLE "frame" ADD COLUMN "seconds" real`,
  `ALTER TABLE "frame" ADD COLUMN "role" text NOT NULL DEFAULT 'original'`,
  `ALTER TABLE "frame" ADD COLUMN "raw" text NOT NULL DEFAULT 'none'`,
  `ALTER TABLE "frame" ADD COLUMN "sign" text`,
  `UPDATE "frame" SET "role" = 'clip' WHERE "format" = 'clip'`,
  // Of frames that are still arriving not all files are known yet.
  `UPDATE "frame" SET "raw" = CASE "format" WHEN 'raw' THEN 'only' WHEN 'raw+jpeg' THEN 'pair' ELSE 'none' END`,
  `UPDATE "frame" SET "raw" = CASE WHEN NOT ${originals(1)} THEN 'none' WHEN ${originals(0)} THEN 'pair' ELSE 'only' END,
    "format" = COALESCE(${FRAME_FORMAT}, "format") WHERE "state" = 'here'`,
];

/** Who may use the archive from other machines. */
const ACCESS = [
  `CREATE TABLE "password" ("id" integer PRIMARY KEY CHECK ("id" = 1), "salt" text NOT NULL, "hash" text NOT NULL, "cost" integer NOT NULL)`,
  `CREATE TABLE "session" ("hash" text PRIMARY KEY, "until" integer NOT NULL)`,
];

const OLD_FORMATS = ['jpeg', 'raw', 'raw+jpeg', 'clip'];

type Tree = Record<string, unknown>;

/** What an old value meant, in the new facts. */
function meaning(value: string): Tree {
  if (value === 'clip') return { field: 'role', is: 'clip' };
  if (value === 'raw') return { field: 'raw', is: 'only' };
  if (value === 'raw+jpeg') return { field: 'raw', is: 'pair' };
  return {
    all: [
      { field: 'role', is: 'original' },
      { field: 'raw', is: 'none' },
    ],
  };
}

/** A saved filter in the new facts. What has nothing to do with formats stays as it is. */
export function filterOfThreeFacts(filter: unknown): unknown {
  if (typeof filter !== 'object' || filter === null) return filter;
  const node = filter as Tree;
  for (const key of ['all', 'any']) {
    const list = node[key];
    if (Array.isArray(list)) return { [key]: list.map(filterOfThreeFacts) };
  }
  if ('not' in node) return { not: filterOfThreeFacts(node.not) };
  if (node.field !== 'format') return filter;
  const { is, oneOf, contains } = node;
  const values = OLD_FORMATS.filter(
    (value) =>
      value === is ||
      (Array.isArray(oneOf) && oneOf.includes(value)) ||
      (typeof contains === 'string' && value.includes(contains.toLowerCase())),
  );
  const [only] = values;
  return values.length === 1 ? meaning(only!) : { any: values.map(meaning) };
}

/** An intake under way goes on: its files are what their names say. */
const OPEN_ITEMS = `UPDATE "job_item" SET "data" = json_set("data",
    '$.format', ${FORMAT_OF.replaceAll('lower(path)', `lower(json_extract("data", '$.to'))`)},
    '$.raw', json(CASE WHEN json_extract("data", '$.role') = 'raw' AND lower(json_extract("data", '$.to')) NOT LIKE '%.tif%'
      THEN 'true' ELSE 'false' END),
    '$.role', CASE WHEN json_extract("data", '$.role') IN ('raw', 'jpeg') THEN 'original' ELSE json_extract("data", '$.role') END)
  WHERE json_extract("data", '$.role') IS NOT NULL`;

export class Kinds1797000000000 implements MigrationInterface {
  name = 'Kinds1797000000000';

  async up(runner: QueryRunner): Promise<void> {
    for (const statement of [...STATEMENTS, ...ACCESS, OPEN_ITEMS]) await runner.query(statement);
    const rows = (await runner.query(`SELECT "value" FROM "setting" WHERE "key" = 'rules'`)) as {
      value: string;
    }[];
    for (const { value } of rows) {
      const rules = JSON.parse(value) as Record<string, unknown>;
      const moved = Object.fromEntries(
        Object.entries(rules).map(([name, filter]) => [name, filterOfThreeFacts(filter)]),
      );
      await runner.query(`UPDATE "setting" SET "value" = ? WHERE "key" = 'rules'`, [JSON.stringify(moved)]);
    }
  }

  async down(): Promise<void> {
    throw new Error('Migrations go forward only; the copy made before is the way back.');
  }
}
