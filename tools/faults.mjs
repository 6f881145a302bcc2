// `npm run faults -- --count N --seed S [--sabotage X] [--only kill|cut|device] [--verbose]`: breaks intake, other roads in, moves,
// clearing, albums, deliveries and verifying off at any operation, and looks from outside whether anything was lost.
import { createHash } from 'node:crypto';
import { cpSync, existsSync, mkdirSync, readdirSync, renameSync, rmSync } from 'node:fs';
import path from 'node:path';
import { parseArgs } from 'node:util';
import { ensureBuilt, ensureInstalled } from './bootstrap.mjs';
import { seeded } from './demo/random.mjs';

const { values: asked } = parseArgs({
  options: {
    count: { type: 'string', default: '20' },
    seed: { type: 'string', default: '1' },
    sabotage: { type: 'string' },
    only: { type: 'string' },
    scenario: { type: 'string' },
    'no-mount': { type: 'boolean', default: false },
    verbose: { type: 'boolean', default: false },
  },
});
const SABOTAGES = ['no-fsync', 'no-readback', 'early-rename', 'overwrite'];
if (asked.sabotage && !SABOTAGES.includes(asked.sabotage)) {
  console.error(`--sabotage is one of ${SABOTAGES.join(', ')}`);
  process.exit(2);
}

await ensureInstalled();
await ensureBuilt();
const world = await import('./faults/world.mjs');
const oracle = await import('./faults/oracle.mjs');
const { SCENARIOS, atRest, onTheWay, removeStrangers, rot, strangers, wasBegun } =
  await import('./faults/scenarios.mjs');
const { PLACE, places, startServer } = world;

const random = seeded(Number(asked.seed));
const pick = (list) => list[Math.floor(random() * list.length)];

/** A long run must have hit every site; a short one cannot. */
const LONG_RUN = 400;
const DEVICES = ['pulled', 'unreadable', 'full', 'unplugged', 'read-only', 'flip', 'stranger', 'case', 'rot'];
/** In turn, so that a short run has all kinds and a long one comes to every site of the two with many. */
const TURNS = ['kill', 'device', 'kill', 'cut', 'kill', 'device', 'cut', 'kill'];
const STRANGER = createHash('sha256').update('somebody else’s').digest('hex');

let mounts = false;
let wanted = new Map();
const dry = new Map();
const hits = new Map();
const failures = [];
let lost = 0;

async function makeBases() {
  const run = path.dirname(places.card);
  rmSync(PLACE, { recursive: true, force: true });
  mkdirSync(run, { recursive: true });
  mounts = !asked['no-mount'] && world.canMount();
  world.makeCard();
  world.makeDrives();
  mkdirSync(places.data, { recursive: true });
  wanted = oracle.manifestOf(places.card);
  world.keep('fresh');
  await played('intake', 'with-card');
  // Sabotage shows in an intake; the rest need not be made ready for it.
  if (asked.sabotage) return;
  await playedEach({ watch: null, upload: null });
  world.restore('with-card');
  // From here on the drives hold the only copies.
  rmSync(places.card, { recursive: true, force: true });
  mkdirSync(places.card);
  world.keep('taken-in');
  await playedEach({
    ...{
      split: 'split',
      merge: null,
      rename: null,
      clear: null,
      verify: null,
      adopt: 'adopted',
      album: null,
    },
    ...{ takenIn: null },
    ...{ bin: 'binned', back: null, deliver: 'delivered', again: null, send: null },
    ...{ handoff: 'handed', update: null, takeBack: null, return: null, gallery: null },
  });
  if (isEnough()) return;
  await makeTravelled();
  await playedEach({ home: null });
  if (isEnough()) return;
  // The computer is gone, and what its database knew; the drives are there.
  world.restore('handed');
  for (const file of readdirSync(places.data))
    if (/^archive\.sqlite/.test(file)) rmSync(path.join(places.data, file));
  world.keep('lost');
  await playedEach({ rebuild: null, carry: null });
}

