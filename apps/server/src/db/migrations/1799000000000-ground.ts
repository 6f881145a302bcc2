import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Core's order of a frame's files, as it was when this was written: what shows the frame comes first. */
const SHOWN_FIRST = `CASE WHEN a.role = 'clip' THEN 4 WHEN a.raw THEN 2 WHEN a.format IN ('jxl', 'jp2', 'bmp') THEN 3
  WHEN a.format = 'jpeg' THEN 0 ELSE 1 END`;

/**
 * A frame says where it lies; its files say only how their names end, and their copies only where they lie otherwise.
 * What is never filtered leaves the row. The key is explicit: VACUUM numbers implicit ones anew.
 */
const FRAMES = [
  `CREATE TABLE "frame_new" ("key" integer PRIMARY KEY, "id" text NOT NULL UNIQUE,
    "shootId" text NOT NULL REFERENCES "shoot"("id"),
    "state" text NOT NULL CHECK ("state" IN ('arriving', 'here', 'binned', 'forgotten')),
    "name" text NOT NULL, "original" text NOT NULL, "folder" text NOT NULL, "place" text NOT NULL,
    "shownBy" text, "chosen" boolean NOT NULL DEFAULT 0,
    "verdict" text NOT NULL, "stars" integer NOT NULL CHECK ("stars" BETWEEN 0 AND 5), "label" text,
    "instant" integer, "local" text, "millis" integer NOT NULL, "offsetMinutes" integer,
    "correctionMillis" integer NOT NULL, "body" text, "serial" text, "lens" text, "aperture" real, "exposure" real,
    "iso" integer, "focalLength" real, "width" integer, "height" integer, "orientation" integer NOT NULL,
    "seconds" real, "role" text NOT NULL, "format" text NOT NULL, "raw" text NOT NULL, "sign" text,
    "markedAt" integer NOT NULL, "sidecarDue" integer NOT NULL)`,
  `CREATE TABLE "frame_text" ("frameId" text PRIMARY KEY REFERENCES "frame_new"("id") ON DELETE CASCADE,
    "apertureText" text, "exposureText" text, "sidecarBase" text, "description" text) WITHOUT ROWID`,
  `CREATE TABLE "asset_new" ("id" text PRIMARY KEY, "shootId" text NOT NULL REFERENCES "shoot"("id"),
    "frameId" text REFERENCES "frame_new"("id"), "role" text NOT NULL, "format" text NOT NULL, "raw" boolean NOT NULL,
    "sha256" text, "ends" text, "picture" text, "size" integer NOT NULL, "name" text NOT NULL,
    "cardPath" text NOT NULL, "devices" integer NOT NULL DEFAULT 0)`,
  `CREATE TABLE "copy_new" ("assetId" text NOT NULL REFERENCES "asset_new"("id"),
    "volumeId" text NOT NULL REFERENCES "volume"("id"), "path" text, "size" integer, "mtime" integer,
    "verifiedAt" integer, "pastCache" boolean NOT NULL, PRIMARY KEY ("assetId", "volumeId")) WITHOUT ROWID`,
  `CREATE TABLE "damage_new" ("volumeId" text NOT NULL REFERENCES "volume"("id"),
    "assetId" text NOT NULL REFERENCES "asset_new"("id"), "path" text, "found" text, "reason" text NOT NULL,
    "at" integer NOT NULL, PRIMARY KEY ("volumeId", "assetId")) WITHOUT ROWID`,
  `INSERT INTO "frame_new" ("id", "shootId", "state", "name", "original", "folder", "place", "verdict", "stars",
      "label", "instant", "local", "millis", "offsetMinutes", "correctionMillis", "body", "serial", "lens", "aperture",
      "exposure", "iso", "focalLength", "width", "height", "orientation", "seconds", "role", "format", "raw", "sign",
      "markedAt", "sidecarDue", "shownBy")
    SELECT "id", "shootId", "state", "name", "original", "folder", "place", "verdict", "stars", "label", "instant",
      "local", "millis", "offsetMinutes", "correctionMillis", "body", "serial", "lens", "aperture", "exposure", "iso",
      "focalLength", "width", "height", "orientation", "seconds", "role", "format", "raw", "sign", "markedAt",
      "sidecarDue", (SELECT a.id FROM asset a WHERE a."frameId" = f.id AND a.role IN ('original', 'clip')
        ORDER BY ${SHOWN_FIRST}, a.path LIMIT 1)
    FROM "frame" f ORDER BY f.rowid`,
  `INSERT INTO "frame_text" SELECT "id", "apertureText", "exposureText", "sidecarBase", "description" FROM "frame"`,
  // What does not begin with its frame's place and name keeps a path of its own, which begins with a slash.
  `INSERT INTO "asset_new" ("id", "shootId", "frameId", "role", "format", "raw", "sha256", "size", "name", "cardPath")
    SELECT a.id, a."shootId", a."frameId", a.role, a.format, a.raw, a.sha256, a.size,
      CASE WHEN f.id IS NOT NULL AND substr(a.path, 1, length(f.place) + 1 + length(f.name)) = f.place || '/' || f.name
        AND instr(substr(a.path, length(f.place) + 2), '/') = 0
        THEN substr(a.path, length(f.place) + 2 + length(f.name)) ELSE '/' || a.path END, a."cardPath"
    FROM "asset" a LEFT JOIN "frame" f ON f.id = a."frameId" ORDER BY a.rowid`,
  `INSERT OR IGNORE INTO "copy_new" ("assetId", "volumeId", "path", "size", "verifiedAt", "pastCache")
    SELECT c."assetId", c."volumeId", NULLIF(c.path, a.path), a.size, c."verifiedAt", c."pastCache"
    FROM "copy" c JOIN "asset" a ON a.id = c."assetId" ORDER BY c.path <> a.path, c."verifiedAt" DESC`,
  `INSERT OR IGNORE INTO "damage_new" ("volumeId", "assetId", "path", "found", "reason", "at")
    SELECT d."volumeId", d."assetId", NULLIF(d.path, a.path), d.found, d.reason, d.at
    FROM "damage" d JOIN "asset" a ON a.id = d."assetId" ORDER BY d.path <> a.path, d.at DESC`,
  `DROP TABLE "damage"`,
  `DROP TABLE "copy"`,
  `DROP TABLE "asset"`,
  `DROP TABLE "frame"`,
  `ALTER TABLE "frame_new" RENAME TO "frame"`,
  `ALTER TABLE "asset_new" RENAME TO "asset"`,
  `ALTER TABLE "copy_new" RENAME TO "copy"`,
  `ALTER TABLE "damage_new" RENAME TO "damage"`,
  `CREATE INDEX "frame_shoot" ON "frame" ("shootId", "instant")`,
  `CREATE INDEX "frame_due" ON "frame" ("id") WHERE "sidecarDue" > 0`,
  `CREATE INDEX "frame_local" ON "frame" ("local", "millis")`,
  `CREATE INDEX "frame_arriving" ON "frame" ("shootId") WHERE "state" = 'arriving'`,
  `CREATE INDEX "asset_sha256" ON "asset" ("sha256")`,
  `CREATE INDEX "asset_picture" ON "asset" ("picture") WHERE "picture" IS NOT NULL`,
  `CREATE INDEX "asset_frame" ON "asset" ("frameId")`,
  `CREATE INDEX "asset_size" ON "asset" ("size")`,
  `CREATE INDEX "asset_shoot" ON "asset" ("shootId", "id", "devices")`,
  `CREATE INDEX "copy_volume" ON "copy" ("volumeId", "assetId")`,
  `CREATE INDEX "damage_asset" ON "damage" ("assetId")`,
  `CREATE VIEW "frame_here" AS SELECT * FROM "frame" WHERE "state" = 'here'`,
  `CREATE VIEW "asset_at" AS SELECT a.*, CASE WHEN substr(a.name, 1, 1) = '/' THEN substr(a.name, 2)
    ELSE f.place || '/' || f.name || a.name END AS "at" FROM "asset" a LEFT JOIN "frame" f ON f.id = a."frameId"`,
  `CREATE VIEW "copy_at" AS SELECT c."assetId", c."volumeId", c."verifiedAt", c."pastCache", a."shootId", a."frameId",
    a.sha256, a.size, COALESCE(c.path, CASE WHEN substr(a.name, 1, 1) = '/' THEN substr(a.name, 2)
      ELSE f.place || '/' || f.name || a.name END) AS "at"
    FROM "copy" c JOIN "asset" a ON a.id = c."assetId" LEFT JOIN "frame" f ON f.id = a."frameId"`,
];

