// What a browser loads before the first page stands: the script that index.html names, gzipped. Run after a build.
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { gzipSync } from 'node:zlib';
import { ROOT } from './bootstrap.mjs';

/** Kilobytes (10^3 bytes): a second over a slow studio network, and what an old laptop parses while its disk wakes. */
const MOST = 220;

const dist = path.join(ROOT, 'apps/web/dist');
const page = readFileSync(path.join(dist, 'index.html'), 'utf8');
const scripts = [...new Set([...page.matchAll(/assets\/[^"]+\.js/g)].map(([name]) => name))];
const sizes = scripts.map((name) => [name, gzipSync(readFileSync(path.join(dist, name))).length / 1000]);
const sum = sizes.reduce((total, [, size]) => total + size, 0);
console.log(`the first page loads ${sum.toFixed(1)} kB of script, gzipped, in ${scripts.length} files`);
if (scripts.length === 0 || sum > MOST) {
  for (const [name, size] of sizes) console.error(`  ${size.toFixed(1)} kB  ${name}`);
  console.error(`It should be at most ${MOST} kB: let what it does not show be loaded later.`);
  process.exit(1);
}
