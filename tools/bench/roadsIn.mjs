// Other roads in, and proving again: what comes into a watched folder against the second in which it should be seen, files that are sent
// against a plain PUT with a checksum, and what is verified again against the shell that reads and hashes the same.
import { spawn } from 'node:child_process';
import { createHash } from 'node:crypto';
import { copyFileSync, createReadStream, readFileSync, renameSync, statSync } from 'node:fs';
import { request as ask } from 'node:http';
import { createRequire } from 'node:module';
import path from 'node:path';
import { ROOT } from '../bootstrap.mjs';
import {
  alternate,
  compare,
  dropCaches,
  filesBelow,
  freshFolder,
  jobDone,
  median,
  prepareIntake,
  seconds,
  shell,
  startServer,
} from './lib.mjs';
import { heavyCard, pictures } from './material.mjs';

const require = createRequire(path.join(ROOT, 'packages/sending/package.json'));
const PORT = 4821;
/** Times the floor, which puts each file down once and reads it never. */
const UPLOAD = 1.25;
const VERIFY = 1.1;
/** Seconds from a file that is whole to its frame on the list. */
const WATCH = 1.5;
/** As the pages send: so many files at one time, in requests of so many bytes. */
const AT_ONCE = 3;
const PIECE = 8 * 1024 * 1024;

export async function roadsIn({ files = 40, rounds = 3, log }) {
  const card = freshFolder('roads-card');
  log(`making ${files} files of 12 to 30 MB …`);
  const bytes = await heavyCard(card, files);
  return [await watch(log), await upload(card, bytes, rounds, log), await verify(card, bytes, rounds, log)];
}

/** Pictures of 24 megapixels come one after the other, as a body sends them: whole when they have their name. */
async function watch(log) {
  const shots = 24;
  const from = freshFolder('roads-shots');
  await pictures(from, shots);
  const root = freshFolder('roads-watched');
  const server = await startServer(freshFolder('roads-watch-data'), PORT);
  const took = [];
  try {
    for (const name of ['a', 'b'])
      await server.post('/volumes', { root: freshFolder(`roads-watch-${name}`), name, role: 'working' });
    await server.post('/watch', {
      ...{ name: 'Tether', root, on: true, types: ['jpeg'], below: false, out: '', settleSeconds: 0 },
      ...{ shootId: null, title: 'Tether', client: '', place: '', plan: null, template: null, album: null },
      after: 'keep',
    });
    for (const [n, file] of filesBelow(from).sort().entries()) {
      // Begun under a name that begins with a dot, as programs do that send.
      const part = path.join(root, `.${path.basename(file)}`);
      copyFileSync(file, part);
      const begun = performance.now();
      renameSync(part, path.join(root, path.basename(file)));
      for (;;) {
        const [shoot] = await server.get('/shoots');
        if (shoot && (await server.frames(shoot.id)).columns.id.length > n) break;
        if (performance.now() - begun > 60_000) throw new Error(`${path.basename(file)} did not come`);
        await new Promise((resolve) => setTimeout(resolve, 20));
      }
      took.push((performance.now() - begun) / 1000);
    }
  } finally {
    await server.stop();
  }
  const value = median(took);
  log(`  roads.watch ${value.toPrecision(3)} s, at most ${Math.max(...took).toPrecision(3)} s`);
  return {
    ...{ name: 'roads.watch', value: Number(value.toPrecision(3)), unit: 's', floor: WATCH },
    ...{
      ratio: Number((value / WATCH).toPrecision(3)),
      longest: Number(Math.max(...took).toPrecision(3)),
      shots,
    },
  };
}

const sizeOf = (file) => statSync(file).size;
const hashOf = async (file) => {
  const hash = createHash('sha256');
  for await (const part of createReadStream(file, { highWaterMark: 1024 * 1024 })) hash.update(part);
  return hash.digest('hex');
};

/** Each of these files, so many at one time. */
async function each(files, work) {
  const left = [...files].values();
  const lane = async () => {
    for (const file of left) await work(file);
  };
  await Promise.all(Array.from({ length: AT_ONCE }, lane));
}

