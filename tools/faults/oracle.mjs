// Judges from outside: a manifest made by openssl before the run, the files on the drives, and the archive's rows read by
// the database's own library. Arkiv's receipts are judged, never believed.
import { execFileSync } from 'node:child_process';
import { existsSync, readdirSync, readFileSync, statSync } from 'node:fs';
import { createRequire } from 'node:module';
import path from 'node:path';
import { ROOT } from '../bootstrap.mjs';
import { places } from './world.mjs';

const Database = createRequire(path.join(ROOT, 'apps/server/package.json'))('better-sqlite3');

function filesBelow(folder, below = '') {
  if (!existsSync(path.join(folder, below))) return [];
  return readdirSync(path.join(folder, below)).flatMap((name) => {
    const relative = path.join(below, name);
    return statSync(path.join(folder, relative)).isDirectory() ? filesBelow(folder, relative) : [relative];
  });
}

/** Every file of a place, relative to it. */
export const below = (folder) => filesBelow(folder);

/** SHA-256 of every file below a folder, by openssl. */
export function manifestOf(folder) {
  const files = filesBelow(folder);
  if (files.length === 0) return new Map();
  const text = execFileSync('openssl', ['dgst', '-sha256', '-r', ...files], {
    cwd: folder,
    encoding: 'utf8',
    maxBuffer: 1e8,
  });
  return new Map(
    text
      .trim()
      .split('\n')
      .map((line) => [line.slice(66), line.slice(0, 64)]),
  );
}

const isPart = (name) => name.endsWith('.part');
/** The folder of drive b that plays a client's. */
export const OUTBOX = 'outbox';
/** What was made for clients: no file of the card, and none that the archive keeps. */
const isDelivered = (name) => /(^|\/)delivery\//.test(name);
/** Copies with editing: JPEGs among them say inside what is known of their frames, so they are no file of the card either. */
const isHanded = (name) => /(^|\/)selects\//.test(name);
/** A picture that came back from editing, as the photographer's program wrote it. */
const isEdit = (name) => /(^|\/)edits\/[^/]+\.jpg$/.test(name);
const isOwn = (name) =>
  ['.arkiv-volume.json', 'filler', 'lost+found'].includes(name) ||
  /(^|\/)\.arkiv(-archive)?\//.test(name) ||
  /^\.arkiv-bin\/[^/]+\/bin\.json$/.test(name) ||
  isDelivered(name) ||
  isHanded(name) ||
  name.startsWith(`${OUTBOX}/`) ||
  name.endsWith('.xmp');

/** What is ours is whole, too: JSON that reads, manifests of whole lines, sidecars and pictures that end, zips that unpack. */
function textProblem(file) {
  if (/\.(jpg|pdf|zip)$/.test(file)) return fileProblem(file);
  const text = readFileSync(file, 'utf8');
  if (file.endsWith('.json')) {
    try {
      JSON.parse(text);
      return null;
    } catch {
      return 'is no JSON';
    }
  }
  if (file.endsWith('.sha256'))
    return text === '' || /^(\\?[0-9a-f]{64} [ *].+\n)+$/.test(text) ? null : 'is cut off';
  if (file.endsWith('.xmp')) return /<\?xpacket end="w"\?>\s*$/.test(text) ? null : 'is cut off';
  return isHanded(file) && /\.(dng|wav|mov)$/.test(file) ? 'is no whole file of the card' : null;
}

function fileProblem(file) {
  if (file.endsWith('.zip')) {
    try {
      execFileSync('unzip', ['-tqq', file], { stdio: 'pipe' });
      return null;
    } catch {
      return 'does not unpack';
    }
  }
  const bytes = readFileSync(file);
  const whole = file.endsWith('.pdf')
    ? bytes.subarray(0, 5).toString('latin1') === '%PDF-' &&
      /%%EOF\s*$/.test(bytes.subarray(-8).toString('latin1'))
    : bytes.readUInt16BE(0) === 0xffd8 && bytes.readUInt16BE(bytes.length - 2) === 0xffd9;
  return whole ? null : 'is cut off';
}