/** What is counted of a shoot and of a drive is kept, and counted by what: it is counted anew where that has changed. */
const COUNTS = [
  ...['frames', 'keepers', 'rejects', 'files', 'missingCopies'].map(
    (name) => `ALTER TABLE "shoot" ADD COLUMN "${name}" integer NOT NULL DEFAULT 0`,
  ),
  `ALTER TABLE "shoot" ADD COLUMN "countedBy" text NOT NULL DEFAULT ''`,
  `ALTER TABLE "shoot" ADD COLUMN "touchedAt" integer NOT NULL DEFAULT 0`,
  `UPDATE "shoot" SET "touchedAt" = MAX("createdAt",
    COALESCE((SELECT MAX("markedAt") FROM "frame" f WHERE f."shootId" = "shoot"."id"), 0))`,
  `CREATE INDEX "shoot_touched" ON "shoot" ("touchedAt")`,
  `CREATE INDEX "shoot_date" ON "shoot" ("date" DESC, "createdAt" DESC, "id")`,
  ...['files', 'bytes', 'onlyHere', 'damaged'].map(
    (name) => `ALTER TABLE "volume" ADD COLUMN "${name}" integer NOT NULL DEFAULT 0`,
  ),
  `ALTER TABLE "volume" ADD COLUMN "countedAs" text NOT NULL DEFAULT ''`,
  `UPDATE "volume" SET "countedAs" = "device" || ' ' || "role"`,
  // Devices are judged when the server starts; until then a file counts as being on as many as are told apart now.
  `UPDATE "asset" SET "devices" = (SELECT MAX(COUNT(DISTINCT NULLIF(v.device, '?')), COUNT(v.id) > 0)
    FROM "copy" c JOIN "volume" v ON v.id = c."volumeId" AND v.role <> 'edit' WHERE c."assetId" = "asset"."id")`,
  `UPDATE "volume" SET "files" = (SELECT COUNT(*) FROM "copy" c WHERE c."volumeId" = "volume"."id"),
    "bytes" = (SELECT COALESCE(SUM(a.size), 0) FROM "copy" c JOIN "asset" a ON a.id = c."assetId"
      WHERE c."volumeId" = "volume"."id"),
    "onlyHere" = (SELECT COUNT(*) FROM "copy" c JOIN "asset" a ON a.id = c."assetId"
      WHERE c."volumeId" = "volume"."id" AND a.devices <= 1),
    "damaged" = (SELECT COUNT(*) FROM "damage" d WHERE d."volumeId" = "volume"."id")`,
];

