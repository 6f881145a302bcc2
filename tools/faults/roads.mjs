// Other roads in, broken off: a watched folder that clears itself, and files that are sent; and albums, of which only texts are kept.
import { closeSync, fsyncSync, openSync, readFileSync, rmSync } from 'node:fs';
import { createHash } from 'node:crypto';
import { createRequire } from 'node:module';
import path from 'node:path';
import { ROOT } from '../bootstrap.mjs';
import { below, inAlbum, proven, unsent } from './oracle.mjs';
import { places } from './world.mjs';

const { ulid } = createRequire(path.join(ROOT, 'apps/server/package.json'))('ulid');

/** Twice the minute that a loaded machine was seen to take for one of these. */
const LONGEST = 120_000;
async function until(come) {
  for (const end = Date.now() + LONGEST; Date.now() < end;) {
    if (await come()) return;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
}

/** The two drives; three folders of one disk play three devices. */
export async function addDrives(server) {
  const targets = [];
  for (const [name, role] of [
    ['a', 'working'],
    ['b', 'backup'],
  ]) {
    const { id } = await server.post('/volumes', { root: places[name], name, role });
    await server.patch(`/volumes/${id}`, { device: name });
    targets.push(id);
  }
  return targets;
}

/** An intake of what lies in a reader, as the screens would ask for it. */
export async function intakeOf(server, readerId, targets) {
  const { fingerprint } = await server.get(`/readers/${readerId}/card`);
  const { pattern, folders } = await server.get('/settings');
  return {
    ...{ readerId, fingerprint, title: 'Press night', date: '2026-10-16', client: '', place: '' },
    ...{ pattern, folders, seqStart: 1, zoneMinutes: 120, targets },
  };
}

/** What a rule takes of the card; the rest belongs to no picture and stays. */
const PICTURES = /\.(jpg|dng|wav|mov)$/i;
const waiting = () =>
  below(places.card).filter((file) => PICTURES.test(file) && !/^\.arkiv-bin\//.test(file));

/** The folder is empty but for what stays, and what lies in its bin is said there. */
const cleared = async (server) => {
  const rules = await server.get('/watch');
  const left = rules.find(({ left: files }) => files.length > 0);
  if (left) await server.post(`/watch/${left.id}/again`);
  return waiting().length === 0 && rules.length > 0 && rules.every(({ busy }) => !busy);
};

/** A card's folder that is watched, and cleared into its bin once all of it is proven. */
const watch = {
  base: 'fresh',
  kind: 'intake',
  spread: true,
  stays: /\.DAT$/,
  prepare: addDrives,
  start: async (server) => {
    if ((await server.get('/watch')).length === 0)
      await server.post('/watch', {
        ...{
          name: 'Studio',
          root: places.card,
          on: true,
          types: ['raw', 'jpeg', 'other', 'clip'],
          below: true,
        },
        ...{ out: '', settleSeconds: 0, shootId: null, title: 'Press night', client: '', place: '' },
        ...{ plan: null, template: null, album: null, after: 'bin' },
      });
    await until(() => cleared(server));
  },
  settle: (server) => until(() => cleared(server)),
  // It is moved only once it is on both drives.
  moment: () => proven(/^\.arkiv-bin\/.*\.(jpg|dng|wav|mov)$/i),
  after: () => [
    ...waiting().map((file) => `${file} stays in the watched folder although it is proven`),
    ...proven(/^\.arkiv-bin\/.*\.(jpg|dng|wav|mov)$/i),
  ],
};

const base64 = (text) => Buffer.from(text).toString('base64');
const PROTOCOL = { 'x-arkiv': '1', 'tus-resumable': '1.0.0' };

/** Sends one file as far as it has not come, in two parts, and has it proven. */
async function send(server, upload, file) {
  const bytes = readFileSync(path.join(places.card, file));
  const begun = upload.coming.find((one) => one.path === file);
  let url = begun && `/api/uploads/streams/${upload.id}-${begun.id}`;
  if (!url) {
    const made = await fetch(`${server.base}/api/uploads/streams`, {
      method: 'POST',
      headers: {
        ...PROTOCOL,
        'upload-length': String(bytes.length),
        'upload-metadata': `upload ${base64(upload.id)},path ${base64(file)}`,
      },
    });
    if (made.status !== 201) throw new Error(`${file} is refused: ${made.status} ${await made.text()}`);
    url = new URL(made.headers.get('location'), server.base).pathname;
  }
  const asked = await fetch(`${server.base}${url}`, { method: 'HEAD', headers: PROTOCOL });
  const from = Number(asked.headers.get('upload-offset'));
  const half = from + ((bytes.length - from) >> 1);
  for (const [start, end] of [
    [from, half],
    [half, bytes.length],
  ]) {
    if (start === end) continue;
    const answer = await fetch(`${server.base}${url}`, {
      method: 'PATCH',
      headers: {
        ...PROTOCOL,
        'upload-offset': String(start),
        'content-type': 'application/offset+octet-stream',
      },
      body: bytes.subarray(start, end),
    });
    if (answer.status !== 204)
      throw new Error(`${file} is not received: ${answer.status} ${await answer.text()}`);
  }
  const sha256 = createHash('sha256').update(bytes).digest('hex');
  await server.post(`/uploads/${upload.id}/files/${url.split('-').at(-1)}`, { sha256 });
}

/** The sender clears its card of what was proven to it, for good: from then on it is nowhere else. */
function clearDurably(file) {
  const full = path.join(places.card, file);
  rmSync(full);
  const folder = openSync(path.dirname(full), 'r');
  fsyncSync(folder);
  closeSync(folder);
}

/** Files that are sent, each taken off the sender's card when it is proven; then they are taken in, and cleared. */
const upload = {
  base: 'fresh',
  // Whoever sends goes on by themselves.
  kind: null,
  spread: true,
  prepare: addDrives,
  start: async (server, targets) => {
    let [its] = await server.get('/uploads');
    if (!its && below(places.card).length > 0) its = await server.post('/uploads', { name: 'Second body' });
    if (its && its.readerId === null) {
      const here = new Set((await server.get(`/uploads/${its.id}/files`)).map(({ path: file }) => file));
      for (const file of below(places.card)) {
        if (!here.has(file)) await send(server, its, file);
        clearDurably(file);
      }
      its = await server.post(`/uploads/${its.id}/close`);
    }
    if (!its) return;
    const intakes = (await server.get('/jobs')).filter(({ kind }) => kind === 'intake');
    if (intakes.length === 0) await server.post('/intakes', await intakeOf(server, its.readerId, targets));
    await until(async () => (await server.get('/jobs')).every(({ state }) => state === 'done'));
    const { fingerprint } = await server.get(`/readers/${its.readerId}/card`);
    await server.post(`/readers/${its.readerId}/clear`, { fingerprint });
    await until(async () => (await server.get('/jobs')).every(({ state }) => state === 'done'));
  },
  after: () => [
    ...below(places.card).map((file) => `${file} is still on the sender’s card`),
    ...unsent().map((file) => `${file} is still among what was sent although it is proven`),
  ],
};

/** An album with four frames, of which one is taken out again: decisions have ids of their own, so that none is made twice. */
const CHOSEN = 4;
let decided = [];
const album = {
  base: 'taken-in',
  kind: null,
  spread: true,
  prepare: async (server) => {
    const [shoot] = await server.get('/shoots');
    const { columns } = await server.frames(shoot.id);
    return columns.id.slice(0, CHOSEN);
  },
  start: async (server, frames) => {
    let [its] = await server.get('/albums');
    if (!its) {
      its = await server.post('/albums', { name: 'Best' });
      decided = [];
    }
    if (decided.length === 0) {
      const kind = `album ${its.id}`;
      const one = (subject, from, to, group) => ({
        ...{ id: ulid(), kind, subject, from, to, at: Date.now(), group, window: 'w' },
      });
      const [putIn, takenOut] = [ulid(), ulid()];
      decided = [
        frames.map((id, i) => one(id, null, `a${i}`, putIn)),
        [one(frames.at(-1), `a${CHOSEN - 1}`, null, takenOut)],
      ];
    }
    // A window sends once more what it did not hear of.
    for (const operations of decided) await server.post('/marks', { operations });
    await server.patch(`/albums/${its.id}`, { name: 'The best', lead: frames[0] });
  },
  after: () => inAlbum('The best', CHOSEN - 1, decided.flat()),
};

export const ROADS = { watch, upload, album };
