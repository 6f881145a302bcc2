// Describing many frames at once: twenty keywords on five thousand frames, how soon they are shown, durable, and in the sidecars of
// two drives; and filtering a vocabulary of fifty thousand terms with each key. `--frames N` (5,000). Floors: the same operations as
// plain rows of a database, files of the same size written and flushed by this process alone, and a plain scan of all terms.
import { readFileSync, readdirSync } from 'node:fs';
import { mkdir, open, rename } from 'node:fs/promises';
import { createRequire } from 'node:module';
import path from 'node:path';
import { ROOT } from '../bootstrap.mjs';
import { seeded } from '../demo/random.mjs';
import { freshFolder, jobDone, prepareIntake, seconds, startServer } from './lib.mjs';
import { manyPictures } from './material.mjs';

const require = createRequire(path.join(ROOT, 'apps/server/package.json'));
const Database = require('better-sqlite3');
const { applyMark, keywordKind, TermSearch, UNMARKED, Vocabulary } = require('@arkiv/core');
const { ulid } = require('ulid');

const PORT = 4821;
const FRAMES = 5000;
const KEYWORDS = 20;
/** Operations of one request: what a window sends. */
const PART = 2000;
const TERMS = 50_000;
/** Seconds, sidecars a second, and milliseconds. */
const FLOORS = { durable: 2, sidecars: 60, key: 50 };

const figure = (name, value, unit, floor, ratio, more = {}) => ({
  ...{ name, value: Number(value.toPrecision(4)), unit, floor: Number(floor.toPrecision(4)) },
  ...{ ratio: Number(ratio.toPrecision(4)), ...more },
});

export async function describe({ frames = FRAMES, log }) {
  return [...(await batch(frames, log)), tree()];
}

async function batch(frames, log) {
  const card = freshFolder('describe-card');
  const drives = [freshFolder('describe-a'), freshFolder('describe-b')];
  const data = freshFolder('describe-data');
  log(`${frames} frames are taken in …`);
  await manyPictures(card, frames);
  const server = await startServer(data, PORT);
  try {
    const { jobId, shootId } = await server.post('/intakes', await prepareIntake(server, card, drives));
    await jobDone(server, jobId);
    const db = new Database(path.join(data, 'archive.sqlite'), { readonly: true });
    const due = db.prepare(`SELECT COUNT(*) AS n FROM frame WHERE "sidecarDue" > 0`);
    const flushed = async () => {
      while (due.get().n > 0) await new Promise((resolve) => setTimeout(resolve, 50));
    };
    await flushed();
    const ids = db.prepare(`SELECT id FROM frame WHERE "shootId" = ? ORDER BY instant, name`).all(shootId);
    const shared = { at: Date.now(), group: ulid(), window: ulid(), from: false, to: true };
    const operations = ids.flatMap(({ id: subject }) =>
      Array.from({ length: KEYWORDS }, (_, i) => ({
        ...{ id: ulid(), subject, kind: keywordKind(`keyword of many ${i}`) },
        ...shared,
      })),
    );
    const marks = new Map(ids.map(({ id }) => [id, { ...UNMARKED }]));
    const shown = await seconds(() => {
      for (const operation of operations)
        marks.set(operation.subject, applyMark(marks.get(operation.subject), operation));
    });
    let durable = 0;
    const written = await seconds(async () => {
      durable = await seconds(async () => {
        for (let at = 0; at < operations.length; at += PART)
          await server.post('/marks', { operations: operations.slice(at, at + PART) });
      });
      await flushed();
    });
    const sidecars = drives.flatMap((drive) => sidecarsBelow(drive));
    const said = sidecars.filter((file) => readFileSync(file, 'utf8').includes('keyword of many 19')).length;
    if (said !== 2 * ids.length)
      throw new Error(`${said} of ${2 * ids.length} sidecars say the last keyword`);
    const bytes = readFileSync(sidecars[0]);
    db.close();
    const rows = plainRows(operations);
    const files = await plainFiles(bytes, ids.length);
    const rate = said / written;
    const plain = (2 * ids.length) / files;
    const more = { frames: ids.length, operations: operations.length };
    return [
      figure('describe.shown', shown * 1000, 'ms', 16, shown / 0.016, { ...more, of: 'core alone' }),
      figure('describe.durable', durable, 's', rows, durable / rows, { ...more, wanted: FLOORS.durable }),
      // A rate: the floor's by ours, so that more is worse here too.
      figure('describe.sidecars', rate, 'a second', plain, plain / rate, { wanted: FLOORS.sidecars }),
    ];
  } finally {
    await server.stop();
  }
}

