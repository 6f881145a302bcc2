// What goes out, against plain tools that do the same work: finished files against the image library's own command, a zip against zip,
// sending against curl and OpenSSH's sftp with the same proof, a hand-off against cp with checksums and reading back.
import { execFileSync, spawn, spawnSync } from 'node:child_process';
import { mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
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
  prepareIntake,
  residentMegabytes,
  seconds,
  shell,
  startServer,
} from './lib.mjs';
import { heavyCard, pictures } from './material.mjs';

const require = createRequire(path.join(ROOT, 'apps/server/package.json'));
const { ulid } = require('ulid');

const SPEC = {
  ...{ name: 'Web', size: { by: 'long', pixels: 2000 }, format: 'jpeg', quality: 88, mostBytes: null },
  ...{
    space: 'srgb',
    sharpen: 'screen',
    watermark: null,
    pattern: '{number:4}',
    metadata: 'all',
    folders: 'none',
  },
};
const MARK = { text: 'Ockham & Daughters', place: 'bottom right', size: 25, strength: 60 };
const PORT = 4813;
/** Of the server that both sides send to. */
const [SSH, DAV] = [4814, 4815];

/** A server that has taken a card in, with all frames kept. */
async function archiveOf(card, data) {
  const server = await startServer(data, PORT);
  const request = await prepareIntake(server, card, [freshFolder('drive')]);
  await server.patch('/settings', { requiredCopies: 1 });
  const { jobId, shootId } = await server.post('/intakes', request);
  await jobDone(server, jobId);
  const { columns } = await server.frames(shootId);
  const [group, at] = [ulid(), Date.now()];
  await server.post('/marks', {
    operations: columns.id.map((subject) => ({
      ...{ id: ulid(), subject, kind: 'verdict', from: 'undecided', to: 'keep', at, group, window: 'bench' },
    })),
  });
  const [volume] = await server.get('/volumes');
  // What is made beside finished files is made before they are measured.
  await Promise.all(
    columns.picture.map((key) => fetch(`${server.base}/api/previews/v4/${key}/screen`).catch(() => null)),
  );
  return { server, shootId, volumeId: volume.id };
}

export async function deliver({ files = 24, rounds = 3, log }) {
  const results = [];
  results.push(...(await finished({ files, rounds, log })));
  results.push(...(await onTheWay({ rounds, log })));
  return results;
}

async function finished({ files, rounds, log }) {
  const card = freshFolder('card');
  log(`making ${files} pictures of 24 megapixels …`);
  await pictures(card, files);
  const { server, shootId, volumeId } = await archiveOf(card, freshFolder('data'));
  let made = 0;
  let memory = { server: 0, all: 0 };
  const make = (specs) => async () => {
    made += 1;
    dropCaches();
    return seconds(async () => {
      const { jobId } = await server.post(`/shoots/${shootId}/deliveries`, {
        ...{ name: `Set ${made}`, volumeId, specs },
      });
      await jobDone(server, jobId, () => {
        const now = residentMegabytes(server.pid);
        memory = { server: Math.max(memory.server, now.server), all: Math.max(memory.all, now.all) };
      });
    });
  };
  const floor = () => {
    const out = freshFolder('floor');
    dropCaches();
    // The library's own command takes one file after the other with as many threads as it likes.
    return shell('vipsthumbnail "$CARD"/DCIM/100OCKHM/*.JPG --size 2000x2000 -o "$OUT/%s.jpg[Q=88]"', {
      ...{ CARD: card, OUT: out },
    });
  };
  try {
    const plain = await alternate(rounds, make([SPEC]), floor);
    const marked = await alternate(rounds, make([{ ...SPEC, watermark: MARK }]), floor);
    const three = [
      SPEC,
      { ...SPEC, name: 'Small', size: { by: 'long', pixels: 1080 } },
      { ...SPEC, name: 'Contact', size: { by: 'long', pixels: 640 } },
    ];
    const several = await alternate(rounds, make(three), make([SPEC]));
    const more = { files };
    return [
      compare('deliver.export', 's', plain.ours, plain.floor, { limit: 0.8, ...more }),
      compare('deliver.export.marked', 's', marked.ours, marked.floor, { limit: 0.95, ...more }),
      compare('deliver.export.three', 's', several.ours, several.floor, { limit: 1.5, ...more }),
      {
        name: 'deliver.memory',
        value: Math.round(memory.server),
        unit: 'MB',
        floor: 500,
        ratio: Number((memory.server / 500).toPrecision(3)),
        withChildren: Math.round(memory.all),
        ...more,
      },
    ];
  } finally {
    await server.stop();
  }
}

