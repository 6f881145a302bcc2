// Tests are a quarter to a third of the code: fewer check too little, more are kept for their own sake. Counted in lines that
// are not blank, over all TypeScript and mjs, without types that are generated and what only makes the demo's pictures.
import { spawnSync } from 'node:child_process';
import { existsSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { ROOT } from './bootstrap.mjs';

const LEAST = 25;
const MOST = 33;

const isTest = (file) =>
  /\.(test|spec)\.[a-z]+$/.test(file) || file.startsWith('e2e/') || file.split('/').includes('test');
const counts = (file) =>
  /\.(ts|tsx|mjs)$/.test(file) && !file.endsWith('api.d.ts') && !file.startsWith('tools/demo/');

const listed = spawnSync('git', ['ls-files', '--cached', '--others', '--exclude-standard'], {
  cwd: ROOT,
  encoding: 'utf8',
});
if (listed.status !== 0) {
  console.log('the share of tests is not counted: this is no clone');
  process.exit(0);
}
const files = listed.stdout
  .trim()
  .split('\n')
  .filter((file) => counts(file) && existsSync(path.join(ROOT, file)));
const lines = { tests: 0, rest: 0 };
for (const file of files) {
  const text = readFileSync(path.join(ROOT, file), 'utf8');
  lines[isTest(file) ? 'tests' : 'rest'] += text.split('\n').filter((line) => line.trim() !== '').length;
}
const share = (100 * lines.tests) / (lines.tests + lines.rest);
console.log(
  `tests are ${share.toFixed(1)} % of the code: ${lines.tests} lines of ${lines.tests + lines.rest}, ${files.length} files`,
);
if (share < LEAST || share > MOST) {
  console.error(`They should be ${LEAST} to ${MOST} %.`);
  process.exit(1);
}
