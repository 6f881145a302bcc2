// `npm run bench [-- group] [--json] [--files N] [--rounds N] [--frames N]`: measures this program against plain tools that do the
// same work, side by side in one run. Groups: intake (with card), card, previews, cull, scale, find, describe, deliver, roads (with adopt and roads-in). A ratio is our time divided by the floor's.
import { existsSync, rmSync } from 'node:fs';
import { ensureBuilt, ensureChromium, ensureInstalled, ensureTools } from './bootstrap.mjs';

const args = process.argv.slice(2);
const json = args.includes('--json');
const option = (name) => {
  if (!args.includes(name)) return undefined;
  const n = Number(args[args.indexOf(name) + 1]);
  if (!Number.isInteger(n) || n < 1) {
    console.error(`${name} needs a whole number above 0, found “${args[args.indexOf(name) + 1] ?? ''}”.`);
    process.exit(1);
  }
  return n;
};
const pairs = args.includes('--pairs') ? args[args.indexOf('--pairs') + 1] : undefined;
if (args.includes('--pairs') && !existsSync(pairs ?? '')) {
  console.error(
    `--pairs needs a file of pairs (path, path, 1 or 0, parted by tabs), found “${pairs ?? ''}”.`,
  );
  process.exit(1);
}
const settings = {
  ...{ files: option('--files'), rounds: option('--rounds'), frames: option('--frames') },
  pairs,
};
await ensureInstalled();
await ensureBuilt();
const groups = {
  intake: async () => {
    const { intake } = await import('./bench/intake.mjs');
    const { card } = await import('./bench/card.mjs');
    // The card's own size is fixed by what it is measured for.
    return async (asked) => [...(await card({ ...asked, files: undefined })), ...(await intake(asked))];
  },
  card: () => import('./bench/card.mjs').then((m) => m.card),
  previews: () => import('./bench/previews.mjs').then((m) => m.previews),
  cull: async () => {
    const { cull } = await import('./bench/cull.mjs');
    const { cullJob } = await import('./bench/cullJob.mjs');
    const { cullMany } = await import('./bench/cullMany.mjs');
    return async (asked) => [...(await cull(asked)), ...(await cullJob(asked)), ...(await cullMany(asked))];
  },
  scale: () => import('./bench/scale.mjs').then((m) => m.scale),
  find: () => import('./bench/find.mjs').then((m) => m.find),
  describe: () => import('./bench/describe.mjs').then((m) => m.describe),
  deliver: async () => {
    const { deliver } = await import('./bench/deliver.mjs');
    const { gallery } = await import('./bench/gallery.mjs');
    return async (asked) => [...(await deliver(asked)), ...(await gallery({ ...asked, rounds: undefined }))];
  },
  gallery: () => import('./bench/gallery.mjs').then((m) => m.gallery),
  roads: async () => {
    const { adopt } = await import('./bench/adopt.mjs');
    const { roads } = await import('./bench/roads.mjs');
    const { roadsIn } = await import('./bench/roadsIn.mjs');
    // The number of files is that of small ones that are adopted.
    return async (asked) => [
      ...(await adopt(asked)),
      ...(await roadsIn({ ...asked, files: undefined })),
      ...(await roads(asked)),
    ];
  },
  'roads-in': () => import('./bench/roadsIn.mjs').then((m) => m.roadsIn),
  adopt: () => import('./bench/adopt.mjs').then((m) => m.adopt),
  takes: async () => {
    const { takes } = await import('./bench/takes.mjs');
    const { takesSpeed } = await import('./bench/takesSpeed.mjs');
    const { soft } = await import('./bench/soft.mjs');
    const { clocks } = await import('./bench/clocks.mjs');
    return async (asked) =>
      asked.pairs
        ? takes(asked)
        : [
            ...(await takes(asked)),
            ...(await soft(asked)),
            ...(await clocks(asked)),
            ...(await takesSpeed(asked)),
          ];
  },
};
const named = args.filter(
  (arg, i) => !arg.startsWith('--') && !['--files', '--rounds', '--frames', '--pairs'].includes(args[i - 1]),
);
// Without a name each is measured once: the card's figures belong to intake, and a large archive is asked for by name.
const wanted =
  named.length > 0
    ? named
    : Object.keys(groups).filter(
        (name) =>
          ![
            'card',
            'scale',
            'takes',
            'find',
            'describe',
            'deliver',
            'gallery',
            'roads',
            'roads-in',
            'adopt',
          ].includes(name),
      );
const unknown = wanted.find((name) => !groups[name]);
if (unknown) {
  console.error(`There is no group “${unknown}”: choose one of ${Object.keys(groups).join(', ')}.`);
  process.exit(1);
}
if (
  !(await ensureTools(
    { vipsthumbnail: 'libvips-tools', openssl: 'openssl', exiftool: 'libimage-exiftool-perl' },
    'the bench',
  ))
)
  process.exit(1);
if (['cull', 'deliver', 'gallery'].some((name) => wanted.includes(name)) && !(await ensureChromium()))
  process.exit(1);
if (wanted.includes('takes') && !(await ensureTools({ ffmpeg: 'ffmpeg' }, 'the bench'))) process.exit(1);

if (
  wanted.includes('deliver') &&
  !(await ensureTools(
    {
      zip: 'zip',
      curl: 'curl',
      sftp: 'openssh-client',
      'ssh-keygen': 'openssh-client',
      sshd: 'openssh-server',
    },
    'the bench',
  ))
)
  process.exit(1);

const { PLACE, machineLoop } = await import('./bench/lib.mjs');
const log = (text) => process.stderr.write(`${text}\n`);
const results = [];
// Limits in milliseconds are read beside it: the same machine takes several times as long when others share it.
const before = machineLoop();
log(`machine.loop ${before} ms`);
try {
  for (const name of wanted) {
    log(`— ${name}`);
    for (const result of await (
      await groups[name]()
    )({ ...settings, log })) {
      results.push(result);
      if (json) console.log(JSON.stringify(result));
    }
  }
  const machine = { name: 'machine.loop', value: machineLoop(), unit: 'ms', before };
  log(`machine.loop ${machine.value} ms, before ${before}`);
  if (json) console.log(JSON.stringify(machine));
} finally {
  rmSync(PLACE, { recursive: true, force: true });
}
if (!json) {
  const cells = results.map(({ name, value, unit, floor, ratio, spread, ...more }) => [
    name,
    `${value} ${unit}`,
    String(floor),
    String(ratio),
    spread ? `${spread[0]}–${spread[1]}` : '',
    Object.entries(more)
      .map(([key, said]) => `${key} ${said}`)
      .join(', '),
  ]);
  const table = [['name', 'ours', 'floor', 'ratio', 'spread of ratios', 'of'], ...cells];
  const widths = table[0].map((_, i) => Math.max(...table.map((row) => row[i].length)));
  for (const row of table)
    console.log(
      row
        .map((cell, i) => cell.padEnd(widths[i]))
        .join('  ')
        .trimEnd(),
    );
}
