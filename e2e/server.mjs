// The real server on a fresh data directory with the small test card in its reader.
import { cpSync, mkdirSync, mkdtempSync, rmSync, symlinkSync } from 'node:fs';
import { spawn } from 'node:child_process';
import os from 'node:os';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { CARDS, keptCard } from './cards.mjs';

const root = path.resolve(path.dirname(fileURLToPath(import.meta.url)), '..');
const data = mkdtempSync(path.join(os.tmpdir(), 'arkiv-e2e-'));
const cards = path.join(data, 'stand-ins/cards');
for (const name of CARDS)
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