/** Drive b has been on the way, with an archive of its own, while all else stayed at home. */
async function makeTravelled() {
  world.restore('taken-in');
  const home = path.join(PLACE, 'data-at-home');
  renameSync(places.data, home);
  mkdirSync(places.data);
  const server = await startServer();
  await onTheWay(server);
  // Sidecars and the last reports follow a moment later.
  await new Promise((resolve) => setTimeout(resolve, 700));
  await server.stop();
  rmSync(places.data, { recursive: true });
  renameSync(home, places.data);
  world.keep('travelled');
}

/** Of one scenario alone, nothing that comes after it is made ready. */
const isEnough = () => asked.scenario !== undefined && dry.has(asked.scenario);
/** Plays each of them, and keeps what it leaves under the name beside it. Those of which nothing is kept are left out where another was asked for. */
async function playedEach(line) {
  for (const [name, keepAs] of Object.entries(line))
    if (!isEnough() && (keepAs !== null || (asked.scenario ?? name) === name)) await played(name, keepAs);
}

/** Plays a scenario through without a fault: counts its operations, and keeps what it leaves as a base. */
async function played(name, keepAs) {
  const scenario = SCENARIOS[name];
  if (name !== 'intake' && name !== 'split') world.restore(scenario.base);
  const server = await startServer();
  const request = await scenario.prepare?.(server);
  await server.arm();
  await scenario.start(server, request);
  await atRest(server);
  // Sidecars and the last reports follow a moment later.
  await new Promise((resolve) => setTimeout(resolve, 700));
  dry.set(name, (await server.counts()).counts);
  const unwell = (await server.get('/jobs')).filter((job) => job.state !== 'done' || job.filesFailed > 0);
  await server.stop();
  const problems = [
    ...unwell.map(
      (job) => `the ${job.kind} is ${job.state} with ${job.filesFailed} failed: ${job.reason ?? ''}`,
    ),
    ...oracle.atRest(wanted, { stays: scenario.stays }),
    ...oracle.recorded(),
    ...(scenario.after?.() ?? []),
    ...(scenario.receipts ? oracle.receipts() : []),
  ];
  if (problems.length > 0) throw new Error(`without any fault, ${name}: ${problems.join('; ')}`);
  if (keepAs) world.keep(keepAs);
}

const imageOf = (base) => path.join(PLACE, `${base}.img`);

function mountBase(base) {
  const run = path.dirname(places.card);
  const image = imageOf(base);
  if (!existsSync(image)) {
    for (const name of ['card', 'a', 'b', 'data']) rmSync(places[name], { recursive: true, force: true });
    world.mountWorld(image);
    cpSync(path.join(PLACE, base), run, { recursive: true, preserveTimestamps: true });
    world.unmount();
  }
  const now = path.join(PLACE, 'now.img');
  world.copyImage(image, now);
  world.mountWorld(now);
  return now;
}

