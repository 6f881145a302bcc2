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
const isOwn = (name) =>
  ['.arkiv-volume.json', 'filler', 'lost+found'].includes(name) ||
  /(^|\/)\.arkiv(-archive)?\//.test(name) ||
  /^\.arkiv-bin\/[^/]+\/bin\.json$/.test(name) ||
  isDelivered(name) ||
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
  return null;
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
        const problem = textProblem(path.join(places[name], file));
        if (problem) problems.push(`${name}/${file} ${problem}`);
      } else if (!sums.has(sum) && !strangers.has(sum))
        problems.push(`${name}/${file} is no whole file of the card`);
    }
  const card = new Set(manifestOf(places.card).values());
  const on = drives.map(([, files]) => new Set([...files].filter(([f]) => !isPart(f)).map(([, sum]) => sum)));
  for (const [file, sum] of wanted) {
    if (card.has(sum)) continue;
    const copies = on.filter((drive) => drive.has(sum)).length;
    if (copies < (spread ? 2 : 1)) problems.push(`LOST: ${file} is on ${copies} drives and not on the card`);
  }
  return problems;
}

/** What must hold when all work is at rest: archive, receipts and drives agree, and nothing temporary is left. */
export function atRest(wanted, { copies = 2, strangers = new Set(), damaged = false } = {}) {
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
      `SELECT f.name, f.place, f.folder, f."shootId", a."at" AS path FROM frame_here f JOIN asset_at a ON a."frameId" = f.id`,
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
    if ((counts.get(sum)?.size ?? 0) < copies)
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