async function upload(card, bytes, rounds, log) {
  const { Upload } = require('tus-js-client');
  const files = filesBelow(card).sort();
  const ours = async () => {
    const server = await startServer(freshFolder('roads-upload-data'), PORT);
    try {
      const { id } = await server.post('/uploads', { name: 'Bench' });
      dropCaches();
      return await seconds(() =>
        each(files, async (file) => {
          const sha256 = await hashOf(file);
          const url = await new Promise((resolve, reject) => {
            const sending = new Upload(createReadStream(file, { highWaterMark: 1024 * 1024 }), {
              endpoint: `${server.base}/api/uploads/streams`,
              headers: { 'x-arkiv': '1' },
              ...{ chunkSize: PIECE, retryDelays: [], uploadSize: sizeOf(file) },
              metadata: { upload: id, path: path.basename(file) },
              onSuccess: () => resolve(sending.url),
              onError: reject,
            });
            sending.start();
          });
          await server.post(`/uploads/${id}/files/${url.split('-').at(-1)}`, { sha256 });
        }),
      );
    } finally {
      await server.stop();
    }
  };
  const floor = async () => {
    const child = spawn(
      process.execPath,
      [path.join(ROOT, 'tools/bench/roads/putServer.mjs'), freshFolder('roads-put')],
      {
        stdio: ['ignore', 'pipe', 'inherit'],
      },
    );
    const port = await new Promise((resolve) => child.stdout.once('data', (text) => resolve(Number(text))));
    try {
      dropCaches();
      return await seconds(() =>
        each(files, async (file) => {
          const sha256 = await hashOf(file);
          const said = await put(port, file);
          if (said !== sha256) throw new Error(`${file} came as ${said}`);
        }),
      );
    } finally {
      child.kill();
    }
  };
  const times = await alternate(rounds, ours, floor);
  const figure = compare('roads.upload', 's', times.ours, times.floor, {
    ...{ limit: UPLOAD, files: files.length, megabytes: Math.round(bytes / 1e6) },
  });
  log(`  roads.upload ${figure.ratio} times ${figure.floor} s`);
  return figure;
}

const put = (port, file) =>
  new Promise((resolve, reject) => {
    const sending = ask(
      { port, method: 'PUT', path: `/${path.basename(file)}`, headers: { 'content-length': sizeOf(file) } },
      async (answer) => {
        let said = '';
        for await (const part of answer) said += part;
        resolve(said);
      },
    );
    sending.on('error', reject);
    createReadStream(file, { highWaterMark: 1024 * 1024 }).pipe(sending);
  });

const FLOOR = `
find "$DRIVE" -type f -name '*.jpg' -print0 | sort -z | while IFS= read -r -d '' f; do
  dd if="$f" iflag=direct bs=4M status=none | openssl dgst -sha256 -r
done > "$SUMS/floor"
`;

/** All copies of one drive, read again past the page cache. */
async function verify(card, bytes, rounds, log) {
  const data = freshFolder('roads-verify-data');
  const drive = freshFolder('roads-verify-a');
  const server = await startServer(data, PORT);
  try {
    const { jobId } = await server.post('/intakes', await prepareIntake(server, card, [drive]));
    await jobDone(server, jobId);
    // What an intake leaves to be made would take a part of the first round.
    await quiet(server);
    const ours = async () => {
      dropCaches();
      // While the floor ran, nobody here heard that an idle connection was closed.
      await new Promise((resolve) => setTimeout(resolve, 100));
      return seconds(async () => {
        const { jobId: id } = await server.post('/copies/verifications', {});
        await jobDone(server, id);
      });
    };
    const floor = () => {
      dropCaches();
      return shell(FLOOR, { DRIVE: drive, SUMS: freshFolder('sums') });
    };
    const times = await alternate(rounds, ours, floor);
    const figure = compare('roads.verify', 's', times.ours, times.floor, {
      ...{ limit: VERIFY, megabytes: Math.round(bytes / 1e6) },
    });
    log(`  roads.verify ${figure.ratio} times ${figure.floor} s`);
    return figure;
  } finally {
    await server.stop();
  }
}

/** Waits until the server has had nothing to do for three seconds: previews are made of what was taken in. */
async function quiet({ pid }) {
  // Ticks of the process and its threads so far (proc(5): fields 14 and 15).
  const ticks = () => {
    const fields = readFileSync(`/proc/${pid}/stat`, 'latin1').split(') ')[1].split(' ');
    return Number(fields[11]) + Number(fields[12]);
  };
  for (let still = 0; still < 3;) {
    const before = ticks();
    await new Promise((resolve) => setTimeout(resolve, 1000));
    still = ticks() - before < 5 ? still + 1 : 0;
  }
}
