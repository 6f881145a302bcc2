// A large archive: how long each question of a screen takes, how long the server's thread answers nobody, what a mark and
// an arriving file cost, how much memory it takes. `--frames N` (a million), on a database that is kept between runs.
import { cpSync, rmSync } from 'node:fs';
import { createServer } from 'node:http';
import path from 'node:path';
import { gzipSync } from 'node:zlib';
import { createRequire } from 'node:module';
import { ROOT } from '../bootstrap.mjs';
import {
  alternate,
  dropCaches,
  freshFolder,
  jobDone,
  median,
  prepareIntake,
  probe,
  residentMegabytes,
  startServer,
} from './lib.mjs';
import { manyPictures } from './material.mjs';
import { picturesOf } from './scale/pictures.mjs';
import { keysIn } from './scale/keys.mjs';
import { archiveOf } from './scale/make.mjs';
import { questions } from './scale/routes.mjs';

const { ulid } = createRequire(path.join(ROOT, 'apps/web/package.json'))('ulid');
const PORT = 4816;
/** Questions of each kind, so that the ninety-fifth of a hundred is one that was seen. */
const ASKED = 60;
const ROUTE = 50;
const MARK = 30;
const BLOCK = 50;
const START = 3;
const MEMORY = 500;
const KEY = 8;
/** Frames of a small shoot, at least: more than the sheet shows and the keys step through. */
const SMALL = 150;
/** Milliseconds: what one of the sixty newest shoots may cost on one drive. */
const MANIFEST = 20;
const OPEN = 2500;

/** What was done when, so that a pause of the server has a name. */
const done = [];
const doing = (name) => done.push({ name, at: Date.now() });
const whatWas = (at) => done.findLast((one) => one.at <= at)?.name ?? 'start';

/** The most memory while each thing was done. */
const mostBy = (memory) => {
  const most = new Map();
  for (const { at, megabytes } of memory)
    most.set(whatWas(at), Math.max(most.get(whatWas(at)) ?? 0, megabytes));
  return most;
};

const p95 = (values) => [...values].sort((a, b) => a - b)[Math.floor(values.length * 0.95)];
const millis = async (work) => {
  const begun = process.hrtime.bigint();
  await work();
  return Number(process.hrtime.bigint() - begun) / 1e6;
};
const figure = (name, unit, value, floor, more = {}) => {
  const made = { name, value: Number(value.toPrecision(3)), unit, floor };
  const whole = { ...made, ratio: Number((value / floor).toPrecision(3)), ...more };
  process.stderr.write(`  ${name} ${whole.value} ${unit}${more.first ? `, first ${more.first}` : ''}\n`);
  return whole;
};

export async function scale({ frames = 1_000_000, log }) {
  const made = await archiveOf(frames, log);
  // What is measured changes it: the archive that is kept stays as it is.
  const data = freshFolder('scale-data');
  rmSync(data, { recursive: true });
  cpSync(made.data, data, { recursive: true, mode: 2 });
  const cold = dropCaches();
  let server;
  const start = async (folder, port) =>
    (await millis(async () => (server = await startServer(folder, port)))) / 1000;
  // The same with nothing in it: what is left is the program's own.
  const empty = await start(freshFolder('scale-empty'), PORT + 2);
  await server.stop();
  dropCaches();
  const started = await start(data, PORT);
  const caches = cold ? 'dropped' : 'warm';
  const results = [
    figure('scale.start', 's', started, START, { frames, caches, empty: Number(empty.toPrecision(3)) }),
  ];
  // A minute after the start the day's share of copies would be read again, and none of the made ones is there: all of them would be
  // written down as damaged meanwhile. What reading again costs is measured at the end.
  await server.patch('/settings', { verifyDays: 0 });
  try {
    // Before anything asks beside it: on two cores the probes would take their share of the browser's time.
    results.push(...(await keys(server, data, frames, log)));
  } catch (error) {
    await server.stop();
    throw error;
  }
  const idle = createServer((_, response) => response.end('{}')).listen(PORT + 1);
  const endIdle = probe(`http://127.0.0.1:${PORT + 1}/`);
  const endOurs = probe(`${server.base}/api/nothing`);
  try {
    const memory = [];
    const watch = setInterval(
      () => memory.push({ at: Date.now(), megabytes: residentMegabytes(server.pid).server }),
      1000,
    );
    results.push(...(await routes(server, frames, log)));
    results.push(...(await marks(server, frames, log)));
    results.push(manifests(data, await server.get('/shoots'), frames, log));
    results.push(await intake(server, frames, log));
    log('verifying everything is begun …');
    doing('verify');
    const { jobId } = await server.post('/copies/verifications', {});
    await new Promise((resolve) => setTimeout(resolve, 5000));
    await server.post(`/jobs/${jobId}/cancel`);
    clearInterval(watch);
    const [ours, none] = [await endOurs(), await endIdle()];
    for (const { at, millis: long } of ours.worst.slice(0, 12))
      log(`nobody was answered for ${long.toFixed(0)} ms at ${whatWas(at)}`);
    for (const [name, most] of mostBy(memory)) log(`up to ${most.toFixed(0)} MB at ${name}`);
    results.push(
      figure('scale.block', 'ms', ours.p999, BLOCK, {
        ...{
          frames,
          idle: Number(none.p999.toPrecision(3)),
          most: Number(ours.most.toPrecision(3)),
          asked: ours.n,
        },
      }),
      figure('scale.memory', 'MB', Math.max(...memory.map(({ megabytes }) => megabytes)), MEMORY, { frames }),
    );
  } finally {
    idle.close();
    await server.stop();
    rmSync(data, { recursive: true, force: true });
  }
  return results;
}