/** A set of finished files holds what it should, its manifest says just that, and its zip is of the same. */
export function delivered(names) {
  const found = filesBelow(places.a).filter((file) => /(^|\/)delivery\/set\/manifest\.sha256$/.test(file));
  if (found.length !== 1) return [`${found.length} sets were made, not one`];
  const folder = path.join(places.a, path.dirname(found[0]));
  const problems = [];
  const there = filesBelow(folder).filter((file) => file !== 'manifest.sha256');
  const wrong = (of, list) => {
    if (JSON.stringify([...list].sort()) !== JSON.stringify([...names].sort()))
      problems.push(`${of} ${[...list].sort().join(', ')}, not ${names.join(', ')}`);
  };
  wrong('the set holds', there);
  const manifest = readFileSync(path.join(folder, 'manifest.sha256'), 'utf8').trim().split('\n');
  wrong(
    'the manifest says',
    manifest.map((line) => line.slice(66)),
  );
  const problem = sha256sum(folder, 'manifest.sha256');
  if (problem) problems.push(`the set: ${problem}`);
  const zipped = execFileSync('unzip', ['-Z1', `${folder}.zip`], { encoding: 'utf8' })
    .trim()
    .split('\n');
  wrong(
    'the zip holds',
    zipped.map((name) => name.slice('set/'.length)).filter((name) => name !== 'manifest.sha256'),
  );
  return problems;
}

/** Marks: a record has them as they were when it was written, the history says the rest. */
const MARKED =
  /^(verdict|stars|label|note|stage|take|piles|albums|caption|keywords|persons|texts|finish|markedAt|sidecarDue)$/;
/** What is counted, or what sidecars said last. */
const COUNTED = /^(sidecarBase|devices|frames|keepers|rejects|files|missingCopies|countedBy|leads|leadsAt)$/;
const TABLES = [
  'shoot',
  'frame',
  'frame_text',
  'asset',
  'copy',
  'damage',
  'bin',
  'binned_frame',
  'binned_file',
  'album',
  'pile',
];
const LEDGER = ['binned_copy', 'arrival', 'arrival_file', 'handoff', 'handoff_file', 'handed', 'returned'];
const OUT = [
  'returned_original',
  'delivery',
  'delivery_file',
  'sent',
  'sent_file',
  'gallery',
  'gallery_frame',
];

/** What each drive's records tell, the newest of each part, is what the database says. */
export function recorded() {
  const problems = [];
  // Of what was adopted on one drive, the other has nothing to say.
  const adopted = new Set(
    rowsOf(
      `WITH its AS (SELECT id FROM shoot WHERE "keptIn" IS NOT NULL)
       SELECT id FROM its UNION SELECT f.id FROM frame f JOIN its ON its.id = f."shootId"
       UNION SELECT a.id FROM asset a JOIN its ON its.id = a."shootId"`,
    ).map(({ id }) => id),
  );
  const isAdopted = ({ id, shootId, frameId, assetId }) =>
    [id, shootId, frameId, assetId].some((one) => adopted.has(one));
  for (const drive of ['a', 'b']) {
    const told = new Map([...TABLES, ...LEDGER, ...OUT].map((table) => [table, []]));
    const texts = filesBelow(places[drive]).filter(
      (file) => /\/record\/.*\.jsonl$/.test(file) && !/history/.test(file),
    );
    for (const file of texts) {
      const lines = readFileSync(path.join(places[drive], file), 'utf8').trimEnd().split('\n');
      const [head, ...rows] = lines.map((line) => JSON.parse(line));
      const { rows: count } = rows.pop();
      if (count !== rows.length || head.format !== 'arkiv-record')
        problems.push(`${file} on ${drive} is not whole`);
      for (const { is, ...row } of rows) told.get(is)?.push(row);
    }
    for (const [table, rows] of told) {
      const said = rows.map((row) => plain(row, row)).sort();
      const kept = rowsOf(`SELECT * FROM "${table}"`)
        .filter((row) => drive === 'a' || !isAdopted(row))
        .map((row) => plain(row, rows[0] ?? row))
        .sort();
      if (JSON.stringify(said) === JSON.stringify(kept)) continue;
      const odd = [
        ...kept.filter((one) => !said.includes(one)),
        ...said.filter((one) => !kept.includes(one)),
      ];
      problems.push(
        `${drive} records ${said.length} of ${kept.length} rows of ${table}: ${(odd[0] ?? 'twice').slice(0, 300)}`,
      );
    }
  }
  return problems;
}

