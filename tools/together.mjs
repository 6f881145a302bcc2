// Test files of the server in groups, each run as one file: every test file on its own loads the whole application and warms it up
// once more, which was 27 % of what eight of them took (105 s alone, 77 s together). Each stays a file that runs by itself.
import { mkdirSync, readdirSync, rmSync, statSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { ROOT } from './bootstrap.mjs';

/** So many that three workers end at about the same time, and few enough that loading is seldom. */
const GROUPS = 12;
const SERVER = path.join(ROOT, 'apps/server');

/** Writes the groups' files anew; Jest's project `together` runs them. */
export function writeGroups() {
  const folder = path.join(SERVER, 'test/together');
  rmSync(folder, { recursive: true, force: true });
  mkdirSync(folder);
  const files = ['src', 'test']
    .flatMap((below) =>
      readdirSync(path.join(SERVER, below), { recursive: true, withFileTypes: true })
        .filter((entry) => entry.isFile() && entry.name.endsWith('.test.ts'))
        .map((entry) => path.join(entry.parentPath, entry.name)),
    )
    .map((file) => ({ file, size: statSync(file).size }))
    .sort((a, b) => b.size - a.size);
  // The largest first, each to the group that has least: a file's length says well enough how long it takes.
  const groups = Array.from({ length: GROUPS }, () => ({ size: 0, files: [] }));
  for (const { file, size } of files) {
    const least = groups.reduce((a, b) => (b.size < a.size ? b : a));
    least.files.push(file);
    least.size += size;
  }
  for (const [n, group] of groups.entries()) {
    const parts = group.files.map((file) => {
      const from = path.relative(folder, file).split(path.sep).join('/');
      const title = path.relative(SERVER, file).split(path.sep).join('/');
      return `describe('${title}', () => {\n  require('${from}');\n});\n`;
    });
    // What all its files share ends with the group, not with the first of them.
    parts.unshift("require('../testArkiv');\n");
    writeFileSync(path.join(folder, `group-${n + 1}.test.ts`), parts.join(''));
  }
}
