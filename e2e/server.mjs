// The real server on a fresh data directory with the small test card in its reader.
import { cpSync, existsSync, mkdirSync, mkdtempSync, rmSync, symlinkSync } from 'node:fs';
import { execFileSync, spawn } from 'node:child_process';
import os from 'node:os';
import path from 'node:path';
import { fileURLToPath } from 'node:url';

const root = path.resolve(path.dirname(fileURLToPath(import.meta.url)), '..');
const SIDE = '600';

/** A demo card at a small size, made once and kept. */
function keptCard(name) {
  const kept = path.join(root, `node_modules/.arkiv/test-cards/${name}-${SIDE}`);
  if (existsSync(kept)) return kept;
  mkdirSync(path.dirname(kept), { recursive: true });
  const args = ['tools/demo/make-card.mjs', '--out', kept, '--card', name, '--side', SIDE];
  execFileSync(process.execPath, args, { cwd: root, stdio: 'inherit' });
  return kept;
}
const data = mkdtempSync(path.join(os.tmpdir(), 'arkiv-e2e-'));
const cards = path.join(data, 'stand-ins/cards');
for (const name of ['press-night-a', 'press-night-b', 'catalogue', 'regatta-2'])
  cpSync(keptCard(name), path.join(cards, name), { recursive: true, preserveTimestamps: true });
const card = path.join(cards, 'press-night-a');
mkdirSync(path.join(data, 'stand-ins/reader'), { recursive: true });
symlinkSync(card, path.join(data, 'stand-ins/reader/slot-1'));
const server = spawn(process.execPath, ['apps/server/dist/main.js'], {
  cwd: root,
  stdio: 'inherit',
  env: {
    ...process.env,
    ARKIV_DATA: data,
    ARKIV_PORT: process.argv[2],
    ARKIV_STAND_INS: '1',
    ARKIV_WEB: path.join(root, 'apps/web/dist'),
  },
});
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill('SIGTERM'));
server.on('exit', (code) => {
  rmSync(data, { recursive: true, force: true });
  process.exit(code ?? 0);
});
