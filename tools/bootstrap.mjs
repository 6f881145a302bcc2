// What the commands share: installing what is missing, building what is old. Plain Node, nothing to install first.
import { spawn, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';

export const ROOT = path.resolve(path.dirname(fileURLToPath(import.meta.url)), '..');

/**
 * What a server is started with, chosen by what a million frames took (425 MB before, 275 after, listing a card of
 * thousands and the largest shoot): two arenas of the C library's memory instead of one for each of a dozen threads,
 * large pieces given back to the system at once, and half of the usual room for what is young in each thread.
 * The room for what is old is several times what a million frames need. It is said because the language lets its memory grow to
 * four times of what lives in it before it collects, where that room is not limited, and to less than twice where it is: after three
 * cards of 120 frames 235 MB instead of 388, with pieces from 64 kB on given back at once.
 */
export const SERVER = {
  args: ['--max-semi-space-size=8', '--max-old-space-size=1536', path.join(ROOT, 'apps/server/dist/main.js')],
  env: {
    NODE_ENV: 'production',
    MALLOC_ARENA_MAX: '2',
    MALLOC_MMAP_THRESHOLD_: '65536',
    ARKIV_WEB: path.join(ROOT, 'apps/web/dist'),
  },
};

const STAMPS = path.join(ROOT, 'node_modules', '.arkiv');

/** Runs a command to its end, showing what it prints; rejects when it fails. */
export function run(command, args, options = {}) {
  return new Promise((resolve, reject) => {
    const child = spawn(command, args, { cwd: ROOT, stdio: 'inherit', ...options });
    child.on('error', reject);
    child.on('exit', (code) =>
      code === 0 ? resolve() : reject(new Error(`${command} ${args.join(' ')} ended with ${code}`)),
    );
  });
}

function fresh(name, value) {
  const file = path.join(STAMPS, name);
  return existsSync(file) && readFileSync(file, 'utf8') === value;
}

function stamp(name, value) {
  mkdirSync(STAMPS, { recursive: true });
  writeFileSync(path.join(STAMPS, name), value);
}

/**
 * Installs the packages of the lock file unless exactly these are there. `compiled` settles when the database driver is compiled too, which
 * takes as long as all the rest: whoever needs no database goes on meanwhile.
 */
export async function beginInstall() {
  const lock = createHash('sha256')
    .update(readFileSync(path.join(ROOT, 'package-lock.json')))
    .update(process.version)
    .digest('hex');
  if (fresh('installed', lock)) return { compiled: Promise.resolve() };
  console.log('Installing packages (one compiles: about two minutes the first time) …');
  await run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel', 'error', '--ignore-scripts']);
  // At -O2, which is SQLite's own choice, that takes a quarter less than at -O3.
  const env = { CFLAGS: '-O2', CXXFLAGS: '-O1', JOBS: '2', ...process.env };
  const compiled = run('npm', ['rebuild', 'better-sqlite3', '--loglevel', 'error'], { env }).then(() =>
    stamp('installed', lock),
  );
  // A failure is heard by whoever waits for it, perhaps much later.
  compiled.catch(() => undefined);
  return { compiled };
}

/** As {@link beginInstall}, until all of it is there. */
export async function ensureInstalled() {
  await (
    await beginInstall()
  ).compiled;
}

/** Name, size and time of every source file: when none changed, nothing has to be built. */
function sourcesState() {
  const hash = createHash('sha256');
  const walk = (folder) => {
    for (const entry of readdirSync(folder, { withFileTypes: true }).sort((a, b) =>
      a.name < b.name ? -1 : 1,
    )) {
      if (entry.name === 'node_modules' || entry.name === 'dist') continue;
      const full = path.join(folder, entry.name);
      if (entry.isDirectory()) walk(full);
      else {
        const { size, mtimeMs } = statSync(full);
        hash.update(`${full}\0${size}\0${mtimeMs}\n`);
      }
    }
  };
  for (const part of [
    'packages/core',
    'packages/sending',
    'apps/server',
    'apps/web',
    'apps/gallery',
    'docs/guide',
  ])
    walk(path.join(ROOT, part));
  hash.update(readFileSync(path.join(ROOT, 'tsconfig.base.json')));
  return hash.digest('hex');
}

const BUILT = [
  'packages/core/dist/index.js',
  'apps/server/dist/main.js',
  'apps/web/dist/index.html',
  'apps/gallery/dist/gallery.js',
  'apps/gallery/dist/upload.js',
];

/** Builds core, server and web unless they are up to date. */
export async function ensureBuilt() {
  const state = sourcesState();
  if (fresh('built', state) && BUILT.every((file) => existsSync(path.join(ROOT, file)))) return;
  // What others read is on the other one.
  console.error('Building …');
  await run('npm', ['run', '--silent', 'build']);
  stamp('built', sourcesState());
}

/** Whether it is there afterwards is looked at by whoever asked for it. */
async function aptInstall(...packages) {
  for (const args of [['update'], ['install', '-y', '--no-install-recommends', ...packages]])
    await run('apt-get', args, { stdio: 'ignore' }).catch(() => undefined);
}

export const CHROMIUM = '/usr/bin/chromium';

/** Chromium for the browser tests, through apt where that works. Returns false, having said why, where not. */
export async function ensureChromium() {
  if (existsSync(CHROMIUM)) return true;
  const isRoot = process.getuid?.() === 0;
  if (isRoot && spawnSync('apt-get', ['--version']).status === 0) {
    console.log('Installing Chromium for the browser tests …');
    await aptInstall('chromium');
    if (existsSync(CHROMIUM)) return true;
  }
  console.error(
    'Browser tests need Debian’s Chromium: install it with `apt-get install chromium` and run `npm test` again.',
  );
  return false;
}

/** The reference tools of the outside checks; a test whose tool is missing fails and says so. */
export const ensureCheckTools = () =>
  ensureTools(
    {
      exiftool: 'libimage-exiftool-perl',
      unzip: 'unzip',
      openssl: 'openssl',
      pdftotext: 'poppler-utils',
    },
    'the outside checks',
  );

/** Commands and the packages they come in, through apt where that works. Returns false, having said why, where not. */
export async function ensureTools(wanted, purpose) {
  const missing = Object.entries(wanted).filter(([command]) => spawnSync('which', [command]).status !== 0);
  if (missing.length === 0) return true;
  const packages = missing.map(([, name]) => name);
  if (process.getuid?.() === 0 && spawnSync('apt-get', ['--version']).status === 0) {
    console.error(`Installing ${packages.join(', ')} for ${purpose} …`);
    await aptInstall(...packages);
    if (missing.every(([command]) => spawnSync('which', [command]).status === 0)) return true;
  }
  console.error(`Missing for ${purpose}: apt-get install ${packages.join(' ')}. Install and run this again.`);
  return false;
}
