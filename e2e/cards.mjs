// Demo cards at a small size, made once and kept. `node e2e/cards.mjs` makes them before servers that share them begin.
import { execFileSync } from 'node:child_process';
import { existsSync, mkdirSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';

const root = path.resolve(path.dirname(fileURLToPath(import.meta.url)), '..');
const SIDE = '600';
export const CARDS = ['press-night-a', 'press-night-b', 'catalogue', 'regatta-2'];

/** The folder that a card is kept in; it is made unless it is there. */
export function keptCard(name) {
  const kept = path.join(root, `node_modules/.arkiv/test-cards/${name}-${SIDE}`);
  if (existsSync(kept)) return kept;
  mkdirSync(path.dirname(kept), { recursive: true });
  const args = ['tools/demo/make-card.mjs', '--out', kept, '--card', name, '--side', SIDE];
  execFileSync(process.execPath, args, { cwd: root, stdio: 'inherit' });
  return kept;
}

if (process.argv[1] === fileURLToPath(import.meta.url)) for (const name of CARDS) keptCard(name);