/** A row as one text, however its values are kept; `like`: the columns that are compared. */
function plain(row, like) {
  const value = (one) => {
    if (typeof one === 'boolean') return Number(one);
    if (typeof one !== 'string' || !/^[[{"]|^null$/.test(one)) return one;
    try {
      return JSON.parse(one);
    } catch {
      return one;
    }
  };
  const columns = Object.keys(like).filter((column) => !MARKED.test(column) && !COUNTED.test(column));
  return JSON.stringify(columns.sort().map((column) => [column, value(row[column])]));
}

/** A picture as a program for editing writes it: another file than any of the card, made once. */
export const EDIT = { bytes: null, sha256: null };
export function makeEdit(jpeg) {
  const words = Buffer.from('edited');
  const segment = Buffer.concat([Buffer.from([0xff, 0xfe, 0, words.length + 2]), words]);
  EDIT.bytes = Buffer.concat([jpeg.subarray(0, 2), segment, jpeg.subarray(2)]);
  EDIT.sha256 = execFileSync('openssl', ['dgst', '-sha256', '-r'], {
    input: EDIT.bytes,
    encoding: 'utf8',
  }).slice(0, 64);
}

function rowsOf(query) {
  const database = new Database(path.join(places.data, 'archive.sqlite'), { readonly: true });
  try {
    return database.prepare(query).all();
  } finally {
    database.close();
  }
}

/**
 * What lies with editing is what the ledger says, neither more nor less, and pictures are the card's own: those of these frames, by their
 * places in the shoot, and nothing of others.
 */
export function handed(frames) {
  const problems = [];
  const said = new Map(
    rowsOf(
      `SELECT v.name || '/' || h.path AS at, h.sha256, h.written FROM handed h JOIN volume v ON v.id = h."volumeId"`,
    ).map(({ at, ...row }) => [at, row]),
  );
  const there = [...manifestOf(places.a)]
    .filter(([file]) => isHanded(file) && !/(^|\/)\.arkiv-bin\//.test(file) && !/\/notes\.csv$/.test(file))
    .map(([file, sum]) => [`a/${file}`, sum]);
  for (const [at, sum] of there) {
    const row = said.get(at);
    if (!row) problems.push(`the ledger does not say ${at}`);
    else if (row.sha256 !== null && sum !== (row.written ?? row.sha256))
      problems.push(`${at} is another file than the ledger says`);
  }
  for (const at of said.keys())
    if (!there.some(([file]) => file === at)) problems.push(`the ledger says ${at}, which is not there`);
  const own = rowsOf(
    `SELECT f.name, a."at" FROM frame_here f JOIN asset_at a ON a."frameId" = f.id ORDER BY f.name, a."at"`,
  );
  const names = [...new Set(own.map(({ name }) => name))];
  const wanted = frames.map((i) => names[i]);
  const of = new Set(there.map(([at]) => path.basename(at).split('.')[0]));
  if (JSON.stringify([...of].sort()) !== JSON.stringify([...wanted].sort()))
    problems.push(`with editing are ${[...of].sort().join(', ')}, not ${wanted.join(', ')}`);
  for (const [at] of there.filter(([file]) => file.endsWith('.jpg'))) {
    const original = own.find((row) => path.basename(row.at) === path.basename(at));
    if (original && !sameImage(path.join(places.a, at.slice(2)), path.join(places.a, original.at)))
      problems.push(`${at} does not show what ${original.at} shows`);
  }
  return problems;
}

/** Whether two JPEGs hold the same picture data: all from the first start of scan on. */
function sameImage(...files) {
  const [a, b] = files.map((file) => {
    const bytes = readFileSync(file);
    let at = 2;
    while (bytes[at + 1] !== 0xda) at += 2 + bytes.readUInt16BE(at + 2);
    return bytes.subarray(at);
  });
  return a.equals(b);
}

/** The edit that came back is known as one, of the first frame, which it was made from. */
export function returned() {
  const [{ name }] = rowsOf(`SELECT name FROM frame_here ORDER BY name LIMIT 1`);
  const rows = rowsOf(
    `SELECT r.name, r.state, f.name AS "of" FROM returned r LEFT JOIN returned_original o ON o."assetId" = r."assetId"
     LEFT JOIN frame f ON f.id = o."frameId"`,
  );
  const wanted = [{ name: `${name}-final.jpg`, state: 'matched', of: name }];
  return JSON.stringify(rows) === JSON.stringify(wanted)
    ? []
    : [`the archive says of edits ${JSON.stringify(rows)}, not ${JSON.stringify(wanted)}`];
}

/** A tree that was adopted where it lies: each of its pictures is one frame, and nothing in it was touched or put beside them. */
export function adopted(tree, sums) {
  const problems = [];
  const there = manifestOf(path.join(places.a, tree));
  if (JSON.stringify([...there].sort()) !== JSON.stringify([...sums].sort()))
    problems.push(`${tree} holds ${[...there.keys()].join(', ')}, not what lay there`);
  const rows = rowsOf(
    `SELECT "at", sha256, COUNT(*) AS times FROM copy_at WHERE "at" LIKE '${tree}/%' AND "verifiedAt" IS NOT NULL GROUP BY 1, 2 ORDER BY 1`,
  );
  const wanted = [...sums].map(([file, sha256]) => ({ at: `${tree}/${file}`, sha256, times: 1 }));
  wanted.sort((x, y) => (x.at < y.at ? -1 : 1));
  if (JSON.stringify(rows) !== JSON.stringify(wanted))
    problems.push(`the archive says of ${tree} ${JSON.stringify(rows).slice(0, 300)}`);
  return problems;
}

/** One of its shoots was taken in: each of its pictures lies once in that shoot's own folders, on both drives; nothing else in the tree was touched. */
export function tookIn(tree, sums, title) {
  const [shoot] = rowsOf(`SELECT folders, "keptIn" FROM shoot WHERE title = '${title}'`);
  const its = [...sums].filter(([file]) => file.startsWith(`${title}/`));
  const folders = JSON.parse(shoot.folders);
  const problems = shoot.keptIn === null ? [] : [`“${title}” is kept in ${shoot.keptIn}`];
  for (const drive of ['a', 'b']) {
    const there = folders.flatMap((folder) => [...manifestOf(path.join(places[drive], folder, 'originals'))]);
    const pictures = there.filter(([file]) => !file.endsWith('.xmp'));
    const [is, should] = [pictures, its].map((files) => files.map(([, sum]) => sum).sort());
    if (JSON.stringify(is) !== JSON.stringify(should))
      problems.push(`${folders.join(' and ')} hold ${pictures.map(([file]) => file).join(', ')} on ${drive}`);
  }
  const rest = [...sums].filter(([file]) => !file.startsWith(`${title}/`)).sort();
  const left = [...manifestOf(path.join(places.a, tree))].sort();
  if (JSON.stringify(left) !== JSON.stringify(rest))
    problems.push(`${tree} holds ${left.map(([file]) => file).join(', ')}`);
  return problems;
}

/** What lies at places of the card like these is on both drives, whole: it may be thrown away. */
export function proven(pattern) {
  const on = ['a', 'b'].map((name) => new Set(manifestOf(places[name]).values()));
  return [...manifestOf(places.card)]
    .filter(([file, sum]) => pattern.test(file) && !on.every((sums) => sums.has(sum)))
    .map(([file]) => `LOST: ${file} is where it may be thrown away, and not on both drives`);
}

/** Files that were sent, are whole, and wait to be taken in. */
export const unsent = () =>
  filesBelow(path.join(places.data, 'uploads')).filter((file) => /^[^/]+\/files\//.test(file));

/** The one album is called so and holds so many frames; each decision about it stands once in the journal, and once in each drive's history. */
export function inAlbum(name, count, operations) {
  const problems = [];
  const albums = rowsOf(`SELECT id, name FROM album WHERE NOT removed`);
  if (albums.length !== 1 || albums[0].name !== name) problems.push(`albums are ${JSON.stringify(albums)}`);
  const [{ n }] = rowsOf(`SELECT COUNT(*) AS n FROM frame WHERE instr(albums, '${albums[0]?.id}:') > 0`);
  if (n !== count) problems.push(`${n} frames are in the album, not ${count}`);
  const wanted = operations.map(({ id }) => id).sort();
  const same = (where, ids) => {
    if (JSON.stringify([...ids].sort()) !== JSON.stringify(wanted))
      problems.push(`${where} has ${ids.length} decisions about the album, not these ${wanted.length}`);
  };
  same(
    'the journal',
    rowsOf(`SELECT id FROM operation WHERE kind LIKE 'album %'`).map(({ id }) => id),
  );
  for (const drive of ['a', 'b'])
    same(
      `the history on ${drive}`,
      filesBelow(places[drive])
        .filter((file) => file.endsWith('/history.jsonl'))
        .flatMap((file) => readFileSync(path.join(places[drive], file), 'utf8').trimEnd().split('\n'))
        .map((line) => JSON.parse(line))
        .filter(({ kind }) => kind.startsWith('album '))
        .map(({ id }) => id),
    );
  return problems;
}

/** The pictures of galleries that the ledger calls made are there, whole, and nothing else is. */
export function shown(count) {
  const folder = path.join(places.data, 'galleries');
  const rows = rowsOf(`SELECT "galleryId", key, version, recipe FROM gallery_frame ORDER BY seq`);
  const problems = rows.length === count ? [] : [`the gallery has ${rows.length} pictures, not ${count}`];
  const wanted = rows
    .filter(({ recipe }) => recipe !== null)
    .flatMap(({ galleryId, key, version }) =>
      ['large.jpg', 'middle.jpg', 'small.webp'].map((size) => `${galleryId}/${key}-${version}-${size}`),
    );
  if (wanted.length !== 3 * count) problems.push(`${wanted.length} files of the gallery are said to be made`);
  const there = filesBelow(folder);
  for (const file of wanted) if (!there.includes(file)) problems.push(`${file} of the gallery is missing`);
  for (const file of there)
    if (!wanted.includes(file)) problems.push(`${file} of the gallery was left behind`);
  return [...problems, ...shownWhole()];
}

/** Each picture of a gallery that has its name is whole, at any moment. */
export function shownWhole() {
  const folder = path.join(places.data, 'galleries');
  return filesBelow(folder)
    .filter((file) => !isPart(file))
    .flatMap((file) => {
      const bytes = readFileSync(path.join(folder, file));
      const isWhole = file.endsWith('.webp')
        ? bytes.length > 12 && bytes.readUInt32LE(4) + 8 === bytes.length
        : fileProblem(path.join(folder, file)) === null;
      return isWhole ? [] : [`${file} of the gallery is cut off`];
    });
}

/** A set that was sent is there whole, as its manifest says, with its zip and nothing that was only begun. */
export function sent(names) {
  const folder = path.join(places.b, OUTBOX);
  const there = filesBelow(folder).sort();
  const wanted = [...names.map((name) => `set/${name}`), 'set/manifest.sha256', 'set.zip'].sort();
  const problems =
    JSON.stringify(there) === JSON.stringify(wanted)
      ? []
      : [`at the client lie ${there.join(', ')}, not ${wanted.join(', ')}`];
  const problem = problems.length === 0 ? sha256sum(path.join(folder, 'set'), 'manifest.sha256') : null;
  return problem ? [`at the client: ${problem}`] : problems;
}

/**
 * What must hold at any moment, a power cut included: nothing partial under a final name, and each content of the card
 * still whole somewhere. `spread`: it must be on both drives unless it is still on the card.
 */
export function atAnyMoment(wanted, { spread = false, strangers = new Set() } = {}) {
  const problems = [];
  const sums = new Set(wanted.values());
  const drives = ['a', 'b'].map((name) => [name, manifestOf(places[name])]);
  for (const [name, files] of drives)
    for (const [file, sum] of files) {
      if (isPart(file)) continue;
      if (isOwn(file)) {
        const whole = isHanded(file) && sums.has(sum);
        const problem = whole ? null : textProblem(path.join(places[name], file));
        if (problem) problems.push(`${name}/${file} ${problem}`);
      } else if (isEdit(file)) {
        // It is never written to, and a copy of it is as it is.
        if (sum !== EDIT.sha256) problems.push(`${name}/${file} is not as it came back`);
      } else if (!sums.has(sum) && !strangers.has(sum))
        problems.push(`${name}/${file} is no whole file of the card`);
    }
  problems.push(...shownWhole());
  // What was sent and proven to its sender is safe where it waits.
  const waiting = unsent().filter((file) => !isPart(file));
  const sent = waiting.length > 0 ? manifestOf(path.join(places.data, 'uploads')) : new Map();
  const card = new Set([...manifestOf(places.card).values(), ...waiting.map((file) => sent.get(file))]);
  const on = drives.map(([, files]) => new Set([...files].filter(([f]) => !isPart(f)).map(([, sum]) => sum)));
  for (const [file, sum] of wanted) {
    if (card.has(sum)) continue;
    const copies = on.filter((drive) => drive.has(sum)).length;
    if (copies < (spread ? 2 : 1)) problems.push(`LOST: ${file} is on ${copies} drives and not on the card`);
  }
  return problems;
}

/**
 * What must hold when all work is at rest: archive, receipts and drives agree, and nothing temporary is left. `stays`: files of the card
 * that are not taken.
 */
export function atRest(wanted, { copies = 2, strangers = new Set(), damaged = false, stays = null } = {}) {
  const problems = atAnyMoment(wanted, { strangers });
  const drives = new Map(['a', 'b'].map((name) => [name, manifestOf(places[name])]));
  for (const [name, files] of drives)
    for (const file of files.keys()) if (isPart(file)) problems.push(`${name}/${file} was left behind`);
  const database = new Database(path.join(places.data, 'archive.sqlite'), { readonly: true });
  const rows = database
    .prepare(
      `SELECT c."at" AS path, v.name AS volume, c.sha256, a."at" AS own FROM copy_at c
       JOIN asset_at a ON a.id = c."assetId" JOIN volume v ON v.id = c."volumeId"
       UNION ALL SELECT b.path, v.name, b.sha256, b.path FROM binned_copy b JOIN volume v ON v.id = b."volumeId"`,
    )
    .all();
  const frames = database
    .prepare(
      `SELECT f.name, f.place, f.folder, f."shootId", a."at" AS path FROM frame_here f JOIN asset_at a ON a."frameId" = f.id
       WHERE a.role <> 'edit'`,
    )
    .all();
  database.close();
  const known = new Set();
  const counts = new Map();
  for (const { path: at, volume, sha256, own } of rows) {
    known.add(`${volume}/${at}`);
    const there = drives.get(volume).get(at);
    if (there !== sha256)
      problems.push(
        `the archive says ${volume}/${at} is ${sha256.slice(0, 8)}; it is ${there?.slice(0, 8) ?? 'missing'}`,
      );
    if (at !== own) problems.push(`${volume}/${at} should be ${own}`);
    counts.set(sha256, (counts.get(sha256) ?? new Set()).add(volume));
  }
  for (const [name, files] of drives)
    for (const [file, sum] of files)
      if (!isOwn(file) && !file.includes('.arkiv/') && !strangers.has(sum) && !known.has(`${name}/${file}`))
        problems.push(`the archive does not know ${name}/${file}`);
  for (const [file, sum] of wanted)
    if (!stays?.test(file) && (counts.get(sum)?.size ?? 0) < copies)
      problems.push(`LOST: ${file} has ${counts.get(sum)?.size ?? 0} proven copies, not ${copies}`);
  // All files of a frame lie in its place under its name.
  for (const { name, place, path: at } of frames)
    if (!at.startsWith(`${place}/${name}.`) && !at.startsWith(`${place}/${name}_card.`))
      problems.push(`${at} is not at ${place}/${name}`);
  for (const [name, files] of drives)
    for (const file of files.keys())
      if (
        /\.arkiv\/manifest\.sha256$/.test(file) &&
        statSync(path.join(places[name], file)).size > 0 &&
        !damaged
      ) {
        const problem = sha256sum(
          path.join(places[name], path.dirname(path.dirname(file))),
          '.arkiv/manifest.sha256',
        );
        if (problem) problems.push(`${name}/${file}: ${problem}`);
      }
  return problems;
}

/** Receipts of an intake, as long as nothing has been moved since. */
export function receipts() {
  const problems = [];
  let found = 0;
  for (const name of ['a', 'b'])
    for (const file of filesBelow(places[name]).filter((f) => /receipts\/[^/]+\.sha256$/.test(f))) {
      found += 1;
      const folder = path.dirname(path.dirname(path.dirname(file)));
      const problem = sha256sum(path.join(places[name], folder), path.relative(folder, file));
      if (problem) problems.push(`${name}/${file}: ${problem}`);
    }
  if (found === 0) problems.push('no receipt was left');
  return problems;
}

function sha256sum(folder, manifest) {
  try {
    execFileSync('sha256sum', ['-c', '--strict', '--quiet', manifest], { cwd: folder, stdio: 'pipe' });
    return null;
  } catch (error) {
    return `sha256sum does not accept it: ${String(error.stdout).trim().split('\n')[0]}`;
  }
}