const HEAVY = 24;

async function onTheWay({ rounds, log }) {
  const card = freshFolder('card');
  log(`making ${HEAVY} files of 12 to 30 MB …`);
  const bytes = await heavyCard(card, HEAVY);
  const { server, shootId, volumeId } = await archiveOf(card, freshFolder('data'));
  const megabytes = Math.round(bytes / 1e6);
  try {
    const { jobId } = await server.post(`/shoots/${shootId}/deliveries`, {
      ...{
        name: 'Whole',
        volumeId,
        specs: [{ ...SPEC, size: { by: 'whole' }, format: 'asis', sharpen: 'none', metadata: 'none' }],
      },
    });
    await jobDone(server, jobId);
    const set = path.dirname(
      filesBelow(path.join(path.dirname(card), 'drive')).find((file) =>
        file.endsWith('/whole/manifest.sha256'),
      ),
    );
    return [
      await zipped(set, rounds, megabytes),
      await handed(server, shootId, rounds, set, megabytes),
      await uploaded('sftp', server, jobId, set, rounds, megabytes),
      await uploaded('webdav', server, jobId, set, rounds, megabytes),
    ];
  } finally {
    await server.stop();
  }
}

async function zipped(set, rounds, megabytes) {
  const { ZipMaker } = require('@arkiv/server/dist/delivery/zip.js');
  const { NodeDisk } = require('@arkiv/server/dist/disk/nodeDisk.js');
  const maker = new ZipMaker(new NodeDisk());
  const entries = filesBelow(set).map((file) => ({ file, name: path.basename(file), mtimeMillis: 0 }));
  const ours = async () => {
    const out = freshFolder('zip');
    dropCaches();
    return seconds(() => maker.make(path.join(out, 'set.zip'), entries, { job: 'bench', over: [] }));
  };
  const floor = () => {
    const out = freshFolder('zip-floor');
    dropCaches();
    return shell('cd "$SET" && zip -0 -q "$OUT/set.zip" * && sync "$OUT/set.zip"', { SET: set, OUT: out });
  };
  const times = await alternate(rounds, ours, floor);
  return compare('deliver.zip', 's', times.ours, times.floor, { limit: 0.7, megabytes });
}

async function handed(server, shootId, rounds, set, megabytes) {
  const place = freshFolder('edit');
  const { id: volumeId } = await server.post('/volumes', { root: place, name: 'edit', role: 'edit' });
  let n = 0;
  const ours = async () => {
    n += 1;
    dropCaches();
    return seconds(async () => {
      const { jobId } = await server.post(`/shoots/${shootId}/handoffs`, {
        volumeId,
        folder: `bench-${n}`,
        part: 'all',
      });
      await jobDone(server, jobId);
    });
  };
  const floor = () => {
    const out = freshFolder('handed-floor');
    dropCaches();
    return shell(
      `cp "$SET"/*.jpg "$OUT/"; sync
       for f in "$SET"/*.jpg; do openssl dgst -sha256 -r < "$f"; done | cut -c1-64 > "$OUT/../source.sums"
       for f in "$OUT"/*.jpg; do dd if="$f" iflag=direct bs=4M status=none | openssl dgst -sha256 -r; done | cut -c1-64 > "$OUT/../copy.sums"
       diff "$OUT/../source.sums" "$OUT/../copy.sums"`,
      { SET: set, OUT: out },
    );
  };
  const times = await alternate(rounds, ours, floor);
  return compare('handoff.copy', 's', times.ours, times.floor, { limit: 0.9, megabytes });
}