/** Every question that a screen asks by GET, over shoots of different sizes. */
async function routes(server, frames, log) {
  const shoots = await server.get('/shoots');
  log(`${shoots.length} shoots on the first page`);
  const big = '00S' + '0'.repeat(23);
  const asked = await questions(server, big, ASKED, ROUTE);
  const results = [];
  for (const [name, { where, many, floor }] of Object.entries(asked)) {
    doing(name);
    const times = [];
    for (let i = 0; i < many; i++) times.push(await millis(() => server.get(where(i))));
    results.push(
      figure(`scale.${name}`, 'ms', p95(times), floor, { first: Number(times[0].toPrecision(3)), frames }),
    );
  }
  const body = JSON.stringify(await server.get(`/shoots/${big}/frames`));
  results.push(figure('scale.payload', 'MB', gzipSync(body).length / 1e6, 6, { frames }));
  return results;
}

/** One mark at a time, until the server says that it is durable. */
async function marks(server, frames, log) {
  log('marks …');
  doing('marks');
  const results = [];
  const big = '00S' + '0'.repeat(23);
  const [newest] = await server.get('/shoots');
  for (const [name, shoot] of [
    ['scale.mark', newest.id],
    ['scale.mark.largest', big],
  ]) {
    const { columns } = await server.frames(shoot);
    const times = [];
    for (let i = 0; i < ASKED; i++) {
      const its = {
        id: ulid(),
        subject: columns.id[i],
        kind: 'stars',
        from: columns.stars[i],
        to: (columns.stars[i] + 1) % 6,
      };
      const operation = { ...its, at: Date.now(), group: ulid(), window: 'bench' };
      times.push(await millis(() => server.post('/marks', { operations: [operation] })));
    }
    results.push(figure(name, 'ms', p95(times), MARK, { frames }));
  }
  return results;
}

/** What a manifest reads: its cost goes by the shoot's files, not by the drive's. The same query as the server's. */
function manifests(data, shoots, frames, log) {
  log('manifests …');
  doing('manifest');
  const require = createRequire(path.join(ROOT, 'apps/server/package.json'));
  const { COPIES_IN_FOLDER } = require('@arkiv/server/dist/shoots/shootTexts.service.js');
  const database = new (require('better-sqlite3'))(path.join(data, 'archive.sqlite'), { readonly: true });
  const volumes = database.prepare('SELECT id FROM volume').pluck().all();
  const query = database.prepare(COPIES_IN_FOLDER);
  const times = [];
  for (const { id, folders } of shoots)
    for (const volume of volumes) {
      const begun = process.hrtime.bigint();
      query.all(id, volume, folders[0].length + 1, `${folders[0]}/`);
      times.push(Number(process.hrtime.bigint() - begun) / 1e6);
    }
  database.close();
  return figure('scale.manifest', 'ms', p95(times), MANIFEST, { frames });
}

/** Frames of a shoot that are stepped through, with those that are made ready ahead. */
const STEPPED = 400;
/** A key in the largest shoot, and until that one stands; and the same key in a shoot of a few hundred frames. */
async function keys(server, data, frames, log) {
  log('keys in the largest shoot, and in a small one …');
  doing('keys');
  const big = '00S' + '0'.repeat(23);
  const few = (await server.get('/shoots')).find((shoot) => shoot.frames >= SMALL && shoot.frames < STEPPED);
  const of = async (shoot) => {
    const { count, columns } = await server.frames(shoot);
    await picturesOf(data, columns.picture.slice(0, STEPPED));
    return { count, ...(await keysIn(server, shoot, count)) };
  };
  const { count, opened, costs } = await of(big);
  const small = await of(few.id);
  return [
    figure('scale.open', 'ms', opened, OPEN, { frames: count, small: Math.round(small.opened) }),
    ...Object.entries(costs).map(([kind, cost]) =>
      figure(`scale.key.${kind}`, 'ms of script', cost, KEY, {
        ...{ frames: count, small: Number(small.costs[kind].toPrecision(3)), smallFrames: small.count },
      }),
    ),
  ];
}

/** Cards of so many files, each taken in here and in an archive that is new; a first one warms both and is not counted. */
const CARD = 120;
const CARDS = 4;
/** What a file adds to an intake here against in an archive that is new, the same card for both: the median of some, begun by each in turn. */
async function intake(server, frames, log) {
  log('taking in cards here and in a new archive …');
  doing('intake');
  const fresh = await startServer(freshFolder('scale-new'), PORT + 2);
  const take = (one, name) => async (i) => {
    const drives = ['a', 'b'].map((drive) => freshFolder(`scale-${name}-${i}-${drive}`));
    const request = await prepareIntake(one, cards[i], drives);
    const took = await millis(async () => {
      const { jobId } = await one.post('/intakes', { ...request, title: `${name} ${i}` });
      await jobDone(one, jobId);
    });
    return took / CARD;
  };
  const cards = [];
  for (let i = 0; i <= CARDS; i++) {
    cards.push(freshFolder(`scale-card-${i}`));
    await manyPictures(cards[i], CARD, i * CARD);
  }
  try {
    const { ours, floor } = await alternate(CARDS + 1, take(server, 'large'), take(fresh, 'new'));
    const [, ...ratios] = ours.map((one, i) => one / floor[i]);
    log(`each: ${ratios.map((one) => one.toFixed(2)).join(', ')}`);
    return {
      ...{ name: 'scale.intake', value: Number(median(ours.slice(1)).toPrecision(3)), unit: 'ms a file' },
      ...{ floor: 1.2, ratio: Number(median(ratios).toPrecision(3)), frames },
    };
  } finally {
    await fresh.stop();
  }
}
