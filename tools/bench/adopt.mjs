// A tree of pictures that is adopted where it lies, against a bare walk with the same reader of facts; and what somebody who works in the
// interface meanwhile notices of it. `--files N`: small JPEGs with Exif, each of its own.
import { existsSync, mkdirSync, readdirSync, rmSync, utimesSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import path from 'node:path';
import { ROOT } from '../bootstrap.mjs';
import { dropCaches, freshFolder, jobDone, PLACE, seconds, startServer } from './lib.mjs';

const PORT = 4819;
/** Times the floor: each file is hashed at both its ends and written to the database beside what the floor does. */
const LIMIT = 2;
/** Pictures of one folder, and folders of one year. */
const IN_FOLDER = 400;

export async function adopt({ files = 20_000, log }) {
  const tree = await treeOf(files, log);
  const floor = await seconds(() => bareWalk(tree, files));
  log(`  a bare walk with the reader of facts: ${floor.toFixed(1)} s`);
  const data = freshFolder('roads-adopt-data');
  dropCaches();
  const server = await startServer(data, PORT);
  const waits = [];
  try {
    let first = 0;
    let asking = true;
    const took = await seconds(async () => {
      const begun = performance.now();
      await server.post('/adopted', { path: tree, rule: 'each', sidecars: false });
      first = performance.now() - begun;
      // Whoever looks at the Desk meanwhile.
      const asks = (async () => {
        while (asking) {
          const at = performance.now();
          await server.get('/shoots');
          waits.push(performance.now() - at);
          await new Promise((resolve) => setTimeout(resolve, 100));
        }
      })();
      let job;
      while (!job) {
        job = (await server.get('/jobs')).find(({ kind }) => kind === 'adopt');
        await new Promise((resolve) => setTimeout(resolve, 50));
      }
      await jobDone(server, job.id);
      asking = false;
      await asks;
    });
    const [{ frames, shoots }] = await server.get('/adopted');
    if (frames !== files) throw new Error(`${frames} of ${files} frames were adopted`);
    waits.sort((a, b) => a - b);
    process.stderr.write(`  roads.adopt ${(took / floor).toPrecision(3)} times ${floor.toPrecision(3)} s\n`);
    return [
      {
        ...{
          name: 'roads.adopt',
          value: Number(took.toPrecision(3)),
          unit: 's',
          floor: Number(floor.toPrecision(3)),
        },
        ...{ ratio: Number((took / floor).toPrecision(3)), limit: LIMIT, frames, shoots },
        ...{ first: Math.round(first), desk: Math.round(waits[Math.floor(waits.length * 0.95)] ?? 0) },
      },
    ];
  } finally {
    await server.stop();
  }
}

/** Lists all folders, looks at each file and reads its facts: as many at once as the archive does. */
async function bareWalk(tree, files) {
  const require = createRequire(path.join(ROOT, 'apps/server/package.json'));
  require('reflect-metadata');
  const { Parser } = require('@arkiv/server/dist/metadata/parser.js');
  const { NodeDisk } = require('@arkiv/server/dist/disk/nodeDisk.js');
  const { factsFromTags } = require('@arkiv/core');
  const disk = new NodeDisk();
  const parser = new Parser();
  let read = 0;
  dropCaches();
  for (const folder of readdirSync(tree)) {
    const place = path.join(tree, folder);
    const names = (await disk.names(place)).map(String).values();
    const lane = async () => {
      for (const name of names) {
        const file = path.join(place, name);
        const facts = await disk.facts(file);
        const said = factsFromTags(await parser.tags(await disk.readPart(file, 0, 64 * 1024)));
        if (facts?.kind === 'file' && said.capture) read += 1;
      }
    };
    await Promise.all(Array.from({ length: 4 }, lane));
  }
  await parser.onApplicationShutdown();
  if (read !== files) throw new Error(`the floor read ${read} of ${files} files`);
}

/** The tree, made once. */
async function treeOf(files, log) {
  const root = path.join(PLACE, `roads-tree-${files}`);
  const tree = path.join(root, 'Pictures');
  if (existsSync(path.join(root, 'whole'))) {
    rmSync(path.join(root, '.arkiv-volume.json'), { force: true });
    rmSync(path.join(root, '.arkiv-archive'), { recursive: true, force: true });
    return tree;
  }
  log(`a tree of ${files} pictures is made …`);
  const sharp = createRequire(path.join(ROOT, 'apps/server/package.json'))('sharp');
  const { data, info } = await sharp(path.join(ROOT, 'tools/demo/plates/bowl-1.jpg'))
    .resize(320)
    .raw()
    .toBuffer({ resolveWithObject: true });
  for (let n = 0; n < files; n++) {
    const folder = path.join(
      tree,
      `2019-${String(1 + (Math.floor(n / IN_FOLDER) % 12)).padStart(2, '0')} part ${Math.floor(n / IN_FOLDER)}`,
    );
    if (n % IN_FOLDER === 0) mkdirSync(folder, { recursive: true });
    const at = new Date(Date.UTC(2019, 0, 1) + n * 61_000).toISOString();
    const bytes = await sharp(data, { raw: info })
      .jpeg({ quality: 80 })
      .withExif({
        IFD0: { Make: 'Ockham', Model: 'One' },
        IFD2: { DateTimeOriginal: `${at.slice(0, 10).replaceAll('-', ':')} ${at.slice(11, 19)}` },
      })
      .toBuffer();
    const file = path.join(folder, `OCK_${String(n % 10_000).padStart(4, '0')}.jpg`);
    writeFileSync(file, bytes);
    utimesSync(file, 1.6e9, 1.6e9);
  }
  writeFileSync(path.join(root, 'whole'), '');
  return tree;
}
