// Writes the API's description and the web's types from the server's own classes. `--check` only compares.
import { execFileSync } from 'node:child_process';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { createRequire } from 'node:module';
import { ROOT } from './bootstrap.mjs';

const json = execFileSync(process.execPath, [path.join(ROOT, 'apps/server/dist/openapi.js')], {
  encoding: 'utf8',
  maxBuffer: 1e8,
});
const { default: openapiTS, astToString } = await import(
  createRequire(path.join(ROOT, 'apps/web/package.json'))
    .resolve('openapi-typescript')
    .replace(/\.c?js$/, '.mjs')
);
const types = `// Made by \`npm run api-types\` from the server's classes. Not to be edited.\n${astToString(await openapiTS(json))}`;
const files = { 'apps/server/openapi.json': json, 'apps/web/src/data/api.d.ts': types };
let stale = false;
for (const [name, text] of Object.entries(files)) {
  const file = path.join(ROOT, name);
  if (existsSync(file) && readFileSync(file, 'utf8') === text) continue;
  stale = true;
  if (!process.argv.includes('--check')) writeFileSync(file, text);
}
if (stale && process.argv.includes('--check')) {
  console.error('The web’s types do not fit the server: run `npm run api-types` and commit what it writes.');
  process.exit(1);
}