const progress = (path: string): string => `json_extract(i.data, '$.progress${path}')`;
const targetsIn = (state: string): string =>
  `(SELECT COUNT(*) FROM json_each(i.data, '$.progress.targets') t WHERE ${state})`;
const inState = (state: string): string => `json_extract(t.value, '$.state') = '${state}'`;
const FATE = `CASE WHEN ${progress('.alreadyHere')} IS NOT NULL THEN 'already-here'
  WHEN ${targetsIn('1')} > 0 AND ${targetsIn(inState('verified'))} = ${targetsIn('1')} THEN 'copied'
  WHEN ${progress('.sourceError')} IS NOT NULL AND ${targetsIn(inState('verified'))} = 0 THEN 'failed'
  WHEN ${targetsIn(inState('todo'))} > 0 THEN 'todo'
  WHEN ${targetsIn(inState('verified'))} > 0 THEN 'partly' ELSE 'failed' END`;

/** What happened to which content, for ever: jobs and their items may go, this stays. */
const LEDGER = [
  `CREATE TABLE "arrival" ("id" text PRIMARY KEY, "visit" text NOT NULL, "title" text NOT NULL, "card" text NOT NULL,
    "fingerprint" text NOT NULL, "readerId" text NOT NULL, "shootId" text, "intoExisting" boolean NOT NULL,
    "folders" text NOT NULL, "targets" text NOT NULL, "receipts" text NOT NULL, "at" integer NOT NULL,
    "startedAt" integer, "finishedAt" integer)`,
  `CREATE TABLE "arrival_file" ("arrivalId" text NOT NULL REFERENCES "arrival"("id") ON DELETE CASCADE,
    "seq" integer NOT NULL, "from" text NOT NULL, "to" text NOT NULL, "frameId" text, "role" text NOT NULL,
    "format" text NOT NULL, "raw" boolean NOT NULL, "size" integer NOT NULL, "mtimeMillis" integer NOT NULL,
    "known" boolean NOT NULL, "number" integer, "fate" text NOT NULL, "sha256" text, "progress" text NOT NULL,
    PRIMARY KEY ("arrivalId", "seq")) WITHOUT ROWID`,
  `CREATE TABLE "handoff" ("id" text PRIMARY KEY, "shootId" text NOT NULL, "volumeId" text NOT NULL,
    "frames" integer NOT NULL, "at" integer NOT NULL, "finishedAt" integer)`,
  `CREATE TABLE "handoff_file" ("handoffId" text NOT NULL REFERENCES "handoff"("id") ON DELETE CASCADE,
    "seq" integer NOT NULL, "frameId" text, "assetId" text, "role" text NOT NULL, "from" text NOT NULL,
    "to" text NOT NULL, "size" integer NOT NULL, "sha256" text, "fate" text NOT NULL,
    PRIMARY KEY ("handoffId", "seq")) WITHOUT ROWID`,
  `CREATE TABLE "delivery" ("id" text PRIMARY KEY, "shootId" text NOT NULL, "volumeId" text NOT NULL,
    "name" text NOT NULL, "title" text NOT NULL, "spec" text NOT NULL, "folder" text NOT NULL, "zip" text,
    "at" integer NOT NULL, "finishedAt" integer)`,
  `CREATE TABLE "delivery_file" ("deliveryId" text NOT NULL REFERENCES "delivery"("id") ON DELETE CASCADE,
    "seq" integer NOT NULL, "frameId" text NOT NULL, "picture" text, "from" text NOT NULL, "to" text NOT NULL,
    "fate" text NOT NULL, "sha256" text, "size" integer, "width" integer, "height" integer,
    PRIMARY KEY ("deliveryId", "seq")) WITHOUT ROWID`,
  `INSERT INTO "arrival" SELECT j.id, COALESCE(json_extract(j.params, '$.arrival'), j.id), j.title,
      COALESCE(json_extract(j.params, '$.card'), ''), COALESCE(json_extract(j.params, '$.fingerprint'), ''),
      COALESCE(json_extract(j.params, '$.readerId'), ''), j."shootId",
      COALESCE(json_extract(j.params, '$.intoExisting'), 0), COALESCE(json_extract(j.params, '$.folders'), '[]'),
      COALESCE(json_extract(j.params, '$.targets'), '[]'), COALESCE(json_extract(j.result, '$.receipts'), '[]'),
      j."createdAt", j."startedAt", j."finishedAt"
    FROM "job" j WHERE j.kind = 'intake'`,
  `INSERT INTO "arrival_file" SELECT i."jobId", i.seq, json_extract(i.data, '$.from'), json_extract(i.data, '$.to'),
      json_extract(i.data, '$.frameId'), COALESCE(json_extract(i.data, '$.role'), 'other'),
      COALESCE(json_extract(i.data, '$.format'), ''), COALESCE(json_extract(i.data, '$.raw'), 0), i.size,
      COALESCE(json_extract(i.data, '$.mtimeMillis'), 0), COALESCE(json_extract(i.data, '$.known'), 0),
      json_extract(i.data, '$.seq'), ${FATE}, ${progress('.sha256')}, ${progress('')}
    FROM "job_item" i JOIN "job" j ON j.id = i."jobId" WHERE j.kind = 'intake'`,
  // What stayed on the card by choice comes after what was meant to be copied.
  `INSERT INTO "arrival_file" SELECT j.id, j."filesTotal" + l.key, json_extract(l.value, '$.path'), '', NULL, 'other', '',
      0, json_extract(l.value, '$.size'), 0, 0, NULL, 'left-out', NULL,
      '{"sha256":null,"targets":{},"alreadyHere":null,"sourceError":null}'
    FROM "job" j, json_each(j.params, '$.leftOut') l WHERE j.kind = 'intake'`,
  `INSERT INTO "handoff" SELECT j.id, j."shootId", json_extract(j.params, '$.volumeId'),
      COALESCE(json_extract(j.params, '$.frames'), 0), j."createdAt",
      CASE WHEN j.state = 'done' THEN j."finishedAt" END
    FROM "job" j WHERE j.kind = 'handoff' AND j."shootId" IS NOT NULL`,
  `INSERT INTO "handoff_file" SELECT i."jobId", i.seq, a."frameId", json_extract(i.data, '$.assetId'),
      json_extract(i.data, '$.role'), json_extract(i.data, '$.from'), json_extract(i.data, '$.to'), i.size,
      json_extract(i.data, '$.sha256'), CASE i.state WHEN 'done' THEN 'copied' WHEN 'failed' THEN 'failed' ELSE 'todo' END
    FROM "job_item" i JOIN "handoff" h ON h.id = i."jobId" LEFT JOIN "asset" a ON a.id = json_extract(i.data, '$.assetId')`,
  `INSERT INTO "delivery" SELECT j.id, j."shootId", json_extract(j.params, '$.volumeId'),
      json_extract(j.params, '$.name'), j.title, json_extract(j.params, '$.spec'), json_extract(j.params, '$.folder'),
      json_extract(j.result, '$.zip'), j."createdAt", CASE WHEN j.state = 'done' THEN j."finishedAt" END
    FROM "job" j WHERE j.kind = 'delivery' AND j."shootId" IS NOT NULL`,
  `INSERT INTO "delivery_file" SELECT i."jobId", i.seq, json_extract(i.data, '$.frameId'),
      json_extract(i.data, '$.sha256'), json_extract(i.data, '$.from'), json_extract(i.data, '$.to'),
      CASE i.state WHEN 'done' THEN 'made' WHEN 'failed' THEN 'failed' ELSE 'todo' END,
      json_extract(i.data, '$.made.sha256'), json_extract(i.data, '$.made.size'),
      json_extract(i.data, '$.made.width'), json_extract(i.data, '$.made.height')
    FROM "job_item" i JOIN "delivery" d ON d.id = i."jobId"`,
  `CREATE INDEX "arrival_card" ON "arrival" ("card")`,
  `CREATE INDEX "arrival_fingerprint" ON "arrival" ("fingerprint")`,
  `CREATE INDEX "arrival_visit" ON "arrival" ("visit")`,
  `CREATE INDEX "arrival_shoot" ON "arrival" ("shootId")`,
  `CREATE INDEX "arrival_at" ON "arrival" ("at", "id")`,
  `CREATE INDEX "arrival_file_from" ON "arrival_file" ("arrivalId", "from")`,
  `CREATE INDEX "arrival_file_frame" ON "arrival_file" ("frameId") WHERE "frameId" IS NOT NULL`,
  `CREATE INDEX "arrival_file_open" ON "arrival_file" ("arrivalId", "fate") WHERE "fate" IN ('todo', 'partly', 'failed')`,
  `CREATE INDEX "handoff_shoot" ON "handoff" ("shootId")`,
  `CREATE INDEX "handoff_file_frame" ON "handoff_file" ("frameId") WHERE "frameId" IS NOT NULL`,
  `CREATE INDEX "delivery_shoot" ON "delivery" ("shootId")`,
  `CREATE INDEX "delivery_file_frame" ON "delivery_file" ("frameId")`,
];

