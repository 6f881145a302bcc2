// Verified intake against the shell doing the same: two copies, flushed, the source and both copies hashed, the copies
// read back past the page cache.
import { readFileSync } from 'node:fs';
import path from 'node:path';
import {
  alternate,
  compare,
  dropCaches,
  filesBelow,
  freshFolder,
  jobDone,
  prepareIntake,
  residentMegabytes,
  seconds,
  shell,
  startServer,
} from './lib.mjs';
import { heavyCard, sha256 } from './material.mjs';

const FLOOR = `
cp -r "$CARD/." "$A"; cp -r "$CARD/." "$B"; sync
find "$CARD" -type f -print0 | sort -z | xargs -0 openssl dgst -sha256 -r > "$SUMS/source"
for copy in "$A" "$B"; do
  find "$copy" -type f -print0 | sort -z | while IFS= read -r -d '' f; do
    dd if="$f" iflag=direct bs=4M status=none | openssl dgst -sha256 -r
  done > "$SUMS/$(basename "$copy")"
done
diff <(cut -d' ' -f1 "$SUMS/source") <(cut -d' ' -f1 "$SUMS/floor-a")
diff <(cut -d' ' -f1 "$SUMS/source") <(cut -d' ' -f1 "$SUMS/floor-b")
`;

export async function intake({ files = 200, rounds = 5, log }) {
  const card = freshFolder('card');
  log(`making ${files} files of 12 to 30 MB …`);
  const bytes = await heavyCard(card, files);
  const cold = dropCaches();
  let memory = { server: 0, all: 0 };
  const ours = async (round) => {
    const data = freshFolder('data');
    const drives = [freshFolder('ours-a'), freshFolder('ours-b')];
    const server = await startServer(data, 4811);
    try {
      const request = await prepareIntake(server, card, drives);
      dropCaches();
      const time = await seconds(async () => {
        const { jobId } = await server.post('/intakes', request);
        await jobDone(server, jobId, () => {
          const now = residentMegabytes(server.pid);
          memory = { server: Math.max(memory.server, now.server), all: Math.max(memory.all, now.all) };
        });
      });
      if (round === 0) proveCopies(card, drives);
      return time;
    } finally {
      await server.stop();
    }
  };
  const floor = () => {
    const env = {
      CARD: card,
      A: freshFolder('floor-a'),
      B: freshFolder('floor-b'),
      SUMS: freshFolder('sums'),
    };
    dropCaches();
    return shell(FLOOR, env);
  };
  const times = await alternate(rounds, ours, floor);
  const mega = (list) => list.map((time) => bytes / 1e6 / time);
  return [
    compare('intake.verified', 's', times.ours, times.floor, {
      files,
      megabytes: Math.round(bytes / 1e6),
      megabytesPerSecond: Math.round(mega(times.ours).sort((a, b) => a - b)[Math.floor(rounds / 2)]),
      caches: cold ? 'dropped' : 'warm',
    }),
    {
      name: 'intake.memory',
      value: Math.round(memory.server),
      unit: 'MB',
      floor: 400, // the limit that was set for a computer of 8 GB that edits pictures meanwhile
      ratio: Number((memory.server / 400).toPrecision(3)),
      withChildren: Math.round(memory.all),
    },
  ];
}

/** What was timed did happen: every file of the card lies on both drives, byte for byte. */
function proveCopies(card, drives) {
  const wanted = filesBelow(card).map((file) => sha256(readFileSync(file)));
  for (const drive of drives) {
    const there = new Set(
      filesBelow(drive)
        .filter((file) => path.extname(file) === '.jpg')
        .map((file) => sha256(readFileSync(file))),
    );
    if (!wanted.every((sum) => there.has(sum))) throw new Error(`not every file reached ${drive}`);
  }
}