/** A server that both sides send to: OpenSSH's own, or the simulated one in a process of its own. */
async function serve(kind, home) {
  const place = freshFolder(`${kind}-server`);
  if (kind === 'sftp') {
    mkdirSync('/run/sshd', { recursive: true });
    for (const name of ['host', 'user'])
      execFileSync('ssh-keygen', ['-q', '-t', 'ed25519', '-N', '', '-f', path.join(place, name)]);
    writeFileSync(path.join(place, 'keys'), readFileSync(path.join(place, 'user.pub')), { mode: 0o600 });
    writeFileSync(
      path.join(place, 'config'),
      [
        ...[`Port ${SSH}`, 'ListenAddress 127.0.0.1', `HostKey ${path.join(place, 'host')}`],
        ...[
          `AuthorizedKeysFile ${path.join(place, 'keys')}`,
          'StrictModes no',
          'PermitRootLogin yes',
          'UsePAM no',
        ],
        ...['Subsystem sftp internal-sftp', `PidFile ${path.join(place, 'pid')}`],
      ].join('\n'),
    );
    const child = spawn('/usr/sbin/sshd', ['-D', '-f', path.join(place, 'config')], { stdio: 'ignore' });
    await listens(SSH);
    const privateKey = readFileSync(path.join(place, 'user'), 'utf8');
    return { stop: () => child.kill(), privateKey, key: path.join(place, 'user') };
  }
  const script = `
    const { WebdavStandIn } = require(${JSON.stringify(require.resolve('@arkiv/server/dist/standins/servers/webdavStandIn.js'))});
    const { NodeDisk } = require(${JSON.stringify(require.resolve('@arkiv/server/dist/disk/nodeDisk.js'))});
    new WebdavStandIn(new NodeDisk(), ${JSON.stringify(home)}).listen(${DAV});`;
  const child = spawn(process.execPath, ['-e', script], { stdio: 'ignore' });
  await listens(DAV);
  return { stop: () => child.kill() };
}

async function listens(port) {
  for (let i = 0; i < 100; i++) {
    if (spawnSync('bash', ['-c', `exec 3<>/dev/tcp/127.0.0.1/${port}`]).status === 0) return;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  throw new Error(`nothing listens at ${port}`);
}

async function uploaded(kind, server, delivery, set, rounds, megabytes) {
  const home = freshFolder(`${kind}-home`);
  const { stop, privateKey, key } = await serve(kind, home);
  const user = kind === 'sftp' ? execFileSync('id', ['-un'], { encoding: 'utf8' }).trim() : 'studio';
  const NOWHERE = { path: '', url: '', host: '', port: 22, user, carried: false };
  const reach =
    kind === 'sftp'
      ? { ...NOWHERE, host: '127.0.0.1', port: SSH, path: home }
      : { ...NOWHERE, url: `http://127.0.0.1:${DAV}/` };
  const opens = kind === 'sftp' ? { privateKey } : { password: 'stand-in' };
  const { id } = await server.post('/destinations', { name: kind, kind, reach, ...opens });
  const { trusts } = await server.post(`/destinations/${id}/check`);
  if (trusts) await server.put(`/destinations/${id}`, { name: kind, kind, reach, trust: trusts });
  const empty = () => {
    for (const name of readdirSync(home)) rmSync(path.join(home, name), { recursive: true });
  };
  const ours = async () => {
    empty();
    dropCaches();
    return seconds(async () => {
      const { jobId } = await server.post(`/deliveries/${delivery}/send`, {
        ...{ destinationId: id, part: 'folder', frameIds: null },
      });
      await jobDone(server, jobId);
    });
  };
  // Each file goes there, comes back, and is compared; one after the other over a connection, as their commands do.
  const FLOORS = {
    sftp: `sftp -q -P ${SSH} -i "$KEY" -o StrictHostKeyChecking=no -o UserKnownHostsFile=/dev/null -b <(echo "put $SET/* $HOME_THERE/"; echo "get $HOME_THERE/* $BACK/") "$WHO@127.0.0.1" > /dev/null
      diff <(cd "$SET" && openssl dgst -sha256 -r *) <(cd "$BACK" && openssl dgst -sha256 -r *)`,
    webdav: `for f in "$SET"/*; do curl -sSf -u studio:stand-in -T "$f" "http://127.0.0.1:${DAV}/" ; done
      for f in "$SET"/*; do curl -sSf -u studio:stand-in "http://127.0.0.1:${DAV}/$(basename "$f")" | openssl dgst -sha256 -r; done | cut -c1-64 > "$BACK/../back.sums"
      diff <(cd "$SET" && openssl dgst -sha256 -r * | cut -c1-64) "$BACK/../back.sums"`,
  };
  const floor = () => {
    empty();
    const back = freshFolder('back');
    dropCaches();
    return shell(FLOORS[kind], { SET: set, KEY: key ?? '', HOME_THERE: home, BACK: back, WHO: user });
  };
  try {
    const times = await alternate(rounds, ours, floor);
    return compare(`deliver.upload.${kind}`, 's', times.ours, times.floor, { limit: 1.3, megabytes });
  } finally {
    stop();
  }
}
