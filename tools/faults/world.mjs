// Where the faults are played: a card, two drives and an archive in one folder, which may be a mounted image.
import { execFileSync, spawn, spawnSync } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import {
  cpSync,
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  rmSync,
  utimesSync,
  writeFileSync,
} from 'node:fs';
import path from 'node:path';
import { ROOT } from '../bootstrap.mjs';
import { client } from '../client.mjs';

export const PLACE = path.join(ROOT, '.cache', `faults-${process.pid}`);
const CARD_SOURCE = path.join(ROOT, 'node_modules/.arkiv/test-cards/press-night-240');

const root = path.join(PLACE, 'run');
export const places = {
  card: path.join(root, 'card'),
  a: path.join(root, 'a'),
  b: path.join(root, 'b'),
  data: path.join(root, 'data'),
};

/** A small card: raw and JPEG pairs, a voice note, a file of no frame, and a clip that is read in several pieces. */
export function makeCard() {
  if (!existsSync(CARD_SOURCE))
    execFileSync(process.execPath, [
      path.join(ROOT, 'tools/demo/make-card.mjs'),
      '--out',
      CARD_SOURCE,
      '--side',
      '240',
    ]);
  const wanted = /OCK_(9968\.(DNG|JPG)|9971\.JPG|9980\.(DNG|JPG|WAV)|9984\.JPG)$|COUNTER\.DAT$/;
  cpSync(CARD_SOURCE, places.card, {
    recursive: true,
    preserveTimestamps: true,
    filter: (file) => !path.extname(file) || wanted.test(file),
  });
  const clip = path.join(places.card, 'DCIM/100OCKHM/OCK_9990.MOV');
  writeFileSync(clip, randomBytes(5 * 1024 * 1024));
  utimesSync(clip, 1_790_000_000, 1_790_000_000);
  const empty = path.join(places.card, 'MISC/EMPTY.DAT');
  mkdirSync(path.dirname(empty), { recursive: true });
  writeFileSync(empty, '');
}

export function makeDrives() {
  for (const name of ['a', 'b']) {
    mkdirSync(places[name], { recursive: true });
    const file = {
      id: `DRIVE-${name.toUpperCase()}`.padEnd(26, '0'),
      name,
      made: '2026-01-01T00:00:00.000Z',
    };
    writeFileSync(path.join(places[name], '.arkiv-volume.json'), `${JSON.stringify(file)}\n`);
  }
}

/** Keeps the world as it is under a name, and brings it back. */
export function keep(name) {
  cpSync(root, path.join(PLACE, name), { recursive: true, preserveTimestamps: true });
}

export function restore(name) {
  for (const entry of existsSync(root) ? readdirSync(root) : [])
    rmSync(path.join(root, entry), { recursive: true, force: true });
  cpSync(path.join(PLACE, name), root, { recursive: true, preserveTimestamps: true });
}

const mount = (...args) => spawnSync('mount', args, { stdio: 'ignore' }).status === 0;
/** A process that was killed with the server may hold it for a moment more. */
export function unmount(at = root) {
  for (let tries = 0; tries < 50; tries++) {
    if (spawnSync('umount', [at], { stdio: 'ignore' }).status === 0) return true;
    if (!readFileSync('/proc/mounts', 'utf8').includes(` ${at} `)) return false;
    Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0, 100);
  }
  return false;
}

/** Whether an image can be made and mounted here. */
export function canMount() {
  mkdirSync(root, { recursive: true });
  const image = path.join(PLACE, 'probe.img');
  try {
    makeImage(image, 16);
    return mount('-o', 'loop', image, root) && unmount();
  } catch {
    return false;
  } finally {
    rmSync(image, { force: true });
  }
}

function makeImage(file, megabytes) {
  execFileSync('truncate', ['-s', `${megabytes}M`, file]);
  execFileSync('mkfs.ext4', ['-q', '-F', '-m', '0', file]);
}

/** The world on an image of its own. */
export function mountWorld(image, megabytes = 160) {
  mkdirSync(root, { recursive: true });
  if (!existsSync(image)) makeImage(image, megabytes);
  if (!mount('-o', 'loop', image, root)) throw new Error(`${image} could not be mounted`);
}

/** A small drive of its own for `b`, so that it can run full for real. */
export function mountSmallDrive(megabytes) {
  const image = path.join(PLACE, 'small.img');
  rmSync(image, { force: true });
  makeImage(image, megabytes);
  const kept = path.join(PLACE, 'small-kept');
  rmSync(kept, { recursive: true, force: true });
  cpSync(places.b, kept, { recursive: true, preserveTimestamps: true });
  if (!mount('-o', 'loop', image, places.b)) throw new Error(`${image} could not be mounted`);
  cpSync(kept, places.b, { recursive: true, preserveTimestamps: true });
}

/** What the disk holds at this moment, without what only memory knows. */
export function copyImage(from, to) {
  execFileSync('cp', ['--sparse=always', from, to]);
}

export function tidyUp() {
  unmount(places.b);
  unmount();
  rmSync(PLACE, { recursive: true, force: true });
}

const running = new Set();
process.on('exit', () => {
  for (const child of running) child.kill('SIGKILL');
});

/** The server with this fault. `ended` resolves with how it ended; `cut` when it stands still for a power cut. */
export async function startServer(fault = null, sabotage = null) {
  const child = spawn(process.execPath, [path.join(ROOT, 'tools/faults/server.cjs')], {
    cwd: ROOT,
    stdio: ['ignore', 'pipe', 'pipe'],
    env: {
      ...process.env,
      NODE_ENV: 'production',
      ARKIV_DATA: places.data,
      ARKIV_PORT: '0',
      ARKIV_FAULT: JSON.stringify({ fault, sabotage, places, loud: Boolean(process.env.ARKIV_FAULTS_LOUD) }),
    },
  });
  running.add(child);
  let said = '';
  child.stderr.on('data', (text) => {
    said += text;
    if (process.env.ARKIV_FAULTS_LOUD) process.stderr.write(text);
  });
  const ended = new Promise((resolve) =>
    child.once('exit', (code, signal) => {
      running.delete(child);
      resolve(signal ?? code);
    }),
  );
  let cutNow;
  const cut = new Promise((resolve) => (cutNow = resolve));
  const base = await new Promise((resolve, reject) => {
    child.stdout.on('data', (text) => {
      said += text;
      if (String(text).includes('CUT')) cutNow('CUT');
      const found = /http:\/\/[\d.]+:\d+/.exec(said);
      if (found) resolve(found[0]);
    });
    void ended.then((how) => reject(new Error(`the server ended with ${how}: ${said}`)));
  });
  const post = (where) =>
    fetch(`${base}${where}`, {
      method: 'POST',
      headers: { 'x-arkiv': '1', 'content-type': 'application/json' },
      body: '{}',
    });
  return {
    ...client(base),
    base,
    ended,
    cut,
    said: () => said,
    arm: () => post('/faults/arm'),
    /** a power cut while the server rests, on a disk that only plays one */
    forget: () => post('/faults/forget'),
    counts: async () => (await fetch(`${base}/faults/counts`)).json(),
    kill: () => child.kill('SIGKILL'),
    stop: async () => {
      child.kill('SIGTERM');
      await ended;
    },
  };
}
