// The work that is broken off: each a base to start from, what starts it, and what must hold when all is at rest.
import {
  closeSync,
  existsSync,
  fsyncSync,
  mkdirSync,
  openSync,
  readdirSync,
  readFileSync,
  rmSync,
  utimesSync,
  writeFileSync,
  writeSync,
} from 'node:fs';
import { createHash } from 'node:crypto';
import { createRequire } from 'node:module';
import path from 'node:path';
import { ROOT } from '../bootstrap.mjs';
import {
  adopted,
  delivered,
  EDIT,
  handed,
  makeEdit,
  OUTBOX,
  returned,
  sent,
  shown,
  tookIn,
} from './oracle.mjs';
import { addDrives, intakeOf, ROADS } from './roads.mjs';
import { places } from './world.mjs';

const { ulid } = createRequire(path.join(ROOT, 'apps/server/package.json'))('ulid');

const jobsOf = (server, kind) => server.get('/jobs').then((jobs) => jobs.filter((job) => job.kind === kind));

/** Waits until no job is under way; fails after a minute, which a hundred of these jobs would not take. */
export async function atRest(server) {
  for (let i = 0; i < 1200; i++) {
    const jobs = await server.get('/jobs');
    if (!jobs.some((job) => ['queued', 'running'].includes(job.state))) return jobs;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
  throw new Error('the jobs did not come to rest');
}

async function shootOf(server, title) {
  return (await server.get('/shoots')).find((shoot) => shoot.title === title);
}

export async function takeIn(server) {
  const readers = await server.get('/readers');
  const reader =
    readers.find((r) => r.name === 'card') ??
    (await server.post('/readers', { root: places.card, name: 'card' }));
  const targets = await addDrives(server);
  await server.put(`/readers/${reader.id}/device`, { device: 'card' });
  return intakeOf(server, reader.id, targets);
}

/** Small, so that a hundred are made in no time. */
const SPEC = {
  ...{
    name: 'Web',
    size: { by: 'long', pixels: 100 },
    format: 'jpeg',
    quality: 80,
    mostBytes: null,
    space: 'srgb',
  },
  ...{ sharpen: 'none', watermark: null, pattern: '{number:2}', metadata: 'all', folders: 'none' },
};

/** Gives the first frames of the shoot these verdicts, and the second one these words, unless they have them already. */
async function mark(server, verdicts, caption = null) {
  const shoot = await shootOf(server, 'Press night');
  const { columns } = await server.frames(shoot.id);
  const wanted = verdicts.map((to, i) => [columns.id[i], 'verdict', columns.verdict[i], to]);
  if (caption !== null) wanted.push([columns.id[1], 'caption', columns.caption[1], caption]);
  const group = ulid();
  const operations = wanted
    .filter(([, , from, to]) => from !== to)
    .map(([subject, kind, from, to]) => ({
      id: ulid(),
      subject,
      kind,
      from,
      to,
      at: Date.now(),
      group,
      window: 'w',
    }));
  if (operations.length > 0) await server.post('/marks', { operations });
}

/** A file of another program's that a power cut does not take away: contents and names are flushed. */
function placeDurably(file, bytes) {
  const out = openSync(file, 'w');
  writeSync(out, bytes);
  fsyncSync(out);
  closeSync(out);
  for (const folder of [path.dirname(file), path.dirname(path.dirname(file))]) {
    const opened = openSync(folder, 'r');
    fsyncSync(opened);
    closeSync(opened);
  }
}

/** The keepers of the shoot, with editing on drive a. */
async function withEditing(server, what, asked) {
  const shoot = await shootOf(server, 'Press night');
  const { id: volumeId } = (await server.get('/volumes')).find(({ name }) => name === 'a');
  return server.post(`/shoots/${shoot.id}/handoffs${what}`, { volumeId, ...asked });
}

const move = (asked) => ({
  kind: 'move',
  spread: true,
  start: async (server) => server.post('/moves', await asked(server)),
});

const TREE = 'Old pictures';
/** One of its two shoots. */
const HARBOUR = 'Harbour';
const TREE_SUMS = new Map();

/** A tree of the archive's own pictures under other names, as it lies on drive a for years. */
async function adoptTree(server) {
  const shoot = await shootOf(server, 'Press night');
  const originals = path.join(places.a, shoot.folders[0], 'originals');
  TREE_SUMS.clear();
  const files = readdirSync(originals).filter((file) => /\.(jpg|dng|mov)$/.test(file));
  for (const [i, file] of files.sort().entries()) {
    const name = `${i < 3 ? 'Quay' : 'Harbour/deep'}/p${i}${path.extname(file)}`;
    const to = path.join(places.a, TREE, name);
    const bytes = readFileSync(path.join(originals, file));
    TREE_SUMS.set(name, createHash('sha256').update(bytes).digest('hex'));
    if (existsSync(to)) continue;
    mkdirSync(path.dirname(to), { recursive: true });
    placeDurably(to, bytes);
    utimesSync(to, 1_600_000_000, 1_600_000_000);
  }
}

/** Copies of what was taken in are made on the other drive, unless both have it. */
async function bothHave(server) {
  const { id: shootId, keptIn, missingCopies } = await shootOf(server, HARBOUR);
  if (keptIn === null && missingCopies > 0) await server.post('/copies/missing', { shootId });
}

/** Waits until an adopted folder is known and read whole. */
async function adoptedWhole(server) {
  for (let i = 0; i < 600; i++) {
    const [known] = await server.get('/adopted');
    if (known && !known.busy && known.unread === 0 && known.frames === TREE_SUMS.size) return;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
}

export const SCENARIOS = {
  intake: {
    base: 'fresh',
    kind: 'intake',
    spread: false,
    prepare: takeIn,
    start: (server, request) => server.post('/intakes', request),
    receipts: true,
  },
  split: {
    base: 'taken-in',
    ...move(async (server) => {
      const shoot = await shootOf(server, 'Press night');
      const { columns } = await server.frames(shoot.id);
      return {
        kind: 'split',
        shootId: shoot.id,
        frameIds: columns.id.slice(2),
        title: 'Curtain call',
        rename: true,
      };
    }),
  },
  merge: {
    base: 'split',
    ...move(async (server) => {
      const [from, into] = [await shootOf(server, 'Curtain call'), await shootOf(server, 'Press night')];
      return { kind: 'merge', shootId: from.id, into: into.id, rename: true };
    }),
  },
  rename: {
    base: 'taken-in',
    ...move(async (server) => {
      const shoot = await shootOf(server, 'Press night');
      return { kind: 'rename', shootId: shoot.id, pattern: shoot.pattern, seqStart: 2, rename: true };
    }),
  },
  clear: {
    base: 'with-card',
    kind: 'clear',
    spread: true,
    start: async (server) => {
      const [reader] = await server.get('/readers');
      const { fingerprint } = await server.get(`/readers/${reader.id}/card`);
      return server.post(`/readers/${reader.id}/clear`, { fingerprint });
    },
    after: () => {
      const left = existsSync(places.card)
        ? readdirSync(places.card, { recursive: true, withFileTypes: true }).filter((entry) => entry.isFile())
        : [];
      return left.map((entry) => `${entry.name} is still on the card although it is proven`);
    },
  },
  bin: {
    base: 'taken-in',
    kind: 'bin',
    spread: true,
    start: async (server) => {
      const shoot = await shootOf(server, 'Press night');
      const { columns } = await server.frames(shoot.id);
      return server.post('/bin', { deed: 'bin', shootId: shoot.id, frameIds: columns.id.slice(0, 3) });
    },
  },
  back: {
    base: 'binned',
    kind: 'bin',
    spread: true,
    start: async (server) => {
      const [time] = (await server.get('/bin')).times;
      return server.post('/bin/back', { binId: time.id });
    },
  },
  deliver: {
    base: 'taken-in',
    kind: 'delivery',
    spread: true,
    prepare: (server) => mark(server, ['keep', 'keep', 'keep']),
    start: async (server) => {
      const shoot = await shootOf(server, 'Press night');
      const volumes = await server.get('/volumes');
      return server.post(`/shoots/${shoot.id}/deliveries`, {
        ...{ name: 'Set', volumeId: volumes.find(({ name }) => name === 'a').id, sheet: true },
        specs: [SPEC],
      });
    },
    after: () => delivered(['01.jpg', '02.jpg', '03.jpg', 'proof-sheet.pdf']),
  },
  again: {
    base: 'delivered',
    kind: 'delivery',
    spread: true,
    prepare: (server) => mark(server, ['reject', 'keep', 'keep', 'keep'], 'The red curtain'),
    start: async (server) => {
      const shoot = await shootOf(server, 'Press night');
      const [set] = await server.get(`/shoots/${shoot.id}/deliveries`);
      return server.post(`/deliveries/${set.jobId}/again`, {});
    },
    after: () => delivered(['02.jpg', '03.jpg', '04.jpg', 'proof-sheet.pdf']),
  },
  send: {
    base: 'delivered',
    kind: 'send',
    spread: true,
    prepare: async (server) => {
      mkdirSync(path.join(places.b, OUTBOX), { recursive: true });
      // Made ready once more after what broke off, it is there already.
      if ((await server.get('/destinations')).length > 0) return;
      await server.post('/destinations', {
        ...{ name: 'Client', kind: 'folder' },
        reach: { path: path.join(places.b, OUTBOX), url: '', host: '', port: 22, user: '', carried: false },
      });
    },
    start: async (server) => {
      const shoot = await shootOf(server, 'Press night');
      const [set] = await server.get(`/shoots/${shoot.id}/deliveries`);
      const [{ id: destinationId }] = await server.get('/destinations');
      return server.post(`/deliveries/${set.jobId}/send`, { destinationId, part: 'both', frameIds: null });
    },
    after: () => sent(['01.jpg', '02.jpg', '03.jpg', 'proof-sheet.pdf']),
  },
  handoff: {
    base: 'taken-in',
    kind: 'handoff',
    spread: true,
    prepare: (server) => mark(server, ['keep', 'keep', 'keep'], 'The red curtain'),
    start: (server) => withEditing(server, '', { part: 'all' }),
    after: () => handed([0, 1, 2]),
  },
  // One more is kept, and what another shows was said otherwise since.
  update: {
    base: 'handed',
    kind: 'handoff',
    spread: true,
    prepare: (server) => mark(server, ['keep', 'keep', 'keep', 'keep'], 'The curtain falls'),
    start: (server) => withEditing(server, '', { part: 'new' }),
    after: () => handed([0, 1, 2, 3]),
  },
  takeBack: {
    base: 'handed',
    kind: 'take-back',
    spread: true,
    prepare: (server) => mark(server, ['reject', 'keep', 'keep']),
    start: (server) => withEditing(server, '/take-back', {}),
    after: () => handed([1, 2]),
  },
  return: {
    base: 'handed',
    kind: 'return',
    spread: true,
    start: async (server) => {
      const shoot = await shootOf(server, 'Press night');
      const { columns } = await server.frames(shoot.id);
      const home = path.join(places.a, shoot.folders[0]);
      const files = readdirSync(home, { recursive: true });
      // The first of them, so that after what broke off it is the same one.
      const original = files.find((file) => file.endsWith(`originals/${columns.name[0]}.jpg`));
      makeEdit(readFileSync(path.join(home, original)));
      const edit = path.join(home, 'edits', `${columns.name[0]}-final.jpg`);
      mkdirSync(path.dirname(edit), { recursive: true });
      if (!existsSync(edit)) placeDurably(edit, EDIT.bytes);
      const before = (await jobsOf(server, 'return')).length;
      // A file that has just been written to is left alone for two seconds.
      for (let i = 0; i < 100 && (await jobsOf(server, 'return')).length === before; i++) {
        await server.post(`/shoots/${shoot.id}/returns/look`);
        await new Promise((resolve) => setTimeout(resolve, 200));
      }
    },
    after: () => returned(),
  },
  gallery: {
    base: 'taken-in',
    kind: 'gallery',
    spread: true,
    prepare: (server) => mark(server, ['keep', 'keep', 'keep']),
    start: async (server) => {
      const shoot = await shootOf(server, 'Press night');
      return server.post(`/shoots/${shoot.id}/galleries`, {
        ...{ title: 'Press night', most: 2, withCode: true },
        rights: { choose: true, remark: true, download: false },
      });
    },
    after: () => shown(3),
  },
  rebuild: {
    base: 'lost',
    kind: 'rebuild',
    spread: true,
    prepare: (server) => findDrives(server, 'found '),
    start: async (server) => {
      const [archive] = await server.get('/rebuild');
      return server.post('/rebuild', { archiveId: archive.id });
    },
    after: () => handed([0, 1, 2]),
  },
  // Another archive's drives come to this one, with its shoots on them.
  carry: {
    base: 'lost',
    kind: 'carry',
    spread: true,
    prepare: (server) => findDrives(server, ''),
    start: (server) => carryAll(server),
    settle: (server) => carryAll(server),
    after: () => handed([0, 1, 2]),
  },
  // A drive comes home from another archive, where pictures were set aside, binned and deleted on the way; it is all followed here.
  home: {
    base: 'travelled',
    kind: 'carry',
    // What was deleted on the way is on one drive, until it is copied there again.
    spread: false,
    start: (server) => comeHome(server),
    settle: (server) => comeHome(server),
  },
  // A folder that lies on a drive already, with pictures that are in the archive too: it is nobody's business where else they are.
  adopt: {
    base: 'taken-in',
    kind: 'adopt',
    spread: true,
    prepare: (server) => adoptTree(server),
    start: async (server) => {
      const [known] = await server.get('/adopted');
      if (known) await server.post(`/adopted/${known.id}/again`);
      else await server.post('/adopted', { path: path.join(places.a, TREE), rule: 'top', sidecars: false });
      await adoptedWhole(server);
    },
    settle: (server) => adoptedWhole(server),
    after: () => adopted(TREE, TREE_SUMS),
  },
  // A shoot of it into dated folders, with its copies on the other drive; the other shoot stays as it lies.
  takenIn: {
    base: 'adopted',
    kind: 'move',
    spread: true,
    start: async (server) => {
      const { id: shootId } = await shootOf(server, HARBOUR);
      await server.post('/moves', { kind: 'takeIn', shootId, rename: true });
      await atRest(server);
      await bothHave(server);
    },
    settle: (server) => bothHave(server),
    after: () => tookIn(TREE, TREE_SUMS, HARBOUR),
  },
  ...ROADS,
  verify: {
    base: 'taken-in',
    kind: 'verify',
    spread: true,
    start: (server) => server.post('/copies/verifications', {}),
  },
};

/** Both drives of an archive whose database is gone. */
async function findDrives(server, called) {
  for (const name of ['a', 'b'])
    await server.post('/volumes', {
      ...{ root: places[name], name: `${called}${name}`, role: 'working', takeOver: true },
    });
}

/** Takes in what lies on each drive that another archive had, one after the other. */
async function carryAll(server) {
  for (const { volumeId } of await server.get('/carried')) {
    const { jobId } = await server.post(`/carried/${volumeId}`);
    for (;;) {
      const { job } = await server.get(`/jobs/${jobId}`);
      if (!['queued', 'running'].includes(job.state)) break;
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
  }
}

/** The shoot is taken in by a second archive on drive b alone, and some of its pictures are set aside, binned and deleted there. */
export async function onTheWay(server) {
  await server.post('/volumes', { root: places.b, name: 'b', role: 'working', takeOver: true });
  await carryAll(server);
  await mark(server, ['reject', 'keep']);
  const shoot = await shootOf(server, 'Press night');
  const { columns } = await server.frames(shoot.id);
  const [aside, , binned, deleted] = columns.id;
  const shootId = shoot.id;
  await server.post('/moves', { kind: 'aside', shootId, frameIds: [aside], rename: false });
  await atRest(server);
  await server.post('/bin', { deed: 'bin', shootId, frameIds: [binned] });
  await atRest(server);
  await server.post('/bin', { deed: 'delete', shootId, frameIds: [deleted], typed: 1 });
  await atRest(server);
}

/**
 * Takes in what a drive brings home, and does here what was done there. Then it is all taken back out of the bin, and what is missing on the
 * drive, as it was deleted there, is copied to it again.
 */
async function comeHome(server) {
  const b = (await server.get('/volumes')).find(({ name }) => name === 'b');
  if (b.belongsTo !== null) await server.post(`/volumes/${b.id}/back`);
  await carryAll(server);
  for (const { id } of await jobsOf(server, 'carry'))
    for (const what of ['names', 'bin']) {
      await server.post(`/carried/results/${id}/${what}`);
      await atRest(server);
    }
  for (const { id: binId } of (await server.get('/bin')).times) await server.post('/bin/back', { binId });
  await atRest(server);
  // There is nothing to copy where it was done before.
  await server.post('/copies/missing', {}).catch(() => null);
  await atRest(server);
}

/** Whether the work that the fault broke off was begun at all; otherwise the photographer begins it again. */
export async function wasBegun(server, { kind }, before) {
  const jobs = await jobsOf(server, kind);
  return jobs.some((job) => !before.has(job.id));
}

/** A bit of one copy turns over while nobody looks. */
export function rot(drive, random) {
  const files = readdirSync(places[drive], { recursive: true })
    .filter((file) => /\.(jpg|dng|wav|mov)$/.test(file))
    .sort();
  const file = path.join(places[drive], files[Math.floor(random() * files.length)]);
  const bytes = readFileSync(file);
  bytes[Math.floor(random() * bytes.length)] ^= 1 << Math.floor(random() * 8);
  writeFileSync(file, bytes);
}

/** What stands in the way on drive b and is not ours; the photographer moves it away. */
export function strangers() {
  return readdirSync(places.b, { recursive: true })
    .map((file) => path.join(places.b, file))
    .filter(
      (file) =>
        /\.(jpg|dng|wav|mov)$/i.test(file) && readFileSync(file, 'latin1').startsWith('somebody else'),
    );
}

export const removeStrangers = () => strangers().forEach((file) => rmSync(file));
