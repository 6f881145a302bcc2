// A card that was just put in: how soon its first small pictures and all its facts are there, and what it costs to ask
// a large archive whether it has the frames already.
import { createRequire } from 'node:module';
import path from 'node:path';
import { ROOT } from '../bootstrap.mjs';
import {
  alternate,
  bytesOf,
  compare,
  dropCaches,
  freshFolder,
  median,
  prepareIntake,
  seconds,
  shell,
  startServer,
} from './lib.mjs';
import { manyPictures } from './material.mjs';

const Database = createRequire(path.join(ROOT, 'apps/server/package.json'))('better-sqlite3');
const FRAMES = 1000;
/** Pictures on the first screen of the sheet at 1280 × 800, and one row more. */
const FIRST_SCREEN = 30;
const ASSETS = 200_000;

export async function card({ files = FRAMES, rounds = 5, log }) {
  const folder = freshFolder('card');
  log(`making ${files} pictures …`);
  await manyPictures(folder, files);
  const cold = dropCaches();
  const screen = [];
  const ours = async () => {
    const server = await startServer(freshFolder('data'), 4812);
    try {
      const reader = await server.post('/readers', { root: folder, name: 'card' });
      dropCaches();
      let listed;
      const facts = await seconds(async () => {
        listed = await server.get(`/readers/${reader.id}/card`);
      });
      if (listed.frames.filter((frame) => frame.facts.capture && frame.facts.exposure).length !== files)
        throw new Error('not all facts were read');
      return facts;
    } finally {
      await server.stop();
    }
  };
  /** From putting the card in to the first screen, as the page asks: names, then pictures six at a time, facts meanwhile. */
  const first = async () => {
    const server = await startServer(freshFolder('data'), 4812);
    try {
      const reader = await server.post('/readers', { root: folder, name: 'card' });
      dropCaches();
      const facts = server.get(`/readers/${reader.id}/card`);
      screen.push(
        await seconds(async () => {
          const { frames, fingerprint } = await server.get(`/readers/${reader.id}/listing`);
          const todo = frames.slice(0, FIRST_SCREEN);
          const lane = async () => {
            for (let frame = todo.shift(); frame; frame = todo.shift())
              await bytesOf(
                `${server.base}/api/readers/${reader.id}/picture?size=thumb&card=${fingerprint}&path=${encodeURIComponent(frame.files[0].path)}`,
              );
          };
          await Promise.all(Array.from({ length: 6 }, lane));
        }),
      );
      await facts;
    } finally {
      await server.stop();
    }
  };
  const floor = () => {
    dropCaches();
    return shell('exiftool -fast2 -j -r -q "$CARD" > /dev/null', { CARD: folder });
  };
  const times = await alternate(rounds, ours, floor);
  for (let i = 0; i < rounds; i++) await first();
  const known = await knownIn(folder, log);
  return [
    compare('card.list', 's', times.ours, times.floor, { frames: files, caches: cold ? 'dropped' : 'warm' }),
    {
      name: 'card.first',
      value: Number(median(screen).toPrecision(3)),
      unit: 's',
      floor: 1, // a card's pictures should be there before the hand is back on the keys
      ratio: Number(median(screen).toPrecision(3)),
      pictures: FIRST_SCREEN,
      frames: files,
    },
    known,
  ];
}

