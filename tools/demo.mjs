// `npm run demo`: installs what is missing, builds, makes the demo card, starts, and prints the address.
//   -- --port N   another port than 4750     -- --fresh   forget everything taken in so far
import { existsSync, lstatSync, mkdirSync, rmSync, symlinkSync } from 'node:fs';
import path from 'node:path';
import { spawn } from 'node:child_process';
import { ensureBuilt, ensureInstalled, ROOT, run } from './bootstrap.mjs';

const args = process.argv.slice(2);
const value = (name, otherwise) => (args.includes(name) ? args[args.indexOf(name) + 1] : otherwise);
const port = Number(value('--port', '4750'));
const data = path.resolve(value('--data', path.join(ROOT, 'data')));
if (!Number.isInteger(port) || port < 1 || port > 65535) {
  console.error(`--port needs a number from 1 to 65535, found “${value('--port', '')}”.`);
  process.exit(1);
}

await ensureInstalled();
const card = path.join(data, 'stand-ins', 'cards', 'press-night-a');
if (args.includes('--fresh') && existsSync(data)) {
  // The cards take the longest to make and hold nothing of the user's: they stay.
  for (const name of [
    'archive.sqlite',
    'archive.sqlite-wal',
    'archive.sqlite-shm',
    'previews',
    'stand-ins/volumes',
    'stand-ins/reader',
  ]) {
    rmSync(path.join(data, name), { recursive: true, force: true });
  }
}
const made = existsSync(card)
  ? Promise.resolve()
  : (console.log('Making the demo card …'),
    run(process.execPath, ['tools/demo/make-card.mjs', '--out', card]));
await Promise.all([made, ensureBuilt()]);
insertCard();

const server = spawn(process.execPath, ['apps/server/dist/main.js'], {
  cwd: ROOT,
  stdio: 'inherit',
  env: {
    ...process.env,
    ARKIV_DATA: data,
    ARKIV_PORT: String(port),
    ARKIV_STAND_INS: '1',
    ARKIV_WEB: path.join(ROOT, 'apps/web/dist'),
  },
});
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal));
server.on('exit', (code) => process.exit(code ?? 0));

/** On a first start the card lies in the reader already. */
function insertCard() {
  const reader = path.join(data, 'stand-ins', 'reader');
  const slot = path.join(reader, 'slot-1');
  if (existsSync(reader)) return;
  mkdirSync(reader, { recursive: true });
  if (!existsSync(slot) || !lstatSync(slot).isSymbolicLink()) symlinkSync(card, slot);
}
