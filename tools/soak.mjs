// `npm run soak -- --hours H [--days N] [--report FILE]`: a studio's day after day on one server, for hours; then what it takes at the end
// against what it took near the beginning. Last line: `N days, F frames: flat`, or what was not.
import { execFileSync, spawn } from 'node:child_process';
import { existsSync, mkdirSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { parseArgs } from 'node:util';
import { ensureBuilt, ensureInstalled, ensureTools, ROOT, SERVER } from './bootstrap.mjs';
import { client } from './client.mjs';

const { values: asked } = parseArgs({
  options: { hours: { type: 'string', default: '1' }, days: { type: 'string' }, report: { type: 'string' } },
});
const hours = Number(asked.hours);
const most = asked.days === undefined ? Infinity : Number(asked.days);
if (!(hours > 0) || !(most >= 12)) {
  console.error('--hours needs a number above 0, --days one of at least 12: a sixth has two days then.');
  process.exit(2);
}
await ensureInstalled();
await ensureBuilt();
if (!(await ensureTools({ exiftool: 'libimage-exiftool-perl' }, 'the soak'))) process.exit(1);
const { Studio } = await import('./soak/studio.mjs');
const { compared, MOST, sample } = await import('./soak/figures.mjs');

const PLACE = path.join(ROOT, '.cache', `soak-${process.pid}`);
const template = path.join(ROOT, 'node_modules/.arkiv/test-cards/press-night-240');
if (!existsSync(template)) {
  mkdirSync(path.dirname(template), { recursive: true });
  execFileSync(process.execPath, [
    path.join(ROOT, 'tools/demo/make-card.mjs'),
    ...['--out', template, '--side', '240'],
  ]);
}
rmSync(PLACE, { recursive: true, force: true });
mkdirSync(PLACE, { recursive: true });
const studio = new Studio(PLACE, template);

let said = 0;
let ended = false;
const child = spawn(process.execPath, SERVER.args, {
  cwd: ROOT,
  stdio: ['ignore', 'pipe', 'pipe'],
  env: {
    ...process.env,
    ...SERVER.env,
    ...{
      ARKIV_DATA: studio.places.data,
      ARKIV_PORT: '0',
      ARKIV_GALLERY_PORT: '0',
      ARKIV_STAND_INS: '0',
      ARKIV_ARCHIVES: '',
    },
  },
});
const base = await new Promise((resolve, reject) => {
  let heard = '';
  for (const stream of [child.stdout, child.stderr])
    stream.on('data', (chunk) => {
      said += chunk.length;
      heard = `${heard}${chunk}`.slice(-4000);
      const address = /Arkiv is at (http:\/\/[\d.]+:\d+)/.exec(heard);
      if (address) resolve(address[1]);
    });
  child.once('exit', (code) => {
    ended = true;
    reject(new Error(`the server ended with ${code}: ${heard}`));
  });
});

const begun = Date.now();
const days = [];
let frames = 0;
process.exitCode = 1;
try {
  await studio.open({ base, ...client(base) });
  for (let n = 0; n < most && Date.now() - begun < hours * 3_600_000; n++) {
    const day = await studio.day(n);
    if (ended) throw new Error('the server ended');
    frames += day.frames;
    days.push({ took: day.took, now: sample(child.pid, studio.places.data, said, frames) });
    const { memory, files } = days.at(-1).now;
    if (n % 10 === 9)
      console.log(`  day ${n + 1}: ${frames} frames, ${Math.round(memory)} MB, ${files} files`);
  }
  if (days.length < 12) throw new Error(`only ${days.length} days were played: a sixth needs two`);
  const rows = compared(days);
  const table = told(rows);
  console.log(`\n${table}`);
  if (asked.report) writeFileSync(asked.report, report(table));
  const grown = rows.filter(({ ratio }) => ratio > MOST).map(({ name }) => name);
  console.log(
    `${days.length} days, ${frames} frames: ${grown.length === 0 ? 'flat' : `grown: ${grown.join(', ')}`}`,
  );
  if (grown.length === 0) process.exitCode = 0;
} finally {
  child.kill('SIGTERM');
  if (!ended) await new Promise((resolve) => child.once('exit', resolve));
  rmSync(PLACE, { recursive: true, force: true });
}

function told(rows) {
  const figure = (value) => (value >= 100 ? String(Math.round(value)) : value.toPrecision(3));
  return [
    '| | second sixth | last sixth | ratio |',
    '|---|---|---|---|',
    ...rows.map(
      ({ name, unit, second, last, ratio }) =>
        `| ${name} | ${figure(second)} ${unit} | ${figure(last)} ${unit} | ${ratio.toFixed(2)} |`,
    ),
  ].join('\n');
}

function report(table) {
  const minutes = Math.round((Date.now() - begun) / 60_000);
  return `# Soak

\`npm run soak -- --hours H --report docs/soak.md\` plays a studio's day after day on one server: a card of the demo with the day's times, its
intake onto two drives, all small pictures, marks one by one and taken back, captions, twenty questions, a hand-off, an export with a
proof sheet, rejects into the bin, the bin emptied, the card cleared, copies read again. In each ten days a drive goes in the midst of an
intake and comes back, a card is pulled, a picture is cut off, and ten windows go without a word. What the last sixth of the days takes
must be within a tenth of what the second sixth took.

${days.length} days in ${minutes} minutes, ${frames} frames, on ${os.cpus().length} cores, Node.js ${process.version}:

${table}
`;
}
