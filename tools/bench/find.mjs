// Finding frames in a large archive: the first page with its count for words of every frequency, each further letter, all
// facets, how long the server's thread answers nobody meanwhile, how long reading all frames takes. `--frames N` (a million). The
// floor of each question is the same question to SQLite's own full-text index over the same words, in a file beside it.
import { cpSync, existsSync, rmSync } from 'node:fs';
import { createServer } from 'node:http';
import { createRequire } from 'node:module';
import path from 'node:path';
import { ROOT } from '../bootstrap.mjs';
import { seeded } from '../demo/random.mjs';
import { freshFolder, probe, residentMegabytes, startServer } from './lib.mjs';
import { archiveOf } from './scale/make.mjs';

const require = createRequire(path.join(ROOT, 'apps/server/package.json'));
const Database = require('better-sqlite3');
const { indexWords } = require('@arkiv/core');
const PORT = 4819;

const WORDS = 30_000;
/** Words of a caption, and keywords, of each frame: as what was measured before, see docs/bench.md. */
const [CAPTION, KEYWORDS] = [8, 6];
/** Hits of a word, at a million frames: questions are drawn from each band alike. */
const BANDS = [
  { name: 'rare', least: 10, most: 100 },
  { name: 'some', least: 100, most: 10_000 },
  { name: 'many', least: 10_000, most: 100_000 },
  { name: 'most', least: 100_000, most: 750_000 },
];
const QUESTIONS = 250;
const FACTS = ['≥3★', 'iso400', '2019', 'f/8', 'keep', '2018..2021', '-5★'];
/** Milliseconds, and megabytes. */
const FLOORS = { words: 60, count: 120, typing: 40, facets: 250, block: 30, read: 300 };

/** Pronounceable words, so that beginnings are shared as they are in languages: three syllables, and four. */
const SYLLABLES =
  'ba be bo da de di fa fi ga go ha he ka ki ko la le lo ma me mi na no pa ra re ri sa se to'.split(' ');
const wordOf = (i) => {
  const n = SYLLABLES.length;
  const three = SYLLABLES[i % n] + SYLLABLES[Math.floor(i / n) % n] + SYLLABLES[Math.floor(i / n / n) % n];
  return i < n ** 3 ? three : three + SYLLABLES[i % 7];
};

/** Ranks by Zipf's law: the word of rank r is there 1/r as often as the first. */
function zipf(random) {
  const sums = new Float64Array(WORDS);
  let sum = 0;
  for (let r = 0; r < WORDS; r++) sums[r] = sum += 1 / (r + 1);
  return () => {
    const wanted = random() * sum;
    let [low, high] = [0, WORDS - 1];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (sums[middle] < wanted) low = middle + 1;
      else high = middle;
    }
    return low;
  };
}

const p95 = (values) => [...values].sort((a, b) => a - b)[Math.floor(values.length * 0.95)];
const middle = (values) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)];
const millis = (begun) => Number(process.hrtime.bigint() - begun) / 1e6;

/** Gives each frame words, and puts the same into SQLite's own index beside them. */
function write(file, floorFile, frames, log) {
  const db = new Database(file);
  db.pragma('journal_mode = DELETE');
  db.pragma('journal_mode = OFF');
  db.pragma('synchronous = OFF');
  db.pragma('cache_size = -400000');
  const next = zipf(seeded(7));
  const words = (n, between) => Array.from({ length: n }, () => wordOf(next())).join(between);
  db.function('a_caption', () => words(CAPTION, ' '));
  db.function('some_keywords', () => [...new Set(words(KEYWORDS, ' ').split(' '))].join('\n'));
  let begun = process.hrtime.bigint();
  db.prepare(`UPDATE frame SET caption = a_caption(), keywords = some_keywords()`).run();
  log(`  words for ${frames} frames in ${(millis(begun) / 1000).toFixed(0)} s`);
  begun = process.hrtime.bigint();
  rmSync(floorFile, { force: true });
  const floor = new Database(floorFile);
  floor.pragma('synchronous = OFF');
  // The words are core's already: a tokenizer that changes nothing in them.
  floor.exec(`CREATE VIRTUAL TABLE words USING fts5(said, content='', tokenize='ascii', prefix='2 3')`);
  floor.exec(`CREATE VIRTUAL TABLE vocabulary USING fts5vocab(words, 'row')`);
  const insert = floor.prepare(`INSERT INTO words (rowid, said) VALUES (?, ?)`);
  floor.exec('BEGIN');
  for (const { key, name, original, caption, keywords } of db
    .prepare(`SELECT key, name, original, caption, keywords FROM frame WHERE state = 'here' ORDER BY key`)
    .iterate())
    insert.run(key, indexWords(`${name} ${original} ${caption} ${keywords.replaceAll('\n', ' ')}`).join(' '));
  floor.exec('COMMIT');
  const seconds = millis(begun) / 1000;
  log(`  SQLite’s index over them in ${seconds.toFixed(0)} s`);
  db.pragma('journal_mode = WAL');
  db.close();
  return { floor, seconds };
}