/** Chooses the n-th fault: the site with the fewest hits so far, at an operation drawn from the seed. */
function choose(n) {
  // Devices fail in scenarios of their own.
  const turns = asked.scenario ? TURNS.filter((turn) => turn !== 'device') : TURNS;
  const kind = asked.only ?? turns[n % turns.length];
  if (kind === 'device') {
    const possible = DEVICES.filter((name) => mounts || name !== 'full')
      .filter((name) => asked.sabotage !== 'overwrite' || name === 'stranger')
      .filter((name) => asked.sabotage !== 'no-readback' || name === 'flip');
    const name = fewest(possible.map((d) => `device ${d}`)).slice(7);
    const scenario =
      name === 'rot'
        ? 'verify'
        : ['unplugged', 'read-only', 'stranger', 'case'].includes(name) && !asked.sabotage
          ? pick(['intake', 'rename', 'split'])
          : 'intake';
    const fault = { kind, name, at: 1 + Math.floor(random() * 6) };
    if (name === 'unreadable')
      Object.assign(fault, {
        file: pick(['OCK_9990.MOV', 'OCK_9971.JPG']),
        from: Math.floor(random() * 20_000),
      });
    return { scenario, fault, site: `device ${name}` };
  }
  const names = asked.scenario ? [asked.scenario] : asked.sabotage ? ['intake'] : Object.keys(SCENARIOS);
  const sites = names.flatMap((name) => Object.keys(dry.get(name)).map((site) => `${kind} ${name} ${site}`));
  const chosen =
    asked.sabotage === 'early-rename'
      ? 'kill intake write'
      : asked.sabotage === 'no-fsync'
        ? `cut intake ${pick(['commit', 'sync', 'link'])}`
        : fewest(sites);
  const [, scenario, site] = chosen.split(' ');
  const count = dry.get(scenario)[site] ?? 1;
  // The first writings of an intake are those of its copies.
  const at = 1 + Math.floor(random() * (asked.sabotage === 'early-rename' ? 6 : count));
  const when = asked.sabotage === 'early-rename' ? 'half' : pick(['before', 'half', 'after']);
  return { scenario, site: chosen, fault: { kind, site, at, when, forgetful: kind === 'cut' && !mounts } };
}

function fewest(sites) {
  const least = Math.min(...sites.map((site) => hits.get(site) ?? 0));
  return pick(sites.filter((site) => (hits.get(site) ?? 0) === least));
}

async function one(n) {
  const { scenario: name, fault, site } = choose(n);
  const scenario = SCENARIOS[name];
  const inImage = fault.kind === 'cut' && mounts;
  let image = null;
  if (inImage) image = mountBase(scenario.base);
  else world.restore(scenario.base);
  if (fault.name === 'full') world.mountSmallDrive(56);
  if (fault.name === 'rot') rot(pick(['a', 'b']), random);
  const problems = [];
  let server = null;
  try {
    server = await startServer(fault, asked.sabotage);
    const request = await scenario.prepare?.(server);
    const before = new Set((await server.get('/jobs')).map((job) => job.id));
    await server.arm();
    const work = scenario
      .start(server, request)
      .then(() => atRest(server))
      .then(() => 'rest');
    const how = await Promise.race([work.catch(() => 'broken'), server.ended, server.cut]);
    if (how === 'broken')
      await Promise.race([server.ended, server.cut, new Promise((r) => setTimeout(r, 3000))]);
    if (fault.kind === 'device') {
      const { on } = await server.counts();
      if (on || fault.name === 'rot') hits.set(site, (hits.get(site) ?? 0) + 1);
      problems.push(...(await deviceEnded(server, scenario, fault)));
      await server.stop();
    } else {
      hits.set(site, (hits.get(site) ?? 0) + 1);
      if (fault.kind === 'cut' && inImage) {
        const cut = path.join(PLACE, 'cut.img');
        world.copyImage(image, cut);
        server.kill();
        await server.ended;
        world.unmount();
        world.mountWorld(cut);
      } else {
        if (fault.forgetful && how === 'rest') await server.forget();
        server.kill();
        await server.ended;
      }
    }
    const known = { strangers: new Set(strangers().length > 0 ? [STRANGER] : []) };
    if (fault.name !== 'rot')
      problems.push(
        ...oracle.atAnyMoment(wanted, { spread: scenario.spread, ...known }),
        ...(scenario.moment?.() ?? []),
      );
    removeStrangers();
    if (fault.name === 'full') rmSync(path.join(places.b, 'filler'), { force: true });
    server = await startServer(null, asked.sabotage === 'no-readback' ? null : asked.sabotage);
    await atRest(server);
    if (!(await wasBegun(server, scenario, before))) {
      await scenario.start(server, (await scenario.prepare?.(server)) ?? request);
      await atRest(server);
    }
    await scenario.settle?.(server);
    await atRest(server);
    for (const job of await server.get('/jobs'))
      if (job.filesFailed > 0 && job.kind !== 'verify') {
        await server.post(`/jobs/${job.id}/retry`);
        await atRest(server);
      }
    if (fault.name === 'rot') {
      await server.post('/copies/missing', {});
      await atRest(server);
    }
    for (const job of await server.get('/jobs'))
      if (job.state !== 'done' || (job.filesFailed > 0 && job.kind !== 'verify'))
        problems.push(`the ${job.kind} is ${job.state} with ${job.filesFailed} failed: ${job.reason ?? ''}`);
    await server.stop();
    problems.push(
      ...oracle.atRest(wanted, { stays: scenario.stays }),
      ...oracle.recorded(),
      ...(scenario.after?.() ?? []),
    );
    if (scenario.receipts) problems.push(...oracle.receipts());
  } catch (error) {
    problems.push(`broke off: ${error.message}`);
  } finally {
    // One that is at rest has ended.
    server?.kill();
    await server?.ended;
    if (fault.name === 'full') world.unmount(places.b);
    if (inImage) world.unmount();
  }
  const told = `${n + 1}. ${site}${fault.at ? ` #${fault.at}` : ''}${fault.when ? ` ${fault.when}` : ''}`;
  if (asked.verbose || problems.length > 0)
    console.log(problems.length > 0 ? `${told}\n   ${problems.slice(0, 6).join('\n   ')}` : told);
  if (problems.length > 0) failures.push(told);
  lost += problems.filter((problem) => problem.startsWith('LOST')).length;
}