const sidecarsBelow = (folder) =>
  readdirSync(folder, { recursive: true, withFileTypes: true }).flatMap((entry) =>
    entry.isFile() && entry.name.endsWith('.xmp') ? [path.join(entry.parentPath, entry.name)] : [],
  );

/** Seconds for the same operations as rows of a database that is as safe, in one transaction for each request. */
function plainRows(operations) {
  const db = new Database(path.join(freshFolder('describe-rows'), 'rows.sqlite'));
  db.pragma('journal_mode = WAL');
  db.pragma('synchronous = FULL');
  db.exec('CREATE TABLE operation (id TEXT PRIMARY KEY, subject TEXT, kind TEXT, said TEXT)');
  const insert = db.prepare('INSERT INTO operation VALUES (?, ?, ?, ?)');
  const part = db.transaction((some) => {
    for (const one of some) insert.run(one.id, one.subject, one.kind, JSON.stringify(one));
  });
  const began = performance.now();
  for (let at = 0; at < operations.length; at += PART) part(operations.slice(at, at + PART));
  const took = (performance.now() - began) / 1000;
  db.close();
  return took;
}

/** Seconds for so many files of these bytes on two places, each flushed under another name before it has its own. */
async function plainFiles(bytes, count) {
  const places = [freshFolder('describe-plain-a'), freshFolder('describe-plain-b')];
  for (const place of places) await mkdir(place, { recursive: true });
  return seconds(async () => {
    for (let i = 0; i < count; i++)
      for (const place of places) {
        const file = path.join(place, `${i}.xmp`);
        const handle = await open(`${file}.part`, 'wx');
        await handle.writeFile(bytes);
        await handle.sync();
        await handle.close();
        await rename(`${file}.part`, file);
      }
  });
}

/** A key in the field over a vocabulary: the list of what fits, letter by letter. */
function tree() {
  const random = seeded(9);
  const syllables = 'ba be bo da de di fa fi ga go ha he ka ki ko la le lo ma me mi na no pa ra re'.split(
    ' ',
  );
  const word = () =>
    Array.from({ length: 3 + Math.floor(random() * 2) }, () => syllables[Math.floor(random() * 26)]).join('');
  const terms = Array.from({ length: TERMS }, (_, i) => ({
    ...{ id: String(i), word: `${word()} ${i}`, parent: i < 20 ? null : String(Math.floor(random() * i)) },
    ...{ synonyms: random() < 0.3 ? [word()] : [], kind: 'subject', number: null, deliver: true },
  }));
  const search = new TermSearch(new Vocabulary(terms));
  const [times, plain] = [[], []];
  for (let i = 0; i < 60; i++) {
    const typed = word();
    for (let letters = 1; letters <= typed.length; letters++) {
      const asked = typed.slice(0, letters);
      let began = performance.now();
      search.find(asked, 300);
      times.push(performance.now() - began);
      began = performance.now();
      terms.filter((term) => [term.word, ...term.synonyms].some((its) => its.toLowerCase().includes(asked)));
      plain.push(performance.now() - began);
    }
  }
  const p95 = (list) => [...list].sort((a, b) => a - b)[Math.floor(list.length * 0.95)];
  return figure('describe.tree', p95(times), 'ms', p95(plain), p95(times) / p95(plain), {
    ...{ terms: TERMS, most: Number(Math.max(...times).toPrecision(3)), wanted: FLOORS.key },
  });
}