/** A job says what it works on; its items say what they are called, and keep no more than they need to be done. */
const JOBS = [
  `CREATE TABLE "job_subject" ("jobId" text NOT NULL REFERENCES "job"("id") ON DELETE CASCADE, "kind" text NOT NULL,
    "id" text NOT NULL, "deed" text NOT NULL, PRIMARY KEY ("jobId", "kind", "id")) WITHOUT ROWID`,
  `CREATE INDEX "job_subject_of" ON "job_subject" ("kind", "id")`,
  ...['filesDone', 'filesFailed', 'bytesDone'].map(
    (name) => `ALTER TABLE "job" ADD COLUMN "${name}" integer NOT NULL DEFAULT 0`,
  ),
  `ALTER TABLE "job" ADD COLUMN "trouble" text`,
  `ALTER TABLE "job" ADD COLUMN "ahead" text`,
  `UPDATE "job" SET
    "filesDone" = (SELECT COUNT(*) FROM "job_item" i WHERE i."jobId" = "job"."id" AND i.state IN ('done', 'skipped')),
    "filesFailed" = (SELECT COUNT(*) FROM "job_item" i WHERE i."jobId" = "job"."id" AND i.state = 'failed'),
    "bytesDone" = (SELECT COALESCE(SUM(i.size), 0) FROM "job_item" i WHERE i."jobId" = "job"."id"
      AND i.state IN ('done', 'skipped', 'failed')),
    "trouble" = (SELECT i.reason FROM "job_item" i WHERE i."jobId" = "job"."id" AND i.state = 'failed'
      ORDER BY i.seq DESC LIMIT 1)`,
  `CREATE INDEX "job_open" ON "job" ("state") WHERE "state" IN ('queued', 'running', 'waiting', 'paused')`,
  `CREATE INDEX "job_age" ON "job" ("createdAt", "id")`,
  `CREATE INDEX "job_shoot" ON "job" ("shootId", "createdAt")`,
  `ALTER TABLE "job_item" ADD COLUMN "name" text NOT NULL DEFAULT ''`,
  `ALTER TABLE "job_item" ADD COLUMN "shootId" text`,
  `CREATE INDEX "job_item_shoot" ON "job_item" ("shootId", "jobId") WHERE "state" IN ('todo', 'doing') AND "shootId" IS NOT NULL`,
  `UPDATE "job_item" SET "name" = COALESCE(json_extract(data, '$.from'), json_extract(data, '$.path'), 'item ' || (seq + 1))
    WHERE json_type(data, '$.from') = 'text' OR json_type(data, '$.from') IS NULL`,
  `UPDATE "job_item" SET "name" = COALESCE(json_extract(data, '$.path'), 'item ' || (seq + 1)) WHERE "name" = ''`,
  `INSERT OR IGNORE INTO "job_subject" SELECT id, 'shoot', "shootId", CASE kind WHEN 'move' THEN 'moves' ELSE 'reads' END FROM "job" WHERE "shootId" IS NOT NULL`,
  `INSERT OR IGNORE INTO "job_subject" SELECT id, 'shoot', json_extract(params, '$.from'), 'moves' FROM "job"
    WHERE kind = 'move' AND json_extract(params, '$.from') IS NOT NULL`,
  `INSERT OR IGNORE INTO "job_subject" SELECT id, 'shoot', '*', 'reads' FROM "job" WHERE kind = 'clear'`,
  `INSERT OR IGNORE INTO "job_subject" SELECT id, 'reader', json_extract(params, '$.readerId'),
      CASE kind WHEN 'clear' THEN 'clears' ELSE 'reads' END FROM "job"
    WHERE json_extract(params, '$.readerId') IS NOT NULL`,
  `UPDATE "job_item" SET "shootId" = (SELECT a."shootId" FROM "asset" a WHERE a.id = json_extract(data, '$.assetId'))
    WHERE "jobId" IN (SELECT id FROM "job" WHERE kind IN ('copy', 'verify') AND "shootId" IS NULL)`,
  `UPDATE "job_item" SET "data" = '{}' WHERE "jobId" IN
    (SELECT id FROM "arrival" UNION SELECT id FROM "handoff" UNION SELECT id FROM "delivery")`,
  `UPDATE "job" SET "params" = json_object('readerId', json_extract(params, '$.readerId'),
    'card', json_extract(params, '$.card')) WHERE kind = 'intake'`,
];

export class Ground1799000000000 implements MigrationInterface {
  name = 'Ground1799000000000';

  async up(runner: QueryRunner): Promise<void> {
    for (const statement of [...FRAMES, ...COUNTS, ...LEDGER, ...JOBS]) await runner.query(statement);
  }

  async down(): Promise<void> {
    throw new Error('Migrations go forward only; the copy made before is the way back.');
  }
}
