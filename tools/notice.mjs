// Writes NOTICE.md: every package that ships with Arkiv, with its version and licence, from what is installed.
import { execFileSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';

const ROOT = path.resolve(path.dirname(fileURLToPath(import.meta.url)), '..');

/** Words on what is not under a permissive licence, by package. */
const REMARKS = {
  'libheif-js':
    'used as a separate, replaceable module under `node_modules`; its source is that of libheif and libde265',
};
for (const system of ['linux-x64', 'linuxmusl-x64', 'darwin-arm64', 'darwin-x64', 'win32-x64', 'linux-arm64'])
  REMARKS[`@img/sharp-libvips-${system}`] =
    'used as a separate, replaceable library; its source is that of libvips and of what it links';

function shipped() {
  const listed = execFileSync('npm', ['ls', '--omit=dev', '--all', '--parseable'], {
    cwd: ROOT,
    encoding: 'utf8',
    stdio: ['ignore', 'pipe', 'ignore'],
    maxBuffer: 1e8,
  });
  const found = new Map();
  for (const folder of listed.trim().split('\n')) {
    if (!folder.includes('node_modules')) continue;
    const { name, version, license } = JSON.parse(readFileSync(path.join(folder, 'package.json'), 'utf8'));
    if (name?.startsWith('@arkiv/')) continue;
    found.set(`${name}@${version}`, { name, version, license: license?.type ?? license ?? 'see its folder' });
  }
  return [...found.values()].sort((a, b) => (`${a.name}@${a.version}` < `${b.name}@${b.version}` ? -1 : 1));
}

const rows = shipped().map(
  ({ name, version, license }) =>
    `| ${name} | ${version} | ${license}${REMARKS[name] ? `: ${REMARKS[name]}` : ''} |`,
);
writeFileSync(
  path.join(ROOT, 'NOTICE.md'),
  `# What ships with Arkiv

These packages are installed with Arkiv and run as parts of it, each under its own licence; the texts lie in their folders
under \`node_modules\`. The list is made by \`node tools/notice.mjs\`. Programs that Arkiv starts where the machine has them
(\`ffmpeg\`, \`udisksctl\`, \`diskutil\`) are not shipped.

| package | version | licence |
| --- | --- | --- |
${rows.join('\n')}
`,
);
console.log(`${rows.length} packages`);
