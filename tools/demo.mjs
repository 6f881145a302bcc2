// `npm run demo`: installs what is missing, builds, makes the demo's cards, starts, and prints the address.
//   -- --port N      another port than 4750
//   -- --fresh       forget everything taken in so far
//   -- --frames N    lays a large card of N frames on the table as well, for trying speed
import { existsSync, rmSync } from 'node:fs';
import path from 'node:path';
import { spawn } from 'node:child_process';
import { ensureBuilt, ensureInstalled, ROOT, run, SERVER } from './bootstrap.mjs';

const args = process.argv.slice(2);
const value = (name, otherwise) => (args.includes(name) ? args[args.indexOf(name) + 1] : otherwise);
const whole = (name, otherwise, least, most) => {
  const number = Number(value(name, otherwise));
  if (Number.isInteger(number) && number >= least && number <= most) return number;
  console.error(`${name} needs a whole number from ${least} to ${most}, found “${value(name, '')}”.`);
  process.exit(1);
};
const port = whole('--port', 4750, 1, 65535);
// Above, a card's counter would go round more often than any real one.
const frames = whole('--frames', 0, 0, 50_000);
const data = path.resolve(value('--data', path.join(ROOT, 'data')));
const cards = path.join(data, 'stand-ins', 'cards');

await ensureInstalled();
const { firstDays } = await import('./demo/first-days.mjs');
const { EARLIER } = await import('./demo/earlier.mjs');
if (args.includes('--fresh') && existsSync(data)) {
  // The cards take the longest to make and hold nothing of the user's: they stay.
  for (const name of [
    'archive.sqlite',
    'archive.sqlite-wal',
    'archive.sqlite-shm',
    'previews',
    'galleries',
    'stand-ins/volumes',
    'stand-ins/reader',
  ]) {
    rmSync(path.join(data, name), { recursive: true, force: true });
  }
}

/** Makes cards one after the other, in a process of their own: two of these keep two cores busy. */
async function make(...names) {
  for (const name of names) {
    if (existsSync(path.join(cards, name))) continue;
    const size = name.startsWith('large-') ? ['--frames', name.slice(6)] : ['--card', name];
    await run(process.execPath, ['tools/demo/make-card.mjs', '--out', path.join(cards, name), ...size]);
  }
}
const earlier = EARLIER.map(({ card }) => card);
const first = ['press-night-a', 'press-night-b', 'catalogue', ...earlier];
if (first.some((name) => !existsSync(path.join(cards, name)))) console.log('Making the demo’s cards …');
await Promise.all([
  ensureBuilt().then(() => make('press-night-a', 'press-night-b')),
  make('catalogue', ...earlier),
]);

const server = spawn(process.execPath, SERVER.args, {
  cwd: ROOT,
  stdio: ['inherit', 'pipe', 'inherit'],
  env: {
    ...process.env,
    ...SERVER.env,
    ARKIV_DATA: data,
    ARKIV_PORT: String(port),
    ARKIV_STAND_INS: '1',
  },
});
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal));
server.on('exit', (code) => process.exit(code ?? 0));
const base = `http://127.0.0.1:${port}`;
// Its own word, not an answer at the port: that may be another server's.
await new Promise((resolve) => {
  server.stdout.on('data', (text) => String(text).includes('Arkiv is at') && resolve());
});
await firstDays(base);
console.log(`Arkiv is at ${base}/`);
// The season's other cards are laid on the table when they are ready.
await make('regatta-1', 'regatta-2', ...(frames > 0 ? [`large-${frames}`] : [])).catch((error) =>
  console.error(`A card could not be made: ${error.message} Start again to try anew.`),
);