export async function find({ frames = 1_000_000, log }) {
  const made = await archiveOf(frames, log);
  const data = freshFolder('find-data');
  rmSync(data, { recursive: true });
  cpSync(made.data, data, { recursive: true, mode: 2 });
  if (!existsSync(path.join(data, 'archive.sqlite'))) throw new Error('the archive was not made');
  const { floor, seconds: floorSeconds } = write(
    path.join(data, 'archive.sqlite'),
    path.join(data, 'floor.sqlite'),
    frames,
    log,
  );
  const figures = [];
  const figure = (name, unit, value, limit, floorValue, more = {}) => {
    const round = (n) => Number(n.toPrecision(3));
    const whole = { name, value: round(value), unit, floor: limit, ratio: round(value / limit), frames };
    const against =
      floorValue === undefined ? {} : { bare: round(floorValue), times: round(value / floorValue) };
    process.stderr.write(
      `  ${name} ${whole.value} ${unit} (${limit})${against.bare ? `, bare ${against.bare}` : ''}\n`,
    );
    figures.push({ ...whole, ...against, ...more });
  };
  const server = await startServer(data, PORT);
  const before = residentMegabytes(server.pid).server;
  const idle = createServer((_, response) => response.end('{}')).listen(PORT + 1);
  try {
    const ask = (line, more = {}) => server.post('/find', { line, rejects: true, ...more });
    const begun = process.hrtime.bigint();
    const early = await ask('');
    log(`  while it is read: ${early.count} of ${frames} frames after ${millis(begun).toFixed(0)} ms`);
    for (;;) {
      const { reading } = await ask('nothing');
      if (!reading) break;
      await new Promise((resolve) => setTimeout(resolve, 200));
    }
    // What is alike is read behind it.
    figure('find.index', 's', millis(begun) / 1000, FLOORS.read, floorSeconds);
    await new Promise((resolve) => setTimeout(resolve, 3000));
    const memory = residentMegabytes(server.pid).server;
    log(`  memory: ${before.toFixed(0)} MB before, ${memory.toFixed(0)} MB after`);
    const random = seeded(11);
    const pick = (list) => list[Math.floor(random() * list.length)];
    const known = floor
      .prepare(`SELECT term, doc FROM vocabulary WHERE doc > 9 AND term NOT GLOB '*[0-9]*'`)
      .all();
    const scale = frames / 1_000_000;
    const bare = floor.prepare(`SELECT rowid FROM words WHERE words MATCH ? ORDER BY rowid DESC LIMIT 200`);
    const bareCount = floor.prepare(`SELECT count(*) AS n FROM words WHERE words MATCH ?`);
    const read = new Database(path.join(data, 'archive.sqlite'), { readonly: true });
    const rows = read.prepare(`SELECT * FROM frame WHERE key IN (SELECT value FROM json_each(?))`);
    let checked = 0;
    for (const band of BANDS) {
      const its = known.filter(
        ({ doc }) => doc >= Math.max(1, band.least * scale) && doc < band.most * scale,
      );
      const often = known.filter(({ doc }) => doc >= band.least * scale);
      if (its.length === 0) continue;
      const times = { ours: [], bare: [], bareCount: [] };
      for (let i = 0; i < QUESTIONS; i++) {
        const words = [pick(its).term];
        const facts = [];
        for (let more = Math.floor(random() * 4); more > 0; more--)
          if (random() < 0.5) words.push(pick(often).term);
          else facts.push(pick(FACTS));
        const line = `${[...words, ...facts].join(' ')} `;
        let at = process.hrtime.bigint();
        const found = await ask(line);
        times.ours.push(millis(at));
        const match = words.map((word) => `"${word}"`).join(' ');
        at = process.hrtime.bigint();
        const keys = bare.pluck().all(match);
        rows.all(JSON.stringify(keys));
        times.bare.push(millis(at));
        at = process.hrtime.bigint();
        const { n } = bareCount.get(match);
        times.bareCount.push(millis(at));
        // What is measured is right: the index of its own finds as many.
        if (facts.length === 0) {
          checked += 1;
          if (found.count !== n) throw new Error(`“${line}” finds ${found.count}, and SQLite’s index ${n}`);
        }
      }
      const name = { band: band.name, words: its.length };
      figure('find.words', 'ms', p95(times.ours), FLOORS.words, p95(times.bare), {
        ...name,
        middle: middle(times.ours).toFixed(1),
      });
      figure('find.count', 'ms', p95(times.ours), FLOORS.count, p95(times.bareCount), name);
    }
    log(`  ${checked} counts were the same as SQLite’s own`);
    await typing(ask, known, scale, bare, random, figure);
    await facets(server, ask, known, random, figure, read);
    // By themselves: probes ask every two milliseconds, and take their share of two cores from what they watch.
    const endIdle = probe(`http://127.0.0.1:${PORT + 1}/`);
    const endOurs = probe(`${server.base}/api/nothing`);
    const often = known.filter(({ doc }) => doc >= 100 * scale);
    for (let i = 0; i < 200; i++) {
      const { token } = await ask(`${pick(often).term} ${pick(FACTS)} `, { heading: 'shoot' });
      if (i % 4 === 0) await server.get(`/find/${token}/facets`);
    }
    const [ours, none] = [await endOurs(), await endIdle()];
    figure('find.block', 'ms', ours.p999, FLOORS.block, undefined, {
      ...{ idle: Number(none.p999.toPrecision(3)), most: Number(ours.most.toPrecision(3)), asked: ours.n },
    });
    figure('find.memory', 'MB', memory - before, 250, undefined, { whole: Math.round(memory) });
    read.close();
  } finally {
    idle.close();
    floor.close();
    await server.stop();
    rmSync(data, { recursive: true, force: true });
  }
  return figures;
}

