// `npm test`: installs what is missing, then lint, types, build, unit tests, browser tests; a plain summary at the end.
import { spawn } from 'node:child_process';
import { beginInstall, ensureBuilt, ensureCheckTools, ensureChromium, ROOT } from './bootstrap.mjs';
import { writeGroups } from './together.mjs';

/**
 * Which browser tests' files belong to which part, as patterns of their paths, each with a port of its own. The last is of archives of its
 * own and takes a third of the time: a core that the other two leave idle, waiting for disks and for each other, is its.
 */
const PARTS = [
  {
    name: 'browser tests',
    port: 4791,
    files: ['/e2e/[a-p]-', '/e2e/[r-t]-', '/e2e/v-', '/e2e/y-', '/e2e/z-'],
  },
  { name: 'browser tests, second part', port: 4891, files: ['/e2e/a-whole', '/e2e/n-two', '/e2e/u-'] },
  { name: 'browser tests, third part', port: 4991, files: ['/e2e/q-'] },
];
/** Of a step that failed: enough for an error with its stack, few enough to be read at a glance. */
const LAST_LINES = 25;
/** Where the first failure is told of: by Playwright “  1) file › title”, by Jest “  ● title”. */
const FIRST_FAILURE = /^\s+(1\)|●) /;
const counted = { passed: 0, failed: 0, skipped: 0 };

/** Runs one step, passes its output on, and picks the counts out of it. */
function step(name, command, args, more = {}) {
  console.log(`\n— ${name}`);
  return new Promise((resolve) => {
    const started = Date.now();
    const child = spawn(command, args, {
      cwd: ROOT,
      env: { ...process.env, FORCE_COLOR: '0', NO_COLOR: '1', ...more },
    });
    let said = '';
    for (const stream of [child.stdout, child.stderr]) {
      stream.on('data', (chunk) => {
        said += chunk;
        process.stdout.write(chunk);
      });
    }
    child.on('exit', (code) => {
      count(said);
      resolve({ name, ok: code === 0, seconds: Math.round((Date.now() - started) / 1000), said });
    });
  });
}

function count(said) {
  // jest: “Tests: 1 failed, 2 skipped, 3 passed, 6 total”; Playwright: “  3 passed (4.2s)”, one line each.
  const fuzz = /^(\d+) mutations: (\d+) crashes, (\d+) hangs, (\d+) outside$/m.exec(said);
  if (fuzz) {
    const [, all, ...bad] = fuzz.map(Number);
    const failed = Math.min(all, bad[0] + bad[1] + bad[2]);
    counted.passed += all - failed;
    counted.failed += failed;
    return;
  }
  const faults = /faults survived: (\d+) of (\d+)/.exec(said);
  if (faults) {
    counted.passed += Number(faults[1]);
    counted.failed += faults[2] - faults[1];
    return;
  }
  const line =
    /^Tests:.*$/m.exec(said)?.[0] ?? said.match(/^\s+\d+ (passed|failed|skipped)\b.*$/gm)?.join(' ') ?? '';
  for (const kind of Object.keys(counted))
    counted[kind] += Number(new RegExp(`(\\d+) ${kind}`).exec(line)?.[1] ?? 0);
}

const begun = Date.now();
const machine = (async () => ({ chromium: await ensureChromium(), tools: await ensureCheckTools() }))();
const { compiled } = await beginInstall();
const { chromium, tools } = await machine;
await ensureBuilt();
console.log(`Installed and built in ${Math.round((Date.now() - begun) / 1000)} s.`);
const results = [];
/** Steps that follow each other, and what they wait for. */
const after = async (...steps) => {
  const done = [];
  for (const one of steps)
    if (Array.isArray(one)) done.push(await step(...one));
    else await one;
  return done;
};
// Three at once on two cores: what waits for disks leaves them to the others.
const lint = after(
  ['lint', 'npm', ['run', '--silent', 'lint']],
  ['types', 'npm', ['run', '--silent', 'types']],
  ['first page', process.execPath, ['tools/firstPage.mjs']],
  ['share of tests', process.execPath, ['tools/share.mjs']],
  // From here on there is a database.
  compiled,
  ['api types', process.execPath, ['tools/api-types.mjs', '--check']],
  // All parts of the browser tests take them.
  ['test cards', process.execPath, ['e2e/cards.mjs']],
);
const units = after(
  [
    'unit tests',
    'npm',
    ['run', '--silent', 'unit', '--', '--selectProjects', 'core', 'web', '--maxWorkers', '1'],
  ],
  compiled,
  // A hang is a minute: a busy machine is slow, and what hangs does so for ever.
  ['fuzz', process.execPath, ['tools/fuzz.mjs', '--count', '500', '--seed', '1', '--hang', '60']],
  ['sabotage is caught', process.execPath, ['tools/faults/sabotage.mjs']],
);
const faults = after(compiled, ['faults', process.execPath, ['tools/faults.mjs', '--count', '20']]);
results.push(...(await Promise.all([lint, units, faults])).flat());
writeGroups();
results.push(
  // A third of their time is waiting for disks and other processes: of a part of them two took 175 s, three 137, four 172.
  await step(
    'server tests',
    'npm',
    ['run', '--silent', 'unit', '--', '--selectProjects', 'together', '--maxWorkers', '3'],
    { ARKIV_TOGETHER: '1' },
  ),
);
if (chromium) {
  // Each on a server of its own, which the first test fills; the second part takes what comes after a shoot is culled.
  const part = ({ name, port, files }) =>
    step(name, 'npm', ['run', '--silent', 'e2e', '--', ...files], { E2E_PORT: String(port) });
  results.push(...(await Promise.all(PARTS.map(part))));
}

// What failed long before is said once more where it is looked for: its cause, and how the step ended.
for (const { name, said } of results.filter(({ ok }) => !ok)) {
  const lines = said.trimEnd().split('\n');
  const first = lines.findIndex((line) => FIRST_FAILURE.test(line));
  const cause = first < 0 ? [] : lines.slice(first, first + LAST_LINES);
  const end = lines.slice(Math.max(first + cause.length, lines.length - LAST_LINES));
  console.log(`\n— ${name}, which failed:\n${[...cause, '…', ...end].join('\n')}`);
}
console.log('\nSummary');
for (const { name, ok, seconds } of results) console.log(`  ${ok ? 'ok  ' : 'FAIL'} ${name} (${seconds} s)`);
if (!chromium) console.log('  FAIL browser tests: Chromium is missing');
if (!tools) console.log('  FAIL outside checks: a tool is missing');
console.log(`${counted.passed} passed, ${counted.failed} failed, ${counted.skipped} skipped`);
process.exitCode = results.every((r) => r.ok) && chromium && tools ? 0 : 1;
