// What the measurements share: a production server of their own, fair caches, medians.
import { execFileSync, spawn, spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { get } from 'node:http';
import path from 'node:path';
import { ROOT, SERVER } from '../bootstrap.mjs';
import { client } from '../client.mjs';

/** On the same disk as the project: a folder in memory would measure nothing. */
export const PLACE = path.join(ROOT, '.cache', 'bench');

export const median = (values) => {
  const sorted = [...values].sort((a, b) => a - b);
  const half = sorted.length / 2;
  return sorted.length % 2 ? sorted[Math.floor(half)] : (sorted[half - 1] + sorted[half]) / 2;
};

/**
 * One measured figure against its floor. The ratio is the median of the rounds' own ratios, so that a disk that
 * slows down between two rounds does not count for or against either side.
 */
export function compare(name, unit, ours, floors, more = {}) {
  const ratios = ours.map((value, i) => value / floors[i]);
  const round = (n) => Number(n.toPrecision(4));
  return {
    name,
    value: round(median(ours)),
    unit,
    floor: round(median(floors)),
    ratio: round(median(ratios)),
    spread: [round(Math.min(...ratios)), round(Math.max(...ratios))],
    rounds: ours.length,
    ...more,
  };
}

/** Steps that a core takes in some tens of milliseconds, long enough to be told from a pause. */
const STEPS = 3e7;
/** How fast a core of this machine is in this moment: milliseconds of a loop that needs nothing else, the median of five. */
export function machineLoop() {
  const times = [];
  for (let round = 0; round < 5; round++) {
    const begun = process.hrtime.bigint();
    for (let i = 0, x = 0; i < STEPS; i++) x = (x + i * 7) % 1000003;
    times.push(Number(process.hrtime.bigint() - begun) / 1e6);
  }
  return Math.round(median(times));
}

/** Runs two sides in turn, the other one first in every second round. */
export async function alternate(rounds, ours, floor) {
  const times = { ours: [], floor: [] };
  for (let i = 0; i < rounds; i++) {
    const order = i % 2 === 0 ? ['ours', 'floor'] : ['floor', 'ours'];
    for (const side of order) times[side].push(await (side === 'ours' ? ours : floor)(i));
    process.stderr.write('.');
  }
  process.stderr.write('\n');
  return times;
}

/** Empties the page cache where the system lets us; says whether it did. */
export function dropCaches() {
  spawnSync('sync');
  try {
    writeFileSync('/proc/sys/vm/drop_caches', '3');
    return true;
  } catch {
    return false;
  }
}

/** A fresh folder below the place of the measurements. */
export function freshFolder(name) {
  const folder = path.join(PLACE, name);
  rmSync(folder, { recursive: true, force: true });
  mkdirSync(folder, { recursive: true });
  return folder;
}

export async function startServer(data, port) {
  const child = spawn(process.execPath, SERVER.args, {
    cwd: ROOT,
    stdio: ['ignore', 'pipe', 'inherit'],
    env: {
      ...process.env,
      ...SERVER.env,
      ARKIV_DATA: data,
      ARKIV_PORT: String(port),
      ARKIV_STAND_INS: '0',
    },
  });
  await new Promise((resolve, reject) => {
    child.stdout.on('data', (text) => String(text).includes('Arkiv is at') && resolve());
    child.on('exit', (code) => reject(new Error(`the server ended with ${code}`)));
  });
  const base = `http://127.0.0.1:${port}`;
  const ended = new Promise((resolve) => child.once('exit', resolve));
  return {
    base,
    pid: child.pid,
    ...client(base),
    stop: async () => {
      child.kill('SIGTERM');
      await ended;
    },
  };
}

/** Names a card's folder and drives to a server; returns the request that takes the card in. */
export async function prepareIntake(server, card, drives) {
  const reader = await server.post('/readers', { root: card, name: path.basename(card) });
  const targets = [];
  for (const [i, root] of drives.entries()) {
    const role = i === 0 ? 'working' : 'backup';
    const { id } = await server.post('/volumes', { root, name: path.basename(root), role });
    // Folders of one disk play distinct devices.
    await server.patch(`/volumes/${id}`, { device: root });
    targets.push(id);
  }
  const { fingerprint } = await server.get(`/readers/${reader.id}/card`);
  const { pattern, folders } = await server.get('/settings');
  return {
    readerId: reader.id,
    fingerprint,
    title: 'Bench',
    date: '2026-11-01',
    client: '',
    place: '',
    pattern,
    folders,
    seqStart: 1,
    zoneMinutes: 0,
    targets,
  };
}

/** The bytes behind an address, on a connection of their own: an idle one may be closed at the moment of its next use. */
export const bytesOf = (url) =>
  new Promise((resolve, reject) => {
    get(url, { agent: false }, (response) => {
      const parts = [];
      response.on('data', (part) => parts.push(part));
      response.on('error', reject);
      response.on('end', () =>
        response.statusCode === 200
          ? resolve(Buffer.concat(parts))
          : reject(new Error(`${url}: ${response.statusCode}`)),
      );
    }).on('error', reject);
  });

/** Waits for a job's end; `onLook` is called at each look. Throws when anything of it failed. */
export async function jobDone(server, id, onLook = () => {}) {
  for (;;) {
    const { job, failures } = await server.get(`/jobs/${id}`);
    onLook();
    if (job.state === 'done' && failures.length === 0) return;
    if (!['queued', 'running'].includes(job.state) || failures.length > 0)
      throw new Error(`the job is ${job.state}: ${job.reason ?? JSON.stringify(failures[0])}`);
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
}

/** Megabytes in memory of a process and its children (resident pages of the process table). */
export function residentMegabytes(pid) {
  const rows = execFileSync('ps', ['-eo', 'pid=,ppid=,rss='], { encoding: 'utf8' })
    .trim()
    .split('\n')
    .map((line) => line.trim().split(/\s+/).map(Number));
  const family = new Set([pid]);
  for (let grown = true; grown;) {
    grown = false;
    for (const [child, parent] of rows) {
      if (family.has(parent) && !family.has(child)) grown = Boolean(family.add(child));
    }
  }
  const of = (wanted) => rows.filter(([p]) => wanted(p)).reduce((sum, [, , kb]) => sum + kb, 0) / 1024;
  return { server: of((p) => p === pid), all: of((p) => family.has(p)) };
}

export function shell(script, env = {}) {
  const begun = process.hrtime.bigint();
  const { status, stderr } = spawnSync('bash', ['-euo', 'pipefail', '-c', script], {
    env: { ...process.env, ...env },
    encoding: 'utf8',
    maxBuffer: 1e8,
  });
  if (status !== 0) throw new Error(`the floor failed: ${stderr}`);
  return Number(process.hrtime.bigint() - begun) / 1e9;
}

export const seconds = async (work) => {
  const begun = process.hrtime.bigint();
  await work();
  return Number(process.hrtime.bigint() - begun) / 1e9;
};

export function filesBelow(folder) {
  if (!existsSync(folder)) return [];
  return readdirSync(folder, { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile())
    .map((entry) => path.join(entry.parentPath, entry.name));
}

export const version = () => JSON.parse(readFileSync(path.join(ROOT, 'package.json'), 'utf8')).version;

/** Asks an address every two milliseconds, in a process of its own, until the function that it returns is called: that tells how long it took. */
export function probe(url) {
  const child = spawn(process.execPath, [path.join(ROOT, 'tools/bench/scale/probe.mjs'), url], {
    stdio: ['pipe', 'pipe', 'inherit'],
  });
  // A run that breaks off leaves none behind, asking for ever.
  process.once('exit', () => child.kill());
  let said = '';
  child.stdout.on('data', (text) => (said += text));
  return () =>
    new Promise((resolve) => {
      child.once('exit', () => resolve(JSON.parse(said)));
      child.stdin.write('end\n');
    });
}
