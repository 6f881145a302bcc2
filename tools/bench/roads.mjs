// The archive made anew from its drives alone: how long a hundred thousand frames take. `--frames N`, on an archive that is kept between
// runs. The drives hold files of the right lengths without contents: no picture is read for it.
import { cpSync, ftruncateSync, mkdirSync, openSync, closeSync, rmSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import path from 'node:path';
import { ROOT } from '../bootstrap.mjs';
import { dropCaches, freshFolder, jobDone, PLACE, residentMegabytes, seconds, startServer } from './lib.mjs';
import { archiveOf } from './scale/make.mjs';

const Database = createRequire(path.join(ROOT, 'apps/server/package.json'))('better-sqlite3');
const PORT = 4817;
/** Seconds for a hundred thousand frames. */
const REBUILD = 600;

export async function roads({ frames = 100_000, log }) {
  const made = await archiveOf(frames, log);
  const data = freshFolder('roads-data');
  rmSync(data, { recursive: true });
  cpSync(made.data, data, { recursive: true, mode: 2 });
  const drives = playDrives(path.join(data, 'archive.sqlite'), log);
  log('records are written …');
  const writing = await seconds(() => recorded(data));
  log(`  in ${writing.toFixed(0)} s`);
  const anew = freshFolder('roads-anew');
  const cold = dropCaches();
  const server = await startServer(anew, PORT);
  let most = 0;
  try {
    for (const [name, root] of drives) await server.post('/volumes', { root, name, role: 'working' });
    const [archive] = await server.get('/rebuild');
    const took = await seconds(async () => {
      const { jobId } = await server.post('/rebuild', { archiveId: archive.id });
      await jobDone(server, jobId, () => {
        most = Math.max(most, residentMegabytes(server.pid).server);
      });
      const { job } = await server.get(`/jobs/${jobId}`);
      if (job.state !== 'done' || job.filesFailed > 0)
        throw new Error(`the rebuild is ${job.state}, ${job.filesFailed} failed: ${job.trouble}`);
    });
    const totals = await server.get('/shoots/totals');
    return [
      figure('roads.rebuild', 's', took, REBUILD, {
        ...{
          frames: totals.frames,
          shoots: totals.shoots,
          drives: drives.length,
          records: Math.round(writing),
        },
        ...{ memory: Math.round(most), caches: cold ? 'dropped' : 'warm' },
      }),
    ];
  } finally {
    await server.stop();
  }
}

const figure = (name, unit, value, floor, more) => {
  process.stderr.write(`  ${name} ${value.toPrecision(3)} ${unit}\n`);
  return {
    ...{ name, value: Number(value.toPrecision(3)), unit, floor },
    ...{ ratio: Number((value / floor).toPrecision(3)), ...more },
  };
};

/** Every drive that the database knows, as a folder with all its files. Nothing was recorded yet. */
function playDrives(file, log) {
  const db = new Database(file);
  const drives = db
    .prepare(`SELECT id, name FROM volume ORDER BY "addedAt", id`)
    .all()
    .map(({ id, name }) => [id, name, path.join(PLACE, 'roads-drives', id)]);
  for (const [id, name, root] of drives) {
    rmSync(root, { recursive: true, force: true });
    mkdirSync(root, { recursive: true });
    writeFileSync(path.join(root, '.arkiv-volume.json'), JSON.stringify({ id, name, made: '2031-01-01' }));
    db.prepare('UPDATE volume SET root = ? WHERE id = ?').run(root, id);
    const folders = new Set();
    let n = 0;
    for (const { at, size } of db
      .prepare(
        `SELECT c."at", a.size FROM copy_at c JOIN asset a ON a.id = c."assetId" WHERE c."volumeId" = ? ORDER BY 1`,
      )
      .iterate(id)) {
      const full = path.join(root, at);
      const folder = path.dirname(full);
      if (!folders.has(folder)) {
        mkdirSync(folder, { recursive: true });
        folders.add(folder);
      }
      const made = openSync(full, 'w');
      ftruncateSync(made, size);
      closeSync(made);
      n += 1;
    }
    log(`  “${name}”: ${n} files`);
  }
  // The migration notes that each drive lacks all of it.
  db.prepare(`DELETE FROM migrations WHERE name = 'Records1834000000000'`).run();
  db.close();
  return drives.map(([, name, root]) => [name, root]);
}

/** Starts the archive and ends it when all its records are on the drives. */
async function recorded(data) {
  const server = await startServer(data, PORT);
  try {
    const db = new Database(path.join(data, 'archive.sqlite'), { readonly: true });
    const left = db.prepare(`SELECT COUNT(*) AS n FROM text_due WHERE kind = 'record'`);
    while (left.get().n > 0) await new Promise((resolve) => setTimeout(resolve, 500));
    db.close();
  } finally {
    await server.stop();
  }
}
