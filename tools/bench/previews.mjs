// Screen previews through the server against the picture library's own command-line tool on the same files.
import { rmSync, statSync } from 'node:fs';
import path from 'node:path';
import sharp from 'sharp';
import {
  alternate,
  bytesOf,
  compare,
  dropCaches,
  filesBelow,
  freshFolder,
  jobDone,
  prepareIntake,
  seconds,
  shell,
  startServer,
} from './lib.mjs';
import { pictures } from './material.mjs';

const SIDE = 2560;
/** Two at a time with one thread each was the tool's best on two cores. */
const FLOOR = `find "$CARD" -name '*.JPG' -print0 | xargs -0 -P2 -n1 vipsthumbnail -s ${SIDE}x${SIDE} -o "$OUT/%s.jpg[Q=80]"`;

export async function previews({ files = 24, rounds = 5, log }) {
  const card = freshFolder('card');
  log(`making ${files} pictures of 24 megapixels …`);
  await pictures(card, files);
  const data = freshFolder('data');
  const server = await startServer(data, 4812);
  try {
    const request = await prepareIntake(server, card, [freshFolder('ours-a'), freshFolder('ours-b')]);
    const { jobId, shootId } = await server.post('/intakes', request);
    await jobDone(server, jobId);
    const { columns } = await server.frames(shootId);
    const kept = path.join(data, 'previews');
    const all = async () => {
      const left = [...columns.picture];
      const lane = async () => {
        for (let sum = left.shift(); sum; sum = left.shift()) {
          await bytesOf(`${server.base}/api/previews/v4/${sum}/screen`);
        }
      };
      await Promise.all([lane(), lane(), lane()]);
    };
    // The background's own round is over before anything is timed.
    await all();
    const ours = async () => {
      rmSync(kept, { recursive: true, force: true });
      dropCaches();
      return seconds(all);
    };
    const out = freshFolder('floor-a');
    const floor = () => {
      dropCaches();
      return shell(FLOOR, { CARD: card, OUT: out, VIPS_CONCURRENCY: '1' });
    };
    const times = await alternate(rounds, ours, floor);
    await sameSize(kept, out);
    const each = (list) => list.map((time) => (time * 1000) / files);
    return [compare('previews.screen', 'ms a frame', each(times.ours), each(times.floor), { files })];
  } finally {
    await server.stop();
  }
}

/** Both sides made pictures of the same size, and ours are no emptier than theirs. */
async function sameSize(kept, out) {
  const ours = filesBelow(kept).filter((file) => file.endsWith('.screen.jpg'));
  const theirs = filesBelow(out);
  const [a, b] = [await sharp(ours[0]).metadata(), await sharp(theirs[0]).metadata()];
  if (a.width !== b.width || a.height !== b.height)
    throw new Error(`previews differ in size: ${a.width} × ${a.height} and ${b.width} × ${b.height}`);
  const weight = (list) => list.reduce((sum, file) => sum + statSync(file).size, 0);
  if (weight(ours) < weight(theirs) * 0.7) throw new Error('our previews hold much less than the floor’s');
}
