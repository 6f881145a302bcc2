// Makes a large archive's database: a card of a thousand frames is taken in by the server itself, and all further rows are
// copies of the rows that this left, with ids, places, times and marks of their own. So its first thousand frames are what
// taking in makes, table by table, and the others have the same shape.
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import path from 'node:path';
import { ROOT } from '../../bootstrap.mjs';
import { jobDone, prepareIntake, seconds, startServer } from '../lib.mjs';
import { manyPictures } from '../material.mjs';
import { differencesIn } from './recount.mjs';

const Database = createRequire(path.join(ROOT, 'apps/server/package.json'))('better-sqlite3');

/** Kept between runs, unlike what other measurements leave. */
const KEPT = path.join(ROOT, '.cache', 'scale');
const TEMPLATE_FRAMES = 1000;
/** Drives beside the two that the thousand frames went to; pairs take turns by year. */
const OTHER_DRIVES = 10;
const YEARS = 10;
const PORT = 4815;

/** Counts up with each change of what is made here, so that an archive of before is made anew. */
const MAKER = 3;

/**
 * An archive of so many frames: `{ data, card, drives }`. Made where there is none yet of this maker and of the schema
 * that this version writes.
 */
export async function archiveOf(frames, log) {
  const place = path.join(KEPT, String(frames));
  const said = path.join(place, 'made.json');
  const migrations = path.join(ROOT, 'apps/server/dist/db/migrations');
  const hash = createHash('sha256');
  for (const name of readdirSync(migrations).sort())
    if (name.endsWith('.js')) hash.update(readFileSync(path.join(migrations, name)));
  const schema = hash.digest('hex').slice(0, 12);
  const made = { maker: MAKER, schema, frames };
  const paths = {
    data: path.join(place, 'data'),
    card: path.join(place, 'card'),
    drives: [path.join(place, 'drive-a'), path.join(place, 'drive-b')],
  };
  if (existsSync(said) && readFileSync(said, 'utf8') === JSON.stringify(made)) return paths;
  rmSync(place, { recursive: true, force: true });
  for (const folder of [paths.data, paths.card, ...paths.drives]) mkdirSync(folder, { recursive: true });
  log(`an archive of ${frames} frames: ${TEMPLATE_FRAMES} are taken in …`);
  await manyPictures(paths.card, TEMPLATE_FRAMES);
  const server = await startServer(paths.data, PORT);
  try {
    const request = await prepareIntake(server, paths.card, paths.drives);
    const { jobId } = await server.post('/intakes', request);
    await jobDone(server, jobId);
  } finally {
    await server.stop();
  }
  const file = path.join(paths.data, 'archive.sqlite');
  const took = await seconds(() => fill(file, frames - TEMPLATE_FRAMES, log));
  log(`filled in ${took.toFixed(0)} s, ${(statSync(file).size / 1e9).toFixed(2)} GB`);
  let wrong = [];
  const counted = await seconds(async () => (wrong = await differencesIn(paths.data)));
  if (wrong.length > 0)
    throw new Error(
      `the archive that was made is wrong in ${wrong.length} numbers: ${wrong.slice(0, 5).join('; ')}`,
    );
  log(`all its numbers counted anew, and its foreign keys, in ${counted.toFixed(0)} s`);
  writeFileSync(said, JSON.stringify(made));
  return paths;
}

/** Sizes of shoots: one of a twentieth of all, some of a two-hundredth, and the rest of 50 to 272 frames. */
function shootSizes(frames) {
  const sizes = [Math.floor(frames / 20), ...Array.from({ length: 30 }, () => Math.floor(frames / 200))];
  let left = frames - sizes.reduce((a, b) => a + b, 0);
  for (let i = 0; left > 0; i++) {
    const size = Math.min(left, 50 + ((i * 7919) % 223));
    sizes.push(size);
    left -= size;
  }
  return sizes;
}