/** The same card asked about in an archive that holds `ASSETS` others and all of its own frames. */
async function knownIn(folder, log) {
  log(`an archive of ${ASSETS} assets …`);
  const data = freshFolder('data');
  const drives = [freshFolder('ours-a'), freshFolder('ours-b')];
  let server = await startServer(data, 4812);
  const request = await prepareIntake(server, folder, drives);
  await server.stop();
  fill(path.join(data, 'archive.sqlite'), request.targets);
  server = await startServer(data, 4812);
  try {
    const { frames } = await server.get(`/readers/${request.readerId}/card`);
    archive(path.join(data, 'archive.sqlite'), request.targets, frames);
    const times = [];
    let found = [];
    for (let i = 0; i < 7; i++) {
      times.push(
        await seconds(async () => {
          found = await server.get(`/readers/${request.readerId}/known`);
        }),
      );
    }
    // The card is listed anew for each question; what that costs is reading, and is taken off.
    const listing = [];
    for (let i = 0; i < 7; i++)
      listing.push(await seconds(() => server.get(`/readers/${request.readerId}/summary`)));
    if (found.length !== frames.length)
      throw new Error(`${found.length} of ${frames.length} frames were known`);
    const perFile = Math.max(0, (1000 * (median(times) - median(listing))) / frames.length);
    return {
      name: 'card.known',
      value: Number(perFile.toPrecision(3)),
      unit: 'ms a file',
      floor: 2, // above this a card of 5,000 frames would wait ten seconds
      ratio: Number((perFile / 2).toPrecision(3)),
      assets: ASSETS,
      withListing: Number(((1000 * median(times)) / frames.length).toPrecision(3)),
    };
  } finally {
    await server.stop();
  }
}

const id = (prefix, n) => prefix + String(n).padStart(26 - prefix.length, '0');

function open(file) {
  const database = new Database(file);
  database.pragma('foreign_keys = OFF');
  return database;
}

const SHOOT = id('SHOOT', 1);

function insertFrames(database, rows, targets) {
  const frame = database.prepare(
    `INSERT INTO frame (id, "shootId", state, name, original, folder, place, verdict, stars, label, instant, local, millis,
       "offsetMinutes", "correctionMillis", body, serial, orientation, role, format, raw, "markedAt", "sidecarDue")
     VALUES (?, '${SHOOT}', 'here', ?, ?, 'f', 'f/originals', 'undecided', 0, NULL, 0, ?, ?, NULL, 0, NULL, ?, 1, 'original',
       'jpeg', 'none', 0, 0)`,
  );
  const asset = database.prepare(
    `INSERT INTO asset (id, "shootId", "frameId", role, format, raw, sha256, size, name, "cardPath")
     VALUES (?, '${SHOOT}', ?, 'original', 'jpeg', 0, ?, ?, '.jpg', ?)`,
  );
  const copy = database.prepare(
    `INSERT INTO copy ("assetId", "volumeId", "verifiedAt", "pastCache") VALUES (?, ?, 0, 1)`,
  );
  database.transaction(() => {
    for (const { key, local, millis, serial, size } of rows) {
      frame.run(id('F', key), `name_${key}`, `OCK_${key}`, local, millis, serial);
      asset.run(id('A', key), id('F', key), String(key).padStart(64, '0'), size, `DCIM/100OCKHM/${key}.JPG`);
      for (const volume of targets) copy.run(id('A', key), volume);
    }
  })();
}

/** Years of other pictures: bursts within a second, sizes that repeat as raws' do. */
function fill(file, targets) {
  const database = open(file);
  database
    .prepare(
      `INSERT INTO shoot (id, title, date, client, place, folders, plan, pattern, "nextSeq", "zoneMinutes", "createdAt", revision)
       VALUES ('${SHOOT}', 'Many', '2020-01-01', '', '', '["f"]', '{"path":"f","originals":"originals"}', '{seq:6}', 1, 0, 0, 1)`,
    )
    .run();
  const rows = Array.from({ length: ASSETS }, (_, i) => ({
    key: i,
    local: new Date(Date.parse('2020-01-01T09:00:00Z') + Math.floor(i / 3) * 997_000)
      .toISOString()
      .slice(0, 19),
    millis: (i % 3) * 300,
    serial: `OK5-${i % 2}`,
    size: 20_000_000 + (i % 50) * 1000,
  }));
  insertFrames(database, rows, targets);
  database.close();
}

/** The card's own frames, as if they had been taken in. */
function archive(file, targets, frames) {
  const database = open(file);
  const rows = frames.map(({ facts, files }, i) => ({
    key: ASSETS + i,
    local: facts.capture.local,
    millis: facts.capture.millis,
    serial: facts.serial,
    size: files[0].size,
  }));
  insertFrames(database, rows, targets);
  database.close();
}