/** What must be so before the photographer puts the device right. */
async function deviceEnded(server, scenario, fault) {
  const problems = [];
  const jobs = await server.get('/jobs');
  const job = jobs.find((j) => j.kind === scenario.kind);
  const { on } = await server.counts();
  // A drive that was gone before the work began: it was refused, and nothing was begun.
  if (!job) return [];
  const told = job.filesFailed > 0 || job.state === 'waiting' || job.reason !== null;
  if ((on || fault.name === 'rot') && !told)
    problems.push(`${fault.name}: nothing was said of it, the job is ${job.state}`);
  if (['stranger', 'case'].includes(fault.name) && on && strangers().length !== 1)
    problems.push('LOST: somebody else’s file was written over');
  return problems;
}

const started = Date.now();
process.exitCode = 1;
try {
  await makeBases();
  console.log(
    mounts
      ? 'Power cuts are played on a mounted image.'
      : 'No image can be mounted here: power cuts are played on a simulated disk that forgets what was not flushed; drives do not run full.',
  );
  const count = Number(asked.count);
  for (let n = 0; n < count; n++) await one(n);
  console.log('\nHits:');
  const kinds = asked.only ? [asked.only] : ['kill', 'cut', 'device'];
  const all = [...dry].flatMap(([name, counts]) =>
    Object.keys(counts).flatMap((site) =>
      kinds.filter((k) => k !== 'device').map((k) => `${k} ${name} ${site}`),
    ),
  );
  for (const site of [
    ...new Set([
      ...all,
      ...hits.keys(),
      ...(kinds.includes('device')
        ? DEVICES.filter((d) => mounts || d !== 'full').map((d) => `device ${d}`)
        : []),
    ]),
  ].sort())
    if (count >= LONG_RUN || hits.has(site)) console.log(`  ${site}: ${hits.get(site) ?? 0}`);
  const never = all.filter((site) => !hits.has(site));
  if (count >= LONG_RUN && never.length > 0) console.log(`never hit: ${never.join(', ')}`);
  console.log(`${Math.round((Date.now() - started) / 1000)} s, seed ${asked.seed}`);
  console.log(`faults survived: ${count - failures.length} of ${count}, lost: ${lost}`);
  if (failures.length === 0 && lost === 0 && (count < LONG_RUN || never.length === 0)) process.exitCode = 0;
} finally {
  world.tidyUp();
}
process.exit();