function fill(file, frames, log) {
  const db = new Database(file);
  db.pragma('foreign_keys = OFF');
  db.pragma('journal_mode = DELETE');
  db.pragma('journal_mode = OFF');
  db.pragma('locking_mode = EXCLUSIVE');
  db.pragma('synchronous = OFF');
  db.pragma('cache_size = -400000');
  db.function('checksum', { deterministic: true }, (text) =>
    createHash('sha256').update(String(text)).digest('hex'),
  );
  const columns = (table) => db.pragma(`table_info("${table}")`).map(({ name }) => name);
  const indexes = db
    .prepare(`SELECT name, sql FROM sqlite_master WHERE type = 'index' AND sql IS NOT NULL`)
    .all();
  for (const { name } of indexes) db.exec(`DROP INDEX "${name}"`);
  const run = (what, sql, ...parameters) => {
    const begun = process.hrtime.bigint();
    const { changes } = db.prepare(sql).run(...parameters);
    log(`  ${what}: ${changes} in ${(Number(process.hrtime.bigint() - begun) / 1e9).toFixed(1)} s`);
  };
  /** A row of a table as it is, but for these columns. */
  const like = (table, alias, changed) => {
    const names = columns(table).filter((name) => !(name in changed && changed[name] === null));
    return {
      into: `"${table}" (${names.map((n) => `"${n}"`).join(', ')})`,
      values: names.map((name) => changed[name] ?? `${alias}."${name}"`).join(', '),
    };
  };
  db.exec('BEGIN');
  // Which frame is in which shoot, and which shoot on which drives.
  db.exec(
    `CREATE TEMP TABLE part (n integer PRIMARY KEY, first integer, size integer, id text, year integer)`,
  );
  const part = db.prepare(`INSERT INTO part VALUES (?, ?, ?, ?, ?)`);
  let first = 0;
  const sizes = shootSizes(frames);
  sizes.forEach((size, n) => {
    part.run(
      n,
      first,
      size,
      `00S${String(n).padStart(23, '0')}`,
      2016 + Math.floor((n * YEARS) / sizes.length),
    );
    first += size;
  });
  db.exec('CREATE TEMP TABLE num (n integer PRIMARY KEY)');
  db.exec(`INSERT INTO num WITH RECURSIVE i(n) AS (SELECT 0 UNION ALL SELECT n + 1 FROM i WHERE n < ${frames - 1})
    SELECT n FROM i`);
  db.exec(
    `CREATE TEMP TABLE at (n integer PRIMARY KEY, shoot text, s integer, i integer, year integer, k integer)`,
  );
  db.exec(`INSERT INTO at SELECT p.first + u.n, p.id, p.n, u.n, p.year, (p.first + u.n) % ${TEMPLATE_FRAMES}
    FROM part p CROSS JOIN num u WHERE u.n < p.size`);
  db.exec(`CREATE TEMP TABLE tf AS SELECT row_number() OVER (ORDER BY key) - 1 AS k, * FROM frame`);
  db.exec(`CREATE UNIQUE INDEX temp.tfk ON tf (k)`);
  const [shoot, volume, asset, arrival, text] = ['shoot', 'volume', 'asset', 'arrival', 'frame_text'].map(
    (table) => db.prepare(`SELECT * FROM "${table}" LIMIT 1`).get(),
  );
  const own = db
    .prepare(`SELECT id FROM volume ORDER BY "addedAt", id`)
    .all()
    .map(({ id }) => id);
  db.exec(`CREATE TEMP TABLE drive (year integer, id text)`);
  const drive = db.prepare(`INSERT INTO drive VALUES (?, ?)`);
  const other = db.prepare(
    `INSERT INTO volume (id, name, root, role, device, stated, "addedAt", "countedAs") VALUES (?, ?, ?, ?, ?, ?, 1, ?)`,
  );
  for (let i = 0; i < OTHER_DRIVES; i++) {
    const role = i % 2 === 0 ? 'working' : 'backup';
    other.run(
      `00V${String(i).padStart(23, '0')}`,
      `Shelf ${i + 1}`,
      `/no/such/drive/${i}`,
      role,
      `stated shelf-${i}`,
      `shelf-${i}`,
      `stated shelf-${i} ${role}`,
    );
  }
  // The newest two years lie on the drives that are here.
  for (let year = 0; year < YEARS; year++)
    for (const side of [0, 1]) {
      const pair =
        year >= YEARS - 2
          ? own[side]
          : `00V${String((year % (OTHER_DRIVES / 2)) * 2 + side).padStart(23, '0')}`;
      drive.run(2016 + year, pair);
    }

  const q = (value) => `'${String(value).replaceAll("'", "''")}'`;
  const folder = `a.year || '/' || a.year || '-06-01_shoot-' || a.s`;
  const frameId = (n) => `'00F' || printf('%023d', ${n})`;
  const s = like('shoot', 's', {
    id: 'p.id',
    title: `'Shoot ' || p.n`,
    date: `p.year || printf('-%02d-%02d', 1 + p.n % 12, 1 + p.n % 28)`,
    folders: `json_array(p.year || '/' || p.year || '-06-01_shoot-' || p.n)`,
    createdAt: `(p.year - 1970) * 31557600000 + p.n * 60000`,
    touchedAt: `(p.year - 1970) * 31557600000 + p.n * 60000`,
  });
  run('shoots', `INSERT INTO ${s.into} SELECT ${s.values} FROM part p, shoot s WHERE s.id = ?`, shoot.id);
  const f = like('frame', 't', {
    key: null,
    id: frameId('a.n'),
    shootId: 'a.shoot',
    name: `'shoot-' || a.s || '_' || printf('%05d', a.i)`,
    folder,
    place: `${folder} || '/originals'`,
    shownBy: `'00B' || printf('%023d', a.n)`,
    verdict: `CASE a.n % 5 WHEN 0 THEN 'keep' WHEN 1 THEN 'reject' ELSE 'undecided' END`,
    stars: `CASE WHEN a.n % 5 = 0 THEN a.n % 6 ELSE 0 END`,
    instant: `(a.year - 1970) * 31557600000 + a.s * 3600000 + a.i * 1700`,
    local: `strftime('%Y-%m-%dT%H:%M:%S', (a.year - 1970) * 31557600 + a.s * 3600 + (a.i * 17) / 10, 'unixepoch')`,
    format: `'dng+jpeg'`,
    raw: `'pair'`,
    markedAt: `CASE WHEN a.n % 5 < 2 THEN (a.year - 1970) * 31557600000 ELSE 0 END`,
    sidecarDue: '0',
  });
  run(
    'frames',
    `INSERT INTO ${f.into} SELECT ${f.values} FROM at a CROSS JOIN tf t ON t.k = a.k ORDER BY a.n`,
  );
  run(
    'texts',
    `INSERT INTO frame_text ("frameId", "apertureText", "exposureText", "sidecarBase")
       SELECT ${frameId('a.n')}, ?, ?, ? FROM at a ORDER BY a.n`,
    ...[text.apertureText, text.exposureText, text.sidecarBase],
  );
  // A raw and a JPEG each, and a note to every fifth.
  const kinds = [
    ['A', 'original', 'dng', 1, '.dng', '1'],
    ['B', 'original', 'jpeg', 0, '.jpg', '1'],
    ['C', 'note', 'wav', 0, '.wav', 'a.n % 5 = 0'],
  ];
  for (const [letter, role, format, raw, ending, where] of kinds) {
    const row = like('asset', 'x', {
      id: `'00${letter}' || printf('%023d', a.n)`,
      shootId: 'a.shoot',
      frameId: frameId('a.n'),
      role: q(role),
      format: q(format),
      raw: String(raw),
      sha256: `checksum('${letter}' || a.n)`,
      size: `${raw ? 24_000_000 : 9_000_000} + a.n % 100000`,
      name: q(ending),
      cardPath: `'DCIM/100OCKHM/OCK_' || printf('%04d', a.i % 10000) || '${ending.toUpperCase()}'`,
      devices: '2',
    });
    run(
      `files ${ending}`,
      `INSERT INTO ${row.into} SELECT ${row.values} FROM at a, asset x WHERE x.id = ? AND ${where} ORDER BY a.n`,
      asset.id,
    );
  }
  const list = kinds.map(
    ([letter, , , , ending, where]) =>
      `SELECT '00${letter}' || printf('%023d', n) AS id, n, s, i, shoot, year, '${ending}' AS ending FROM at a WHERE ${where}`,
  );
  for (const part of list)
    run(
      'copies',
      `INSERT INTO copy ("assetId", "volumeId", path, size, mtime, "verifiedAt", "pastCache")
       SELECT l.id, d.id, NULL, NULL, NULL, (l.year - 1970) * 31557600000, 1 FROM (${part}) l
       JOIN drive d ON d.year = l.year ORDER BY l.id, d.id`,
    );
  run(
    'shoots on drives',
    `INSERT INTO shoot_volume SELECT p.id, d.id FROM part p JOIN drive d ON d.year = p.year`,
  );
  run(
    'sidecars',
    `INSERT INTO own_text ("volumeId", path, sha256) SELECT d.id, ${folder} || '/originals/shoot-' || a.s || '_' || printf('%05d', a.i) || '.xmp', checksum(a.n)
     FROM drive d JOIN at a ON a.year = d.year ORDER BY 1, 2`,
  );
  run(
    'journal',
    `INSERT INTO operation (id, kind, subject, "shootId", "from", "to", at, by, "group", window, overtook)
     SELECT '00O' || printf('%023d', n), 'verdict', ${frameId('n')}, shoot, '"undecided"',
       CASE n % 5 WHEN 0 THEN '"keep"' ELSE '"reject"' END, (year - 1970) * 31557600000 + i, '', '00G' || printf('%023d', n), 'w', 0
     FROM at WHERE n % 5 < 2 ORDER BY n`,
  );
  const v = like('arrival', 'v', {
    id: `'00R' || substr(p.id, 4)`,
    visit: `'00R' || substr(p.id, 4)`,
    title: `'Shoot ' || p.n`,
    card: `'card-' || p.n % 20`,
    fingerprint: `substr(checksum(p.id), 1, 32)`,
    shootId: 'p.id',
    folders: `json_array(p.year || '/' || p.year || '-06-01_shoot-' || p.n)`,
    at: `(p.year - 1970) * 31557600000 + p.n * 60000`,
  });
  run(
    'arrivals',
    `INSERT INTO ${v.into} SELECT ${v.values} FROM part p, arrival v WHERE v.id = ?`,
    arrival.id,
  );
  run(
    'files of arrivals',
    `INSERT INTO arrival_file ("arrivalId", seq, "from", "to", "frameId", role, format, raw, size, "mtimeMillis", known,
       number, fate, sha256, progress)
     SELECT '00R' || substr(l.shoot, 4), l.i * 3 + unicode(substr(l.id, 3, 1)) - 65,
       'DCIM/100OCKHM/OCK_' || printf('%04d', l.i % 10000) || upper(l.ending) || CASE WHEN l.i >= 10000 THEN l.i / 10000 ELSE '' END,
       l.year || '/' || l.year || '-06-01_shoot-' || l.s || '/originals/shoot-' || l.s || '_' || printf('%05d', l.i) || l.ending,
       ${frameId('l.n')}, x.role, x.format, x.raw, x.size, 0, 0, NULL, 'copied', x.sha256,
       '{"sha256":"' || x.sha256 || '","targets":{},"alreadyHere":null,"sourceError":null}'
     FROM (${list.join(' UNION ALL ')}) l CROSS JOIN asset x ON x.id = l.id ORDER BY 1, 2`,
  );
  run(
    'hand-offs',
    `INSERT INTO handoff (id, "shootId", "volumeId", frames, at, "finishedAt") SELECT '00H' || substr(p.id, 4), p.id, ?, p.size / 5, (p.year - 1970) * 31557600000, (p.year - 1970) * 31557600000
     FROM part p`,
    volume.id,
  );
  run(
    'files of hand-offs',
    `INSERT INTO handoff_file SELECT '00H' || substr(shoot, 4), i, ${frameId('n')}, '00B' || printf('%023d', n), 'original',
       'from', 'selects/' || i || '.jpg', 9000000, checksum('B' || n), 'copied' FROM at WHERE n % 5 = 0 ORDER BY 1, 2`,
  );
  run(
    'what lies with editing',
    `INSERT INTO handed ("volumeId", path, "shootId", "frameId", "handoffId", sha256, size)
     SELECT h."volumeId", h."shootId" || '/' || f."to", h."shootId", f."frameId", h.id, f.sha256, f.size
     FROM handoff_file f JOIN handoff h ON h.id = f."handoffId" WHERE f.fate = 'copied'`,
  );
  run(
    'deliveries',
    `INSERT INTO delivery (id, "shootId", "volumeId", name, title, spec, folder, zip, at, "finishedAt") SELECT '00D' || substr(p.id, 4), p.id, ?, 'Web set', 'Shoot ' || p.n || ' · Web set', '{}', 'delivery/web-set',
       '{"path":"delivery/web-set.zip","size":1,"sha256":"' || checksum(p.n) || '"}', (p.year - 1970) * 31557600000,
       (p.year - 1970) * 31557600000 FROM part p`,
    volume.id,
  );
  run(
    'files of deliveries',
    `INSERT INTO delivery_file ("deliveryId", seq, "frameId", picture, "from", "to", fate, sha256, size, width, height) SELECT '00D' || substr(shoot, 4), i, ${frameId('n')}, checksum('B' || n), 'name', 'delivery/' || i || '.jpg',
       'made', checksum('D' || n), 900000, 2048, 1365 FROM at WHERE n % 5 = 0 ORDER BY 1, 2`,
  );
  db.exec('COMMIT');
  for (const { name, sql } of indexes) {
    const begun = process.hrtime.bigint();
    db.exec(sql);
    log(`  index ${name} in ${(Number(process.hrtime.bigint() - begun) / 1e9).toFixed(1)} s`);
  }
  run(
    'numbers of shoots',
    `UPDATE shoot SET frames = c.frames, keepers = c.keepers, rejects = c.rejects FROM (
       SELECT "shootId" AS id, COUNT(*) AS frames, SUM(verdict = 'keep') AS keepers, SUM(verdict = 'reject') AS rejects
       FROM frame GROUP BY "shootId") c WHERE c.id = shoot.id`,
  );
  run(
    'files of shoots',
    `UPDATE shoot SET files = c.files, "missingCopies" = 0 FROM (
       SELECT "shootId" AS id, COUNT(*) AS files FROM asset GROUP BY "shootId") c WHERE c.id = shoot.id`,
  );
  run(
    'numbers of drives',
    `UPDATE volume SET files = c.files, bytes = c.bytes FROM (
       SELECT y."volumeId" AS id, COUNT(*) AS files, SUM(x.size) AS bytes FROM copy y JOIN asset x ON x.id = y."assetId"
       GROUP BY y."volumeId") c WHERE c.id = volume.id`,
  );
  db.exec('ANALYZE');
  db.pragma('locking_mode = NORMAL');
  db.pragma('journal_mode = WAL');
  db.close();
}
