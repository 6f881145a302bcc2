// `npm run arkiv -- rebuild DRIVE …`: makes an archive's database anew from its drives alone, in a data folder that has none.
//   --data FOLDER      where the database is made; the operating system's data folder if not given (or ARKIV_DATA)
//   --archive NAME     which one, where the drives tell of several: its name or id
//   --aside            a database that is there is renamed first and kept beside the new one
// A drive is the folder that its shoots' years lie in. Drives are only read, but for the small id file at their root. What a stop cut
// off goes on when the same is called again.
import { createRequire } from 'node:module';
import { existsSync, renameSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { spawn } from 'node:child_process';
import { ensureBuilt, ensureInstalled, ROOT, SERVER } from './bootstrap.mjs';
import { client } from './client.mjs';

const DATABASE = 'archive.sqlite';
const POLL_MILLIS = 300;
const USAGE = 'npm run arkiv -- rebuild [--data FOLDER] [--archive NAME] [--aside] DRIVE …';

class Refused extends Error {}

function asked(args) {
  const [command, ...rest] = args;
  if (command !== 'rebuild') throw new Refused(`How it is called: ${USAGE}`);
  const found = { drives: [], aside: false };
  for (let i = 0; i < rest.length; i++) {
    if (rest[i] === '--aside') found.aside = true;
    else if (rest[i] === '--data' || rest[i] === '--archive') {
      if (rest[i + 1] === undefined)
        throw new Refused(`${rest[i]} needs a value. How it is called: ${USAGE}`);
      found[rest[i].slice(2)] = rest[++i];
    } else if (rest[i].startsWith('--'))
      throw new Refused(`${rest[i]} is not known. How it is called: ${USAGE}`);
    else found.drives.push(path.resolve(rest[i]));
  }
  if (found.drives.length === 0)
    throw new Refused(`Name at least one drive: the folder that its shoots’ years lie in. ${USAGE}`);
  for (const drive of found.drives)
    if (!existsSync(path.join(drive, '.arkiv-volume.json')))
      throw new Refused(
        `${drive} is no drive of an archive: it has no .arkiv-volume.json. Name the folder that has one.`,
      );
  return found;
}

/** Renames a database that is there, unless a server has it open. Nothing is deleted. */
async function putAside(data) {
  const require = createRequire(path.join(ROOT, 'apps/server/package.json'));
  const { ArchiveLock } = require('./dist/db/archiveLock.js');
  const { NodeDisk } = require('./dist/disk/nodeDisk.js');
  const lock = await ArchiveLock.take(data, new NodeDisk());
  const stamp = new Date().toISOString().replace(/[:.]/g, '-');
  for (const end of ['', '-wal', '-shm']) {
    const file = path.join(data, `${DATABASE}${end}`);
    const kept = path.join(data, `before-rebuild-${stamp}.sqlite${end}`);
    if (existsSync(file)) renameSync(file, kept);
  }
  await lock.release();
  console.log(`The old database is kept as before-rebuild-${stamp}.sqlite.`);
}

/** A server of its own for this archive, on this computer alone. */
async function startServer(data) {
  const server = spawn(process.execPath, SERVER.args, {
    stdio: ['ignore', 'pipe', 'inherit'],
    env: {
      ...process.env,
      ...SERVER.env,
      ...{
        ARKIV_DATA: data,
        ARKIV_PORT: '0',
        ARKIV_GALLERY_PORT: '0',
        ARKIV_HOST: '127.0.0.1',
        ARKIV_STAND_INS: '0',
      },
    },
  });
  const place = await new Promise((resolve, reject) => {
    let said = '';
    server.stdout.on('data', (chunk) => {
      said += chunk;
      const address = /Arkiv is at (\S+?)\/?\s/.exec(said);
      if (address) resolve(address[1]);
    });
    server.on('exit', () => reject(new Refused('The archive could not be opened; the reason stands above.')));
  });
  return { server, api: client(place) };
}

async function ended(api, jobId) {
  let shown = '';
  for (;;) {
    const report = await api.get(`/jobs/${jobId}`);
    const { state, filesDone, filesFailed, filesTotal, reason } = report.job;
    const line = `${filesDone + filesFailed} of ${filesTotal} parts${state === 'waiting' ? `: waits. ${reason}` : ''}`;
    if (line !== shown) console.log((shown = line));
    if (['done', 'failed', 'cancelled'].includes(state)) return report;
    await new Promise((resolve) => setTimeout(resolve, POLL_MILLIS));
  }
}

/** The archive that is meant, or why there is none. */
function chosen(archives, wanted) {
  if (archives.length === 0)
    throw new Refused(
      'These drives tell of no archive, or this data folder has one already: look at --data, --aside.',
    );
  const meant = archives.filter(({ id, name }) => wanted === undefined || id === wanted || name === wanted);
  if (meant.length === 1) return meant[0];
  const list = archives.map(({ id, name, shoots }) => `  ${name} (${id}), ${shoots} shoots`).join('\n');
  throw new Refused(`Say with --archive which of these is meant:\n${list}`);
}

async function rebuild({ drives, data: folder, archive, aside }) {
  const require = createRequire(path.join(ROOT, 'apps/server/package.json'));
  const { dataFolder } = require('./dist/config/dataFolder.js');
  const data = path.resolve(
    folder ?? process.env.ARKIV_DATA ?? dataFolder(process.platform, process.env, os.homedir()),
  );
  if (aside && existsSync(path.join(data, DATABASE))) await putAside(data);
  const { server, api } = await startServer(data);
  try {
    const begun = (await api.get('/jobs')).find(({ kind, state }) => kind === 'rebuild' && state !== 'done');
    for (const drive of drives)
      await api.post('/volumes', {
        root: drive,
        name: path.basename(drive),
        role: 'working',
        takeOver: true,
      });
    const made = begun ?? chosen(await api.get('/rebuild'), archive);
    const jobId = begun?.id ?? (await api.post('/rebuild', { archiveId: made.id })).jobId;
    console.log(`${begun ? 'Going on with' : 'Making anew'} “${begun?.title ?? made.name}” in ${data}`);
    const { job, failures } = await ended(api, jobId);
    for (const { file, reason } of failures) console.error(`${file}: ${reason}`);
    const shoots = await api.get('/shoots/totals');
    console.log(
      `${job.state}: ${shoots.shoots} shoots, ${shoots.frames} frames` +
        (failures.length > 0 ? `; ${failures.length} parts are not as they were, see above` : ''),
    );
    return job.state === 'done' && failures.length === 0 ? 0 : 1;
  } finally {
    const over = new Promise((resolve) => server.on('exit', resolve));
    server.kill('SIGTERM');
    await over;
  }
}

try {
  const order = asked(process.argv.slice(2));
  await ensureInstalled();
  await ensureBuilt();
  process.exitCode = await rebuild(order);
} catch (error) {
  console.error(error.message);
  process.exitCode = 1;
}