/** Each further letter of a word, the question before it given up as a window does. */
async function typing(ask, known, scale, bare, random, figure) {
  const often = known.filter(({ doc }) => doc >= 100 * scale);
  const times = { ours: [], bare: [] };
  for (let i = 0; i < 120; i++) {
    const { term } = often[Math.floor(random() * often.length)];
    for (let n = 1; n <= term.length; n++) {
      const start = term.slice(0, n);
      let at = process.hrtime.bigint();
      await ask(start, { typing: true });
      times.ours.push(millis(at));
      at = process.hrtime.bigint();
      bare.pluck().all(`"${start}"*`);
      times.bare.push(millis(at));
    }
  }
  figure('find.typing', 'ms', p95(times.ours), FLOORS.typing, p95(times.bare), {
    middle: middle(times.ours).toFixed(1),
  });
  // A question that was overtaken holds up nothing: ten at once, of which the last is waited for.
  const last = [];
  for (let i = 0; i < 20; i++) {
    const { term } = often[Math.floor(random() * often.length)];
    const many = Array.from({ length: 9 }, (_, n) => ask(`"${term} ${often[n].term}"`, { typing: true }));
    const at = process.hrtime.bigint();
    await ask(term, { typing: true });
    last.push(millis(at));
    await Promise.all(many);
  }
  figure('find.overtaken', 'ms', p95(last), FLOORS.typing * 2, undefined, {
    middle: middle(last).toFixed(1),
  });
}

async function facets(server, ask, known, random, figure, read) {
  const times = { ours: [], bare: [] };
  const often = known.filter(({ doc }) => doc > 1000);
  for (let i = 0; i < 40; i++) {
    const line = i % 4 === 0 ? '' : `${often[Math.floor(random() * often.length)].term} `;
    const { token } = await ask(line);
    let at = process.hrtime.bigint();
    await server.get(`/find/${token}/facets`);
    times.ours.push(millis(at));
    if (i % 4 !== 0) continue;
    at = process.hrtime.bigint();
    // One of some twenty facets, by a database’s own means.
    read.prepare(`SELECT body, count(*) FROM frame WHERE state = 'here' GROUP BY body`).all();
    times.bare.push(millis(at));
  }
  figure('find.facets', 'ms', p95(times.ours), FLOORS.facets, p95(times.bare), {
    middle: middle(times.ours).toFixed(1),
  });
}
