// `npm run fuzz -- --count N --seed S [--hang SECONDS] [--only KIND] [--verbose]`: spoils what comes from outside in N ways and gives it to
// the real server: files of cards, lines, patterns, JSON, addresses, uploads, and answers of servers that sets are sent to. Judged from
// outside: that it lives, answers, and writes nothing where nothing of its own is.
import { mkdirSync, rmSync } from 'node:fs';
import path from 'node:path';
import { parseArgs } from 'node:util';
import { ensureBuilt, ensureInstalled, ROOT } from './bootstrap.mjs';

const { values: asked } = parseArgs({
  options: {
    count: { type: 'string', default: '1000' },
    seed: { type: 'string', default: String(Date.now() % 1e9) },
    hang: { type: 'string', default: '2' },
    only: { type: 'string' },
    verbose: { type: 'boolean', default: false },
  },
});
const [count, seed, hang] = [Number(asked.count), Number(asked.seed), Number(asked.hang)];
if (![count, seed, hang].every((n) => Number.isFinite(n) && n > 0)) {
  console.error('--count, --seed and --hang are numbers above 0');
  process.exit(2);
}
await ensureInstalled();
await ensureBuilt();
const { randomFrom } = await import('./fuzz/random.mjs');
const { World } = await import('./fuzz/world.mjs');
const { KINDS, makeTargets } = await import('./fuzz/targets.mjs');

/** Mutants before the server's memory is looked at once more, and its folders. */
const ROUND = 100;
/** From so many on memory is judged: before that caches of every kind still fill. */
const JUDGES_MEMORY = 2000;
/** Growth of resident memory from a run's second quarter to its last: what a heap swings by between two collections. */
const MOST_GROWTH = 1.3;

const kinds = KINDS.filter((kind) => !asked.only || kind === asked.only);
if (kinds.length === 0) {
  console.error(`--only is one of ${KINDS.join(', ')}`);
  process.exit(2);
}
const place = path.join(ROOT, '.cache', `fuzz-${process.pid}`);
mkdirSync(place, { recursive: true });
const world = new World(place, hang);
const found = { crashes: [], hangs: [], outside: [] };
const tried = new Map(kinds.map((kind) => [kind, 0]));
let deep = 0;
let done = 0;
let turn = 0;
const memory = [];
const started = Date.now();
process.exitCode = 1;
try {
  await world.start();
  const targets = await makeTargets(world);
  const random = randomFrom(seed);
  while (done < count) {
    // In turn, so that a short run has all of them.
    const kind = kinds[turn++ % kinds.length];
    const most = Math.min(count - done, ROUND - (done % ROUND));
    const before = done;
    const result = await targets[kind](random, most);
    done += result.tried;
    deep += result.deep;
    tried.set(kind, tried.get(kind) + result.tried);
    for (const trouble of [...result.troubles, ...world.troubles()]) {
      const told = `${kind}, of the mutants from ${before + 1} on: ${trouble.what}`;
      console.log(told);
      found[trouble.is].push(told);
    }
    if (!world.lives) await world.start();
    if (Math.floor(before / ROUND) !== Math.floor(done / ROUND) || done >= count) {
      const { server, others } = world.memory();
      memory.push(server + others);
      for (const what of world.strays()) {
        found.outside.push(what);
        console.log(`outside: ${what}`);
      }
      if (asked.verbose)
        console.log(
          `${done}: the server ${Math.round(server / 1e6)} MB, its processes ${Math.round(others / 1e6)} MB`,
        );
    }
  }
  const mean = (list) => list.reduce((sum, n) => sum + n, 0) / Math.max(1, list.length);
  const quarter = Math.floor(memory.length / 4);
  const growth = mean(memory.slice(-quarter)) / mean(memory.slice(quarter, 2 * quarter));
  const grew = count >= JUDGES_MEMORY && growth > MOST_GROWTH;
  console.log([...tried].map(([kind, n]) => `${kind} ${n}`).join(', '));
  console.log(
    `${Math.round((100 * deep) / done)} % past the first check of their format; memory ${quarter > 0 ? `last quarter ÷ second: ${growth.toFixed(2)}` : 'not judged'}${grew ? ', which is too much' : ''}`,
  );
  console.log(`${Math.round((Date.now() - started) / 1000)} s, seed ${seed}`);
  console.log(
    `${done} mutations: ${found.crashes.length} crashes, ${found.hangs.length} hangs, ${found.outside.length} outside`,
  );
  if (Object.values(found).every((list) => list.length === 0) && !grew) process.exitCode = 0;
} finally {
  await world.stop();
  rmSync(place, { recursive: true, force: true });
}
process.exit();
